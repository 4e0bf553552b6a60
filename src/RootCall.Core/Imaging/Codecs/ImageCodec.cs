using System.Collections.Immutable;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>One image format: its names, what its files begin with, and what their headers say.</summary>
public abstract class ImageCodec
{
    public abstract ImageFormat Format { get; }

    /// <summary>For people.</summary>
    public abstract string Name { get; }

    /// <summary>Endings in lower case with their dot, the usual one first.</summary>
    public abstract ImmutableArray<string> Extensions { get; }

    /// <summary>As IANA has it, or as it is commonly written.</summary>
    public abstract string MediaType { get; }

    /// <summary>Whether glTF carries it inside (glTF 2.0, 5.16.3, and the extensions that add to it).</summary>
    public virtual GltfCarriage InGltf => GltfCarriage.None;

    /// <summary>Packing it once more saves nothing.</summary>
    public virtual bool IsCompressed => false;

    /// <summary>False for a format that is recognised by its name alone: it is tried where the name promises it.</summary>
    public virtual bool HasMagic => true;

    /// <param name="head">The first 12 bytes, or all of a shorter file.</param>
    public abstract bool Knows(ReadOnlySpan<byte> head);

    /// <summary>For a format without magic at its start.</summary>
    internal virtual bool KnowsByEnd(HeaderReader reader) => false;

    /// <summary>Reads header fields, and tells whether the file is whole from declared lengths and the format's end marker.</summary>
    /// <param name="damage">Why it will not read, in words; null when nothing is wrong.</param>
    /// <exception cref="DamagedImageException">The header gives no facts.</exception>
    internal abstract ImageFacts Read(HeaderReader reader, out string? damage);
}

public enum GltfCarriage
{
    None,
    Core,
    Extension,
}
