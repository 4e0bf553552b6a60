using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Gives a thing of the scene another name; everything that calls it by name follows.</summary>
/// <param name="Kind"><c>material</c>, <c>mesh</c> or <c>node</c>.</param>
/// <param name="Id">Identity within the scene; the name where the format has no more.</param>
public sealed record Rename(string Kind, string Id, string From, string To) : Edit
{
    public override string Target => $"name of {Kind} {Id}";

    public override EditText Text => new("name", Kind, From, To);

    public override string Word => "rename";

    public override string Describe() => $"Rename {Kind} {From} to {To}";

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if (
            WhyNot(
                draft,
                Kind switch
                {
                    "material" => SceneAct.RenameMaterial,
                    "mesh" => SceneAct.RenameMesh,
                    _ => SceneAct.RenameNode,
                }
            ) is
            { } why
        )
            return why;
        if (can.WhyNotName(To) is { } not)
            return not;
        return Kind switch
        {
            "material" => Material(draft, can),
            "mesh" => Mesh(draft),
            _ => Node(draft),
        };
    }

    private string? Material(SceneDraft draft, FormatCapabilities can)
    {
        var at = draft.Find(Id) is >= 0 and var byId ? byId : draft.Find(From);
        if (at < 0)
            return $"The scene has no material {From}.";
        var material = draft.Materials[at];
        if (material.Name == To)
            return null;
        if (material.Name.Length == 0 && !can.AssignsById)
            return "What stands before the first name has none that could be changed.";
        // Where the name is all there is, two things of one name are one.
        if (!can.AssignsById && (draft.Find(To) >= 0 || draft.With(To).Any()))
            return $"The scene has a {To} already.";
        draft.Put(
            at,
            material with
            {
                Name = To,
                Id = material.Id == material.Name ? To : material.Id,
                Arrived = material.Arrived ?? material.Name,
            }
        );
        for (var i = 0; i < draft.Materials.Count; i++)
            if (!can.AssignsById && draft.Materials[i].Template == material.Name)
                draft.Put(i, draft.Materials[i] with { Template = To });
        for (var m = 0; m < draft.Meshes.Length; m++)
            if (draft.Meshes[m].Parts.Any(Wears))
                draft.Meshes = draft.Meshes.SetItem(
                    m,
                    draft.Meshes[m] with
                    {
                        Parts =
                        [
                            .. draft
                                .Meshes[m]
                                .Parts.Select(p =>
                                    Wears(p)
                                        ? p with
                                        {
                                            Material = To,
                                            Name = !can.AssignsById && p.Name == material.Name ? To : p.Name,
                                        }
                                        : p
                                ),
                        ],
                    }
                );
        return null;

        bool Wears(MeshPart part) => can.AssignsById ? part.MaterialId == material.Id : part.Material == material.Name;
    }

    private string? Mesh(SceneDraft draft)
    {
        var at = Enumerable.Range(0, draft.Meshes.Length).FirstOrDefault(i => draft.Meshes[i].Id == Id, -1);
        if (at < 0)
            at = Enumerable.Range(0, draft.Meshes.Length).FirstOrDefault(i => draft.Meshes[i].Name == From, -1);
        if (at < 0)
            return $"The scene has no mesh {From}.";
        if (draft.Meshes[at].Name != To)
            draft.Meshes = draft.Meshes.SetItem(at, draft.Meshes[at] with { Name = To });
        return null;
    }

    private string? Node(SceneDraft draft)
    {
        var at = Enumerable
            .Range(0, draft.Nodes.Length)
            .Where(i => draft.Nodes[i].Name == From)
            .OrderBy(i => draft.Nodes[i].Place)
            .FirstOrDefault(-1);
        if (at < 0)
            return $"The scene has no node {From}.";
        if (From != To)
            draft.Nodes = draft.Nodes.SetItem(at, draft.Nodes[at] with { Name = To });
        return null;
    }

    protected override Edit? Reverse() => this with { Id = Id == From ? To : Id, From = To, To = From };
}
