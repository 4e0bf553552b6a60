namespace RootCall.Core.Shading;

/// <summary>Where the green of a tangent-space normal map points.</summary>
public enum NormalConvention
{
    /// <summary>Up the image, as glTF 2.0 and UsdPreviewSurface have it.</summary>
    YUp,
    YDown,
}

public static class NormalConventions
{
    public static string Word(this NormalConvention convention) => convention == NormalConvention.YUp ? "y-up" : "y-down";
}
