using System.Text.Json.Serialization;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>
/// A small change to a scene that can be applied, inverted, described and stored. Edits never touch the arrived files: writers
/// turn what differs between the arrived scene and the current one into bytes when something is written.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "type")]
[JsonDerivedType(typeof(RelinkReference), "relink")]
[JsonDerivedType(typeof(SetValue), "value")]
[JsonDerivedType(typeof(SetImage), "image")]
[JsonDerivedType(typeof(LayNode), "lay-node")]
[JsonDerivedType(typeof(TakeNode), "take-node")]
[JsonDerivedType(typeof(SetNode), "node")]
[JsonDerivedType(typeof(AssignMaterial), "assign")]
[JsonDerivedType(typeof(MakeOwn), "own")]
[JsonDerivedType(typeof(ExtractImage), "extract")]
[JsonDerivedType(typeof(CarryImage), "carry")]
[JsonDerivedType(typeof(MakeLibrary), "library")]
[JsonDerivedType(typeof(SelectVariant), "variant")]
[JsonDerivedType(typeof(SetAsset), "asset")]
[JsonDerivedType(typeof(Rename), "rename")]
[JsonDerivedType(typeof(CopyMaterial), "copy")]
[JsonDerivedType(typeof(CrossMaterial), "cross")]
[JsonDerivedType(typeof(RemoveMaterial), "remove")]
[JsonDerivedType(typeof(SetPathStyle), "style")]
[JsonDerivedType(typeof(PlaceFile), "place")]
[JsonDerivedType(typeof(RestoreScene), "restore")]
public abstract record Edit
{
    /// <summary>What it changes; two edits with the same target stand on each other.</summary>
    [JsonIgnore]
    public abstract string Target { get; }

    /// <summary>Where it changes what, in a few words each.</summary>
    [JsonIgnore]
    public abstract EditText Text { get; }

    /// <summary>What it does, in two or three words: <c>set value</c>.</summary>
    [JsonIgnore]
    public abstract string Word { get; }

    /// <summary>It changes what the scene's own files say, not only what answers for them.</summary>
    [JsonIgnore]
    public virtual bool ChangesFiles => true;

    /// <summary>Other references may come with it: it changes what files say, or which own file is read.</summary>
    [JsonIgnore]
    public bool Brings => ChangesFiles || About?.Kind.IsOwnFile() == true;

    /// <summary>The reference that it is about; null where it is about a material or a mesh.</summary>
    [JsonIgnore]
    public virtual ReferenceKey? About => null;

    /// <summary>What is said of <see cref="About"/> after it.</summary>
    internal virtual Answer Answered(Answer before) => before;

    /// <summary>One sentence in the imperative.</summary>
    public abstract string Describe();

    /// <summary>Makes the change in a draft.</summary>
    /// <returns>Why it cannot be made; null when it was.</returns>
    internal abstract string? Change(SceneDraft draft);

    /// <summary>The edit that says the opposite; null when what it took away is not in it.</summary>
    protected abstract Edit? Reverse();

    /// <summary>The scene with the change made, or why it cannot be.</summary>
    public Applied Apply(Scene scene)
    {
        var draft = new SceneDraft(scene);
        if (Change(draft) is { } why)
            return new(scene, why, false);
        return new(draft.Build(Capabilities(scene).References), null, draft.Ripples);
    }

    /// <summary>The edit that takes this one back, made to a scene as it was before it.</summary>
    public Edit Invert(Scene before)
    {
        var after = Apply(before).Scene;
        if (Reverse() is { } reverse && reverse.Apply(after) is { Refusal: null } back && SceneComparison.AreSame(back.Scene, before))
            return reverse;
        return RestoreScene.Between(after, before);
    }

    private protected static FormatCapabilities Capabilities(Scene scene) => SceneFormats.Of(scene.Path).Capabilities;

    private protected static FormatCapabilities Capabilities(SceneDraft draft) => Capabilities(draft.Before);

    /// <summary>Null when files of the scene can say it.</summary>
    private protected static string? WhyNot(SceneDraft draft, SceneAct act) => draft.Before.Broken ?? Capabilities(draft).WhyNot(act);

    private protected static string NoMaterial(string name) => $"The scene has no material {name}.";
}

/// <param name="Where">What is changed: a material and its input, a mesh, a file.</param>
/// <param name="Before">What stood there; empty for nothing.</param>
public sealed record EditText(string Kind, string Where, string Before, string After);

/// <summary>What came of applying an edit.</summary>
/// <param name="Scene">With the change made; as it was when it was refused, or was so already.</param>
/// <param name="Refusal">Why it could not be made, in one sentence; null when it was.</param>
/// <param name="Ripples">More follows from it than can be told in memory: the scene must be read again from what is written.</param>
public sealed record Applied(Scene Scene, string? Refusal, bool Ripples);
