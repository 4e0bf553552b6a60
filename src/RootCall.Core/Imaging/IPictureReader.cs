namespace RootCall.Core.Imaging;

/// <summary>Decodes a picture for what can only be told from its pixels.</summary>
public interface IPictureReader
{
    /// <summary>
    /// A difference hash: the picture as 9 x 8 greys, a bit for each pixel that is brighter than its right neighbour, row by row
    /// from the lowest bit. Pictures that look alike differ in few of its 64 bits.
    /// </summary>
    /// <param name="path">Absolute path of the image.</param>
    /// <returns>Null when the image does not decode.</returns>
    ulong? Look(string path);

    /// <summary>Pixels of a picture on an even grid, unfiltered, so that their values are values of the picture.</summary>
    /// <param name="path">Absolute path of the image.</param>
    /// <param name="side">Most samples across and down.</param>
    /// <returns>Null when the image does not decode.</returns>
    PixelSample? Sample(string path, int side) => null;
}

/// <summary>Sampled pixels.</summary>
/// <param name="Channels">1 to 4: grey; grey and alpha; red, green, blue; with alpha.</param>
/// <param name="Values">Stored values row by row, channels together; 0 to 1 for integer formats.</param>
public sealed record PixelSample(int Width, int Height, int Channels, float[] Values);
