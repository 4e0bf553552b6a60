namespace RootCall.Core.SendOff;

/// <summary>Pictures that a proof leaves.</summary>
public enum PackagePicture
{
    Before,
    After,
    Difference,
}

public static class PackagePictures
{
    /// <summary>Where a picture lies.</summary>
    /// <param name="folder">That the package lies in.</param>
    public static string Place(string folder, PackagePicture picture) =>
        Path.Combine(folder, "proof", $"{picture.ToString().ToLowerInvariant()}.png");
}
