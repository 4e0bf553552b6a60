using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>How a path is written into a scene.</summary>
public enum PathStyle
{
    /// <summary>From the folder of the file that writes it.</summary>
    Relative,

    /// <summary>From a root's folder: for programs that search in a list of folders.</summary>
    RootRelative,

    /// <summary>From this system's top folder.</summary>
    Absolute,
}

/// <summary>Says how a reference's path is written when a copy of the scene is written; packages stay relative.</summary>
/// <param name="Root">Absolute folder that <see cref="PathStyle.RootRelative"/> starts from.</param>
public sealed record SetPathStyle(ReferenceKey Reference, PathStyle From, PathStyle To, string? Root = null) : Edit
{
    public override string Target => $"style {Reference.Kind} {Reference.File} {Reference.Written}";

    public override EditText Text => new("path", string.Empty, Word(From), Word(To));

    public override string Describe() => $"Write {Reference.Written} {Word(To)}";

    public override Edit Invert() => this with { From = To, To = From };

    private static string Word(PathStyle style) => style switch
    {
        PathStyle.Relative => "relative to the scene",
        PathStyle.RootRelative => "relative to its root",
        _ => "absolute",
    };
}

/// <summary>Says where the file that answers a reference lies in a package: another folder, another name.</summary>
/// <param name="From">Place before, relative to the scene with slashes; null where Root Call chooses.</param>
public sealed record PlaceFile(ReferenceKey Reference, string? From, string? To) : Edit
{
    public override string Target => $"place {Reference.Kind} {Reference.File} {Reference.Written}";

    public override EditText Text => new("place", Reference.Written, From ?? "as it is", To ?? "as it is");

    public override string Describe() => $"Put {Reference.Written} at {To ?? "its own place"}";

    public override Edit Invert() => this with { From = To, To = From };
}
