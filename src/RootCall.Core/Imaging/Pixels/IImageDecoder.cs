namespace RootCall.Core.Imaging.Pixels;

/// <summary>Decodes images. An image that costs too much, or breaks its decoder, costs the caller one sentence.</summary>
public interface IImageDecoder
{
    /// <summary>One pass over an image for all that is kept of it.</summary>
    /// <param name="path">Absolute path of the image.</param>
    /// <param name="side">Most pixels of the picture along its longer side, up to 1,024.</param>
    /// <exception cref="UndecodedException">It was not decoded; the fault and the sentence say why.</exception>
    ReducedImage Reduce(string path, int side, CancellationToken stop = default);

    /// <summary>All channels at full depth, from top to bottom, some rows at a time.</summary>
    /// <param name="take">Is handed strip after strip; what it is handed is used again for the next.</param>
    /// <exception cref="UndecodedException">It was not decoded to its end; the fault and the sentence say why.</exception>
    void Read(string path, Action<PixelRows> take, CancellationToken stop = default);
}

/// <summary>What is kept of an image.</summary>
/// <param name="Picture">A PNG to look at, as a display shows it. Each of its pixels is the mean of those it stands for.</param>
/// <param name="Tiny">
/// The image as <see cref="ReducedImage.TinyWidth"/> x <see cref="ReducedImage.TinyHeight"/> means, to be known by.
/// </param>
/// <param name="Sample">Values of the image on an even grid, unfiltered.</param>
public sealed record ReducedImage(byte[] Picture, PixelSample Tiny, PixelSample Sample)
{
    public const int TinyWidth = 9;
    public const int TinyHeight = 8;
}

/// <summary>Pixels of an image.</summary>
/// <param name="Channels">1 to 4: grey; grey and alpha; red, green, blue; with alpha.</param>
/// <param name="Values">
/// Row by row, channels together; 0 to 1 for integer formats, as stored for floating point; alpha not premultiplied.
/// </param>
public sealed record PixelSample(int Width, int Height, int Channels, float[] Values);

/// <summary>Some rows of an image: all its channels in the file's order, values scaled as in <see cref="PixelSample"/>.</summary>
public readonly ref struct PixelRows(int width, int height, int channels, int first, ReadOnlySpan<float> values)
{
    public int Width { get; } = width;

    /// <summary>Rows of the whole image.</summary>
    public int Height { get; } = height;

    public int Channels { get; } = channels;

    /// <summary>The first row, from 0 at the top.</summary>
    public int First { get; } = first;

    /// <summary>Row by row, channels together.</summary>
    public ReadOnlySpan<float> Values { get; } = values;

    /// <summary>How many rows these are.</summary>
    public int Count => Values.Length / (Width * Channels);
}
