using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class PartUnassigned : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.part-unassigned", "Part of a mesh has no material", Severity.Warning)
        {
            Expects = "When one part of a mesh has a material, all have.",
            Why = "Faces that a selection missed show the fallback in the middle of a finished object.",
            Source = "Common practice; glTF 2.0, 3.9.6 “Default Material”.",
            Evidence =
                "Counted in the file: some parts of the mesh have a material and others with triangles have none. Silent "
                + "about meshes without any.",
            Fix = "Assigns the material that most of the mesh's triangles have.",
            Example = Example.Gltf("""{ "name": "tin" }""") with { Meshes = [new("can", "tin") { MoreParts = [string.Empty] }] },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        foreach (var mesh in scene.Scene.Meshes.Where(m => m.Parts.Any(p => p.Material.Length > 0)))
        foreach (var part in mesh.Parts.Where(p => p.Material.Length == 0 && p.Triangles > 0))
        {
            var most = mesh.Parts.Where(p => p.Material.Length > 0).GroupBy(p => p.Material).MaxBy(g => g.Sum(p => p.Triangles))!.Key;
            yield return Found(
                    new Target("mesh", mesh.Name, part.Name),
                    Invariant($"{part.Triangles:N0} triangles of {mesh.Name} have no material."),
                    "part of a mesh has no material",
                    "parts of meshes have no material"
                )
                .With(new NumberEvidence("triangles without a material", part.Triangles, "triangles", 0, 0))
                .Fix($"Assign {most}, as on the rest of the mesh", 0.75, new Edits.AssignMaterial(mesh.Id, part.Name, string.Empty, most));
        }
    }
}
