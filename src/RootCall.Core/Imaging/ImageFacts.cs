namespace RootCall.Core.Imaging;

public enum ImageFormat
{
    Png,
    Jpeg,
    Tga,
    Tiff,
    Bmp,
    WebP,
    OpenExr,
    RadianceHdr,
    Dds,
    Ktx2,
}

/// <summary>What an image's header says.</summary>
/// <param name="Width">Pixels.</param>
/// <param name="Height">Pixels.</param>
/// <param name="Channels">1 to 4 for most; more for layered OpenEXR.</param>
/// <param name="BitDepth">Bits per channel of the stored values; of the decoded ones for block-compressed textures.</param>
/// <param name="IsFloat">Values are floating point.</param>
/// <param name="HasAlpha">One of the channels is an alpha.</param>
/// <param name="Colour">
/// The colour tag as the file words it, for example <c>sRGB</c>, <c>gamma 2.2</c>, <c>ICC profile</c>; null when there
/// is none.
/// </param>
public sealed record ImageFacts(
    ImageFormat Format,
    int Width,
    int Height,
    int Channels,
    int BitDepth,
    bool IsFloat = false,
    bool HasAlpha = false,
    string? Colour = null
);

/// <summary>The outcome of looking at a file: facts, or what is wrong with it, or neither for a format that is not probed.</summary>
/// <param name="Facts">Present as far as the header could be read, also for damaged files.</param>
/// <param name="Damage">Why the file will not read, in words; null when nothing is wrong.</param>
public sealed record ProbeResult(ImageFacts? Facts, string? Damage);
