namespace RootCall.Core.Imaging;

/// <summary>Decodes an image into a small picture to look at.</summary>
public interface IThumbnailMaker
{
    /// <summary>Writes a PNG of at most <paramref name="side"/> pixels along its longer side.</summary>
    /// <param name="path">Absolute path of the image.</param>
    /// <param name="output">Absolute path of the PNG; an existing file is written over.</param>
    /// <exception cref="Files.CannotUseException">The image does not decode; the message says why.</exception>
    void Make(string path, string output, int side);
}
