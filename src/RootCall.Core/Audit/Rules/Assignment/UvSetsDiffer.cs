using System.Collections.Immutable;
using RootCall.Core.Edits;

namespace RootCall.Core.Audit.Rules;

public sealed class UvSetsDiffer : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.uv-sets-differ", "A material shared by meshes with different UV sets", Severity.Warning)
        {
            Expects = "All meshes that wear a material carry the UV sets it reads.",
            Why = "On the meshes without the set the image collapses into one colour.",
            Source = "glTF 2.0, 3.9.2 “texCoord”; UsdPreviewSurface 2.6, “UsdPrimvarReader”: an absent primvar gives the fallback.",
            Evidence =
                "Counted in the file: some meshes that wear it carry the set, and others carry only other sets. Silent "
                + "about meshes that were not measured.",
            Fix = "Splits the material: a copy reads the set that the other meshes do have.",
            Example = Example.Gltf(
                """
                {
                  "name": "tin",
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/tin_basecolor.png", "texCoord": 1 } }
                }
                """
            ) with
            {
                Meshes = [new("lid", "tin", 2), new("handle", "tin", 1)],
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (var set in material.Maps.Select(m => m.Use.UvSet).Where(s => s.Length > 0).Distinct())
        {
            var (with, without) = (
                material.Users.Where(u => u.Mesh.UvSets.Contains(set)).ToList(),
                material.Users.Where(u => u.Mesh.UvSets.Length > 0 && !u.Mesh.UvSets.Contains(set) && u.Mesh.Unmeasured is null).ToList()
            );
            if (with.Count == 0 || without.Count == 0)
                continue;
            var name = $"{material.Name}_uv";
            for (var n = 2; scene.Everything.Any(m => m.Material.Name == name); n++)
                name = $"{material.Name}_uv{n}";
            var there = without[0].Mesh.UvSets[0];
            ImmutableArray<Edit> edits =
            [
                new CopyMaterial(material.Name, name),
                .. without.Select(u => new AssignMaterial(u.Mesh.Id, u.Part.Name, u.Part.Material, name)),
                .. material
                    .Maps.Where(m => m.Use.UvSet == set)
                    .Select(m => new SetImage(name, m.Input.Name, m.Use, m.Use with { UvSet = there })),
            ];
            yield return Found(
                    material,
                    $"{material.Name} reads UV set {set}; {with.Count} of its meshes carry it, {without.Count} do not.",
                    "material is shared by meshes with different UV sets",
                    "materials are shared by meshes with different UV sets"
                )
                .With(new TextEvidence($"Without {set}: {string.Join(", ", without.Take(6).Select(u => u.Mesh.Name))}."))
                .Fix($"Split off {name} for {without.Count} parts; it reads {there}", 0.7, edits);
        }
    }
}
