namespace RootCall.Core.Audit.Rules;

public sealed class NoMaterial : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.no-material", "A mesh without a material", Severity.Warning)
        {
            Expects = "Every mesh has a material.",
            Why = "What a renderer shows instead is its own choice: grey, white, or nothing at all.",
            Source = "glTF 2.0, 3.9.6 “Default Material”; UsdShade, “Material Binding”: the fallback is up to the renderer.",
            Fix = "Assigns the scene's only material; with several, the artist decides.",
            Example = Example.Gltf("""{ "name": "tin" }""") with { Meshes = [new("lid", "tin"), new("handle", string.Empty)] },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        if (scene.IsFormat("stl", "ply"))
            yield break; // Formats that know no materials.
        foreach (var mesh in scene.Scene.Meshes.Where(m => m.Parts.All(p => p.Material.Length == 0)))
        {
            var finding = Found(
                new Target("mesh", mesh.Name),
                $"{mesh.Name} has no material.",
                "mesh has no material",
                "meshes have no material"
            );
            yield return scene.Materials is [var only]
                ? finding.Fix($"Assign {only.Name}", 0.7, new Edits.AssignMaterial(mesh.Id, string.Empty, string.Empty, only.Name))
                : finding.Decide("Choose a material for it.");
        }
    }
}
