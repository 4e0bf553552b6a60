using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.Wavefront;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Gives a scene that calls for no material library one of its own, with an entry for each material it uses.</summary>
/// <param name="Written">Name of the library, beside the scene.</param>
public sealed record MakeLibrary(string Written) : Edit
{
    public override string Target => "library";

    public override EditText Text => new("library", Written, "none", "made");

    public override string Word => "make library";

    public override string Describe() => $"Make the material library {Written}";

    internal override string? Change(SceneDraft draft)
    {
        if (WhyNot(draft, SceneAct.MakeLibrary) is { } why)
            return why;
        if (draft.Before.References.Any(r => r.Kind == ReferenceKind.MaterialLibrary) || draft.Files.Any(f => f.IsMade))
            return "The scene calls for a material library already.";
        if (
            Written != Path.GetFileName(Written)
            || !Written.EndsWith(Capabilities(draft).Library ?? string.Empty, StringComparison.OrdinalIgnoreCase)
        )
            return $"“{Written}” is no name for a material library beside the scene.";
        var path = Path.Combine(draft.Before.Folder, Written);
        if (File.Exists(path))
            return $"“{Written}” is already there; nothing that exists is written over.";
        var key = new ReferenceKey(ReferenceKind.MaterialLibrary, Path.GetFileName(draft.Before.Path), Written);
        draft.Put(draft.New(key) with { UsedBy = [new(string.Empty, "mtllib")] });
        draft.Files = draft.Files.Add(new(path, 0, key) { IsMade = true });
        for (var i = 0; i < draft.Materials.Count; i++)
            if (draft.Materials[i].Graph.SurfaceNode is null)
                draft.Put(i, MtlMaterials.Fresh(draft.Materials[i], draft.Files.Length - 1));
        return null;
    }

    protected override Edit? Reverse() => null;
}
