using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;

namespace RootCall.Core.Audit;

/// <summary>Has one place of shared geometry that wears the material no longer share it.</summary>
/// <param name="Mesh">Id of what it shares.</param>
/// <param name="Instance">Its id.</param>
public sealed record HandOwn(string Mesh, string Instance) : HandDecision
{
    public override string Title => "Make it its own";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var mesh = Material(scene, place).Users.FirstOrDefault(u => u.Mesh.Id == Mesh).Mesh
            ?? throw new CannotUseException($"{Mesh} does not wear {place.Name}.");
        var at = scene.Scene.Meshes.IndexOf(mesh);
        var nodes = scene.Scene.Nodes.Where(n => n.Mesh == at).ToList();
        var own = Scenes.Instance.Of(scene.Scene, mesh, nodes).FirstOrDefault(i => i.Id == Instance)
            ?? throw new CannotUseException($"{Instance} is no instance of {mesh.Name}.");
        return [new MakeOwn(mesh.Id, own.Id, own.Name)];
    }
}
