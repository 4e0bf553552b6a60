using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Chooses another of the alternatives a file offers.</summary>
public sealed record SelectVariant(string Place, string Set, string From, string To) : Edit
{
    public override string Target => $"{Place}{{{Set}}}";

    public override EditText Text => new("variant", Place.Length > 0 ? $"{Place}, {Set}" : Set, From, To);

    public override string Word => "choose variant";

    public override string Describe() => $"Choose {To} for {Set}{(Place.Length > 0 ? " of " + Place : string.Empty)}";

    internal override string? Change(SceneDraft draft)
    {
        if (WhyNot(draft, SceneAct.SelectVariant) is { } why)
            return why;
        var at = Enumerable
            .Range(0, draft.Variants.Length)
            .FirstOrDefault(i => draft.Variants[i].Place == Place && draft.Variants[i].Set == Set, -1);
        if (at < 0)
            return $"{(Place.Length > 0 ? Place : "The scene")} has no variants {Set}.";
        if (!draft.Variants[at].Options.Contains(To))
            return $"The scene has no variant {To}.";
        if (Place.Length == 0)
            return Assign(draft);
        if (draft.Variants[at].Selected == To)
            return null;
        draft.Variants = draft.Variants.SetItem(at, draft.Variants[at] with { Selected = To });
        draft.Ripples = true; // What the variant brings is not known before the file is read.
        return null;
    }

    /// <summary>KHR_materials_variants: the parts take the material that their mapping names for the variant.</summary>
    private string? Assign(SceneDraft draft)
    {
        for (var m = 0; m < draft.Meshes.Length; m++)
        {
            var parts = draft.Meshes[m].Parts;
            for (var p = 0; p < parts.Length; p++)
                if (parts[p].ByVariant.TryGetValue(To, out var id) && id != parts[p].MaterialId && draft.Find(id) is >= 0 and var at)
                    parts = parts.SetItem(p, parts[p] with { Material = draft.Materials[at].Name, MaterialId = id });
            if (parts != draft.Meshes[m].Parts)
                draft.Meshes = draft.Meshes.SetItem(m, draft.Meshes[m] with { Parts = parts });
        }

        return null;
    }

    protected override Edit? Reverse() => From.Length > 0 ? this with { From = To, To = From } : null;
}
