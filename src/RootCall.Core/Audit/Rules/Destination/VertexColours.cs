namespace RootCall.Core.Audit.Rules;

public sealed class VertexColours : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.vertex-colours", "Vertex colours that the destination leaves out", Severity.Note)
        {
            Expects = "What the look needs is not in vertex colours that the destination drops.",
            Why = "The mesh arrives white where it was painted.",
            Source = "The destination; glTF 2.0, 3.9.2: COLOR_0 multiplies the base colour.",
            Evidence = "The mesh carries colours. Whether the look needs them is not known, so it is a note.",
            Example = Example.Gltf("""{ "name": "pot" }""") with { For = "lantern-headset", Meshes = [new("pot:colours", "pot")] },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene) =>
        scene.Destination.VertexColours
            ? []
            : from mesh in scene.Scene.Meshes
            where mesh.HasColours
            select Found(
                    new Target("mesh", mesh.Name),
                    $"{mesh.Name} has vertex colours; {scene.Destination.Name} leaves them out.",
                    "mesh has vertex colours that are left out",
                    "meshes have vertex colours that are left out"
                )
                .Decide("Bake them into a texture.");
}
