using System.Text.Json.Serialization;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>
/// A small change to a scene that can be described, inverted and stored. Edits never touch the arrived files; writers
/// read them when a copy is written.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "type")]
[JsonDerivedType(typeof(RelinkReference), "relink")]
[JsonDerivedType(typeof(SetValue), "value")]
[JsonDerivedType(typeof(SetImage), "image")]
[JsonDerivedType(typeof(AssignMaterial), "assign")]
[JsonDerivedType(typeof(ExtractImage), "extract")]
[JsonDerivedType(typeof(CarryImage), "carry")]
[JsonDerivedType(typeof(MakeLibrary), "library")]
[JsonDerivedType(typeof(SelectVariant), "variant")]
[JsonDerivedType(typeof(SetAsset), "asset")]
[JsonDerivedType(typeof(Rename), "rename")]
[JsonDerivedType(typeof(CopyMaterial), "copy")]
[JsonDerivedType(typeof(RemoveMaterial), "remove")]
[JsonDerivedType(typeof(SetPathStyle), "style")]
[JsonDerivedType(typeof(PlaceFile), "place")]
public abstract record Edit
{
    /// <summary>What it changes; two edits with the same target stand on each other.</summary>
    [JsonIgnore]
    public abstract string Target { get; }

    /// <summary>Where it changes what, in a few words each.</summary>
    [JsonIgnore]
    public abstract EditText Text { get; }

    /// <summary>One sentence in the imperative.</summary>
    public abstract string Describe();

    /// <summary>The edit that takes this one back.</summary>
    public abstract Edit Invert();
}

/// <param name="Where">What is changed: a material and its input, a mesh, a file.</param>
/// <param name="Before">What stood there; empty for nothing.</param>
public sealed record EditText(string Kind, string Where, string Before, string After);

/// <summary>Lets another file answer a reference.</summary>
/// <param name="Reference">Which reference; its written path is the one that arrived.</param>
/// <param name="From">Absolute path of the file that answered before, or null when it was called as it arrived.</param>
/// <param name="To">Absolute path of the file that answers from now on, or null to call it as it arrived.</param>
public sealed record RelinkReference(ReferenceKey Reference, string? From, string? To) : Edit
{
    public override string Target => $"{Reference.Kind} {Reference.File} {Reference.Written}";

    public override EditText Text => new("relink", string.Empty, Reference.Written, To ?? "as it arrived");

    public override string Describe() => To is null
        ? $"Call {Reference.Written} as it arrived"
        : $"Relink {Reference.Written} to {To}";

    public override Edit Invert() => this with { From = To, To = From };
}
