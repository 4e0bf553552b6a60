using RootCall.Core.Edits;

namespace RootCall.Core.Audit.Rules;

public sealed class EmptyName : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("naming.empty", "Things without a name", Severity.Note)
        {
            Expects = "Materials and meshes have names.",
            Why = "Nobody can say which one is meant, and programs invent names that change with every export.",
            Source = "glTF 2.0, section 5: name is optional for every object; common practice.",
            Evidence = "The file gives the material no name. Silent in formats where a name is how a thing is called.",
            Fix = "Names a material after the mesh that wears it, a mesh after its node.",
            Example = Example.Gltf("""{ "pbrMetallicRoughness": { "roughnessFactor": 0.2 } }""") with
            {
                Meshes = [new("lid", "material 0")],
            },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        if (!scene.IsFormat("gltf", "glb"))
            yield break; // Elsewhere a name is how a thing is called.
        var taken = scene.Scene.Materials.Select(m => m.Name).ToHashSet(StringComparer.Ordinal);
        foreach (var (material, i) in scene.Scene.Materials.Select((m, i) => (m, i)).Where(m => m.m.Name == $"material {m.i}"))
        {
            var mesh = scene.Scene.Meshes.FirstOrDefault(m => m.Parts.Any(p => p.Material == material.Name))?.Name;
            var finding = Found(
                new Target("material", material.Id),
                $"Material {i} has no name{(mesh is null ? string.Empty : $"; {mesh} wears it")}.",
                "material has no name",
                "materials have no name",
                "material"
            );
            yield return mesh is { Length: > 0 } && taken.Add(mesh)
                ? finding
                    .With(new ValueEvidence("name", "none", mesh))
                    .Fix($"Name it {mesh}", 0.7, new Rename("material", material.Id, material.Name, mesh))
                : finding.Decide("Give it a name.");
        }
    }
}
