namespace RootCall.Core.Imaging.Pixels;

/// <summary>Writes images, some rows at a time.</summary>
public interface IImageEncoder
{
    /// <param name="file">Takes the whole file at the end.</param>
    /// <param name="fill">Is asked for strip after strip, from the top.</param>
    /// <exception cref="UndecodedException">It cannot be encoded; the sentence says why.</exception>
    void Write(Stream file, ImageForm form, int width, int height, FillRows fill, CancellationToken stop = default);
}

/// <param name="Channels">1 to 4: grey; grey and alpha; red, green, blue; with alpha, not premultiplied.</param>
/// <param name="Bits">Of each channel: 8 or 16, a PNG; 32, an OpenEXR of floats.</param>
public readonly record struct ImageForm(int Channels, int Bits);

/// <summary>Gives rows of an image.</summary>
/// <param name="first">The first of them, from 0 at the top.</param>
/// <param name="values">Row by row, channels together; 0 to 1 for integers.</param>
public delegate void FillRows(int first, int rows, Memory<float> values);
