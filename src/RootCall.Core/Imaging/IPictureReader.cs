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
}
