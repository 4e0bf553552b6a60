namespace RootCall.Core.Imaging.Pixels;

/// <summary>Why an image was not decoded.</summary>
public enum DecodeFault
{
    /// <summary>It is no image, or one of a kind that the decoder does not know.</summary>
    Unsupported,

    /// <summary>It began to decode, and what came then is broken.</summary>
    Damaged,

    /// <summary>It is larger than is decoded.</summary>
    TooLarge,

    /// <summary>It took longer than is waited for.</summary>
    TooLong,

    /// <summary>It ended the decoder.</summary>
    EndedDecoder,

    /// <summary>No file of contents is there.</summary>
    NoFile,

    /// <summary>The decoder does not start: nothing is said of the image.</summary>
    NoDecoder,
}

/// <summary>Why an image was not decoded, and in a person's words, as in “the file …”.</summary>
public sealed record Undecoded(DecodeFault Fault, string Reason);

public sealed class UndecodedException(Undecoded undecoded) : Exception(undecoded.Reason)
{
    public Undecoded Undecoded { get; } = undecoded;
}
