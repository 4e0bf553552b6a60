using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Takes out a material that nothing uses.</summary>
public sealed record RemoveMaterial(string Material) : Edit
{
    public override string Target => $"material {Material}";

    public override EditText Text => new("material", Material, "there", "taken out");

    public override string Word => "take out material";

    public override string Describe() => $"Take out material {Material}";

    internal override string? Change(SceneDraft draft)
    {
        if (WhyNot(draft, SceneAct.RemoveMaterial) is { } why)
            return why;
        if (draft.Find(Material) is not (>= 0 and var at))
            return NoMaterial(Material);
        var material = draft.Materials[at];
        if (material.Graph.SurfaceNode is null && Capabilities(draft).Library is not null)
            return $"No library that was read defines the material {Material}.";
        if (
            draft.Meshes.FirstOrDefault(m =>
                m.Parts.Any(p => p.MaterialId.Length > 0 ? p.MaterialId == material.Id : p.Material == material.Name)
            ) is
            { } mesh
        )
            return $"{material.Name} is assigned to {mesh.Name}; assign another one first.";
        if (material.IsCalled)
            return $"The scene calls {material.Name}; it was left.";
        if (draft.Materials.FirstOrDefault(m => m.Template is { } t && (t == material.Id || t == material.Name)) is { } heir)
            return $"{heir.Name} is made like {material.Name}; it was left.";
        draft.RemoveAt(at);
        return null;
    }

    protected override Edit? Reverse() => null;
}
