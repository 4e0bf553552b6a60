using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class NoUvs : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.no-uvs", "An image on a mesh without UV coordinates", Severity.Blocker)
        {
            Expects = "A mesh that wears a material with images has UV coordinates.",
            Why = "There is nothing to lay the image on.",
            Source = "glTF 2.0, 3.7.2.1: TEXCOORD_n; common practice.",
            Example = Example.Gltf(
                """
                {
                  "name": "pot",
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/pot_basecolor.png" }, "roughnessFactor": 0.7 }
                }
                """
            ) with
            {
                Meshes = [new("pot", "pot", 0)],
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (!material.Maps.Any(m => m.Input.Role is not (Role.Environment or Role.Reflection)))
            yield break;
        foreach (var mesh in material.Users.Select(u => u.Mesh).Distinct().Where(m => m.Unmeasured is null && m.UvSets.IsEmpty))
            yield return Found(
                    new Target("mesh", mesh.Name),
                    $"{mesh.Name} wears {material.Name} with {material.Maps.Length} images and has no UV coordinates.",
                    "mesh has images and no UV coordinates",
                    "meshes have images and no UV coordinates"
                )
                .Decide("Bring the mesh in with its UV coordinates, or assign a material without images.");
    }
}
