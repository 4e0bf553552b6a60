using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Rendering.Colour;

namespace RootCall.Core.Viewing;

/// <summary>The pictures that a pair of frames leaves.</summary>
public enum FramePicture
{
    Before,
    After,
    Difference,
}

/// <summary>Two frames of one scene, drawn with the same samples, so that what differs is the scene.</summary>
public sealed record FramePair(TestFrame Before, TestFrame After)
{
    public LookDifference Difference => After.Difference(Before);

    /// <summary>Where a picture of a pair lies.</summary>
    /// <param name="folder">Of the pair alone.</param>
    public static string Place(string folder, FramePicture picture) => Path.Combine(folder, $"{picture.ToString().ToLowerInvariant()}.png");

    /// <summary>Writes the three pictures.</summary>
    public void Keep(string folder, HouseColours? house)
    {
        Directory.CreateDirectory(folder);
        WholeOrNothing.Cached(Place(folder, FramePicture.Before), Before.Png(house));
        WholeOrNothing.Cached(Place(folder, FramePicture.After), After.Png(house));
        WholeOrNothing.Cached(Place(folder, FramePicture.Difference), After.DifferencePng(Before));
    }
}
