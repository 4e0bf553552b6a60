using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Has one place of shared geometry no longer share it, so that it can wear what the others do not.</summary>
/// <param name="Instance">Its id.</param>
/// <param name="Name">Of the geometry that it gets, where the format gives it one.</param>
public sealed record MakeOwn(string Mesh, string Instance, string Name) : Edit
{
    public override string Target => $"instance {Instance}";

    public override EditText Text => new("instance", $"{Name}, {Instance}", $"shared: {Mesh}", "its own");

    public override string Word => "make its own";

    public override string Describe() => $"Make {Name} ({Instance}) its own";

    internal override string? Change(SceneDraft draft)
    {
        if (WhyNot(draft, SceneAct.MakeOwn) is { } why)
            return why;
        if (draft.Instances.Contains(Instance))
        {
            draft.Instances = draft.Instances.Remove(Instance);
            return null;
        }

        var mesh = Enumerable.Range(0, draft.Meshes.Length).FirstOrDefault(i => draft.Meshes[i].Id == Mesh, -1);
        var nodes = Enumerable.Range(0, draft.Nodes.Length).Where(i => mesh >= 0 && draft.Nodes[i].Mesh == mesh).ToList();
        var own = nodes.FindIndex(i => Scenes.Instance.IdOf(draft.Nodes[i]) == Instance);
        if (own < 0)
            return $"{Instance} is no instance of {Mesh}.";
        if (nodes.Count == 1)
            return $"{Name} is its own already.";
        var shared = draft.Meshes[mesh];
        draft.Nodes = draft.Nodes.SetItem(nodes[own], draft.Nodes[nodes[own]] with { Mesh = draft.Meshes.Length });
        draft.Meshes = draft.Meshes.Add(
            shared with
            {
                Name = Name,
                Id = $"/meshes/{draft.Meshes.Length}",
                CopyOf = shared.CopyOf ?? shared.Id,
            }
        );
        return null;
    }

    protected override Edit? Reverse() => null;
}
