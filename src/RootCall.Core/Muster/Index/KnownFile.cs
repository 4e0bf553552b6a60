using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Pixels;

namespace RootCall.Core.Muster;

/// <summary>What tells one state of a file from another without reading it.</summary>
public readonly record struct FileStamp(long Bytes, DateTime ModifiedUtc);

/// <summary>One state of a file: what was found out about it is no longer true when it was written over.</summary>
/// <param name="Path">Absolute.</param>
public readonly record struct FileState(string Path, FileStamp Stamp);

/// <summary>What was found out about one state of a file; parts that nobody asked for are null.</summary>
/// <param name="Hash">SHA-256 of the contents in lower-case hex.</param>
/// <param name="Look">64 bits that stay alike when a picture is scaled or encoded anew (<see cref="PictureLook"/>).</param>
/// <param name="Pixels">Statistics of its values.</param>
/// <param name="Undecoded">Why it was not decoded; looked at once, since trying again would cost the same.</param>
public sealed record KnownFile(
    string Path,
    FileStamp Stamp,
    ProbeResult? Probe = null,
    string? Hash = null,
    ulong? Look = null,
    PixelStats? Pixels = null,
    Undecoded? Undecoded = null
)
{
    /// <summary>It was decoded, or cannot be.</summary>
    internal bool IsSettled => Undecoded is not null || (Look is not null && Pixels is not null);

    /// <summary>A fingerprint of the first, middle and last bytes: files that differ in it differ.</summary>
    internal UInt128? Sample { get; init; }

    /// <summary>What is not known here as another knows it of the same state.</summary>
    internal KnownFile With(KnownFile other) =>
        this with
        {
            Probe = Probe ?? other.Probe,
            Hash = Hash ?? other.Hash,
            Look = Look ?? other.Look,
            Pixels = Pixels ?? other.Pixels,
            Undecoded = Undecoded ?? other.Undecoded,
        };
}
