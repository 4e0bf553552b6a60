using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Assigns another material to a mesh or a part of it.</summary>
/// <param name="Part">Name of the part; empty for the whole mesh.</param>
/// <param name="To">Empty to assign none.</param>
public sealed record AssignMaterial(string Mesh, string Part, string From, string To) : Edit
{
    public override string Target => $"{Mesh}/{Part}";

    public override EditText Text =>
        new(
            "assignment",
            $"{Mesh}{(Part.Length > 0 ? ", " + Part : string.Empty)}",
            From.Length > 0 ? From : "none",
            To.Length > 0 ? To : "none"
        );

    public override string Word => "assign";

    public override string Describe() =>
        $"Assign {(To.Length > 0 ? To : "no material")} to {Mesh}{(Part.Length > 0 ? "." + Part : string.Empty)}";

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if (WhyNot(draft, SceneAct.Assign) is { } why)
            return why;
        var places = Enumerable.Range(0, draft.Meshes.Length).Where(i => draft.Meshes[i].Id == Mesh).ToList();
        if (places.Count == 0)
            places = [.. Enumerable.Range(0, draft.Meshes.Length).Where(i => draft.Meshes[i].Name == Mesh).Take(1)];
        if (places.Count == 0 && can.NamesGeometry is { } unmeasured && Part.Length == 0 && Mesh.Length > 0)
            places = [Named(draft, unmeasured)];
        if (places.Count == 0)
            return $"The scene has no mesh {Mesh}.";
        var material =
            To.Length == 0 ? null
            : draft.Find(To) is var at and >= 0 ? draft.Materials[at]
            : null;
        if (material is null && To.Length > 0)
            return NoMaterial(To);
        foreach (var place in places)
            if (Assign(draft, can, place, material) is { } not)
                return not;
        return null;
    }

    /// <summary>Geometry that lies elsewhere and was not named before.</summary>
    private int Named(SceneDraft draft, string unmeasured)
    {
        draft.Meshes = draft.Meshes.Add(new(Mesh, 0, 0, 0, [], [new(string.Empty, string.Empty, 0)]) { Unmeasured = unmeasured });
        draft.Nodes = draft.Nodes.Add(new(Mesh, -1, draft.Meshes.Length - 1));
        return draft.Meshes.Length - 1;
    }

    private string? Assign(SceneDraft draft, FormatCapabilities can, int place, Material? material)
    {
        var mesh = draft.Meshes[place];
        if (Instance.WhyNot(draft.Instances, mesh.Id, mesh.Name) is { } shared)
            return shared;
        if (Part.Length > 0 && !mesh.Parts.Any(p => p.Name == Part))
            return $"{mesh.Name} has no part {Part}.";
        var parts = mesh.Parts;
        for (var p = 0; p < parts.Length; p++)
        {
            var part = parts[p];
            if (Part.Length > 0 ? part.Name != Part : can.PartsKeepTheirs && part.Name.Length > 0 && part.Bound != BoundBy.Above)
                continue;
            if (part.Bound == BoundBy.Stronger)
                return $"Something stronger than {mesh.Name} itself decides its material.";
            var assigned = part with
            {
                Material = material?.Name ?? string.Empty,
                MaterialId = can.AssignsById ? material?.Id ?? string.Empty : string.Empty,
                Bound = Part.Length > 0 || part.Name.Length == 0 ? BoundBy.Itself : part.Bound,
            };
            // Without a material of its own it shows the one of what it lies under.
            draft.Ripples |= material is null && can.PartsKeepTheirs;
            if (assigned.Material != part.Material || assigned.MaterialId != part.MaterialId)
                parts = parts.SetItem(p, assigned);
        }

        if (parts == mesh.Parts)
            return null;
        draft.Meshes = draft.Meshes.SetItem(place, mesh with { Parts = parts });
        draft.Ripples |= can.AssignRipples;
        return null;
    }

    protected override Edit? Reverse() => this with { From = To, To = From };
}
