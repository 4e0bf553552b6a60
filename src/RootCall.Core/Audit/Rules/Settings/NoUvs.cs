using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class NoUvs : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.no-uvs", "An image on a mesh without UV coordinates", Severity.Blocker)
        {
            Expects = "A mesh that wears a material with images has UV coordinates.",
            Why = "There is nothing to lay the image on.",
            Source = "glTF 2.0, 3.7.2.1: TEXCOORD_n; Wavefront OBJ, “f”: v/vt/vn; common practice.",
            Evidence =
                "Counted in the file: meshes without UV coordinates, and faces without them where a format can leave them out face by "
                + "face. Silent about environments and about geometry that could not be measured. Some of the faces make a warning.",
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
        var images = material.Maps.Length == 1 ? "an image" : $"{material.Maps.Length} images";
        foreach (var mesh in material.Users.Where(u => u.Mesh.Unmeasured is null).GroupBy(u => u.Mesh))
        {
            if (mesh.Key.UvSets.IsEmpty)
                yield return Found(
                        new Target("mesh", mesh.Key.Name),
                        $"{mesh.Key.Name} wears {material.Name} with {images} and has no UV coordinates.",
                        "mesh has images and no UV coordinates",
                        "meshes have images and no UV coordinates"
                    )
                    .Decide(Advice);
            else if (mesh.Sum(u => u.Part.WithoutUvs) is > 0 and var bare)
                yield return Found(
                        new Target("mesh", mesh.Key.Name),
                        Invariant($"{bare:N0} of {mesh.Sum(u => u.Part.Triangles):N0} triangles of {mesh.Key.Name} that wear ")
                            + $"{material.Name} with {images} have no UV coordinates.",
                        "mesh has images on faces without UV coordinates",
                        "meshes have images on faces without UV coordinates",
                        "faces"
                    )
                    .At(bare == mesh.Sum(u => u.Part.Triangles) ? Severity.Blocker : Severity.Warning)
                    .Decide(Advice);
        }
    }

    private const string Advice = "Bring the mesh in with its UV coordinates, or assign a material without images.";
}
