using System.Collections.Immutable;
using RootCall.Core.Shading;

namespace RootCall.Core.Scenes;

public enum ReferenceKind
{
    /// <summary>A texture or an environment map.</summary>
    Image,

    /// <summary>A glTF buffer.</summary>
    Buffer,

    /// <summary>A Wavefront material library.</summary>
    MaterialLibrary,

    /// <summary>A layer of USD: sublayered, referenced or a payload.</summary>
    Layer,

    /// <summary>A document that another includes (MaterialX, COLLADA).</summary>
    Document,

    /// <summary>A geometry cache or volume.</summary>
    Cache,
}

public static class ReferenceKinds
{
    /// <summary>A file that belongs to the scene itself: another one in its place brings references of its own.</summary>
    public static bool IsOwnFile(this ReferenceKind kind) =>
        kind is ReferenceKind.MaterialLibrary or ReferenceKind.Layer or ReferenceKind.Document;
}

/// <summary>
/// What identifies a reference across readings of the same scene: its kind, the own file that writes it and the path
/// as written. Numbers are only an order; a ledger stores keys, so it can be replayed on a later version.
/// </summary>
/// <param name="File">Path of the writing file, relative to the scene's folder where it lies inside it.</param>
/// <param name="Written">The path as an artist reads it: escapes and percent-encoding taken off.</param>
public readonly record struct ReferenceKey(ReferenceKind Kind, string File, string Written);

/// <summary>
/// One distinct path that one file of the scene calls for. Several places may write it and several inputs may use it;
/// they are one reference, because they are answered together.
/// </summary>
/// <param name="Number">From 1, in the order of the files.</param>
/// <param name="Key">Identity that survives another reading.</param>
/// <param name="Written">The path as read; for embedded images the image's name.</param>
/// <param name="BaseFolder">Folder a relative path starts from.</param>
/// <param name="Sites">Where it is written; empty when the data is carried inside a buffer.</param>
/// <param name="UsedBy">The material inputs it feeds.</param>
/// <param name="Carried">Set when the data is carried inside the scene file.</param>
/// <param name="ExpectedBytes">Least length in bytes that the scene declares for it (glTF buffers), or 0.</param>
public sealed record Reference(
    int Number,
    ReferenceKey Key,
    string Written,
    string BaseFolder,
    ImmutableArray<ReferenceSite> Sites,
    ImmutableArray<ReferenceUse> UsedBy,
    CarriedData? Carried = null,
    long ExpectedBytes = 0
)
{
    public ReferenceKind Kind => Key.Kind;

    /// <summary>A second path that the scene writes for the same file, tried after the first; null when there is none.</summary>
    public string? AlsoWritten { get; init; }

    /// <summary>The key that the files know it by, where an edit gave it another; null otherwise.</summary>
    public ReferenceKey? Arrived { get; init; }

    /// <summary>The name that the image would have if the scene carried it inside; null where the format gives none.</summary>
    public string? CarriedName { get; init; }

    /// <summary>
    /// Properties of the composed scene that give the path, for a path that a file packs and that has no bytes of its own:
    /// an overriding layer can say them anew.
    /// </summary>
    public ImmutableArray<string> Properties { get; init; } = [];
}

/// <param name="Material">Material name; empty where a mesh or the scene itself calls (buffers, libraries).</param>
/// <param name="Input">The format's own name of the input: <c>baseColorTexture</c>, <c>map_Kd</c>.</param>
public sealed record ReferenceUse(string Material, string Input)
{
    /// <summary>What a map there is for, by the meaning of the inputs that the field feeds; null where that is not known.</summary>
    public Role? Role { get; init; }

    /// <summary>It is the same use, whatever is known of it.</summary>
    public bool Equals(ReferenceUse? other) => other is not null && Material == other.Material && Input == other.Input;

    public override int GetHashCode() => HashCode.Combine(Material, Input);
}

/// <summary>The exact bytes that write a path.</summary>
/// <param name="File">Index into <see cref="Scene.Files"/>.</param>
/// <param name="Start">Byte offset in that file.</param>
/// <param name="Length">Length in bytes, quotes included where <paramref name="Notation"/> says so.</param>
/// <param name="Notation">How the path is spelled there.</param>
public readonly record struct ReferenceSite(int File, long Start, int Length, SiteNotation Notation);

public enum SiteNotation
{
    /// <summary>A JSON string, quotes included, holding a percent-encoded URI reference (RFC 3986).</summary>
    JsonUri,

    /// <summary>Bare text up to the end of a Wavefront statement, or between its quotes.</summary>
    Plain,

    /// <summary>A USD asset path between its at signs, which are not part of the site.</summary>
    UsdAsset,

    /// <summary>XML text or an attribute's value without its quotes, holding a path.</summary>
    XmlPath,

    /// <summary>XML text or an attribute's value without its quotes, holding a percent-encoded URI reference (RFC 3986).</summary>
    XmlUri,
}

/// <summary>Image data carried inside the scene file.</summary>
/// <param name="File">Absolute path of the file that holds the bytes.</param>
/// <param name="Start">Byte offset of the data, or -1 when it has to be decoded from a data URI.</param>
/// <param name="Length">Length in bytes.</param>
/// <param name="DataUri">Where the base64 text stands, when it is a data URI.</param>
public sealed record CarriedData(string File, long Start, long Length, ReferenceSite? DataUri = null);
