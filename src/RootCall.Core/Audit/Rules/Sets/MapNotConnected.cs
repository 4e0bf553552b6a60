using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class MapNotConnected : MaterialRule
{
    private static readonly Role[] Wanted =
    [
        Role.Normal,
        Role.Roughness,
        Role.Metalness,
        Role.MetallicRoughness,
        Role.Displacement,
        Role.Bump,
        Role.Opacity,
        Role.Emission,
        Role.Occlusion,
    ];

    public override RuleDescriptor Descriptor { get; } =
        new("sets.map-not-connected", "A map of the set that is not connected", Severity.Note)
        {
            Expects = "A material reads all maps of its set that lie beside the ones it reads.",
            Why = "The relief or the roughness was painted, came along, and is not in the picture.",
            Source = "Common practice.",
            Evidence =
                "The file lies in the folder of the base colour map, has its name and ends in a role that the material "
                + "reads nothing for. An artist may have left it out, so it is a note. Silent about names that say only "
                + "their role.",
            Fix = "Connects it: data as data, a normal through a normal-map node, with the tiling and UV set of the base colour.",
            Example = Example.Gltf(
                """
                {
                  "name": "pot",
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/pot_basecolor.png" }, "roughnessFactor": 0.7 }
                }
                """
            ) with
            {
                Beside = ["textures/pot_normal.png"],
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (material.Role(Role.BaseColour)?.Maps is not [var paint, ..] || paint.Name.Body.Length == 0)
            yield break;
        var there = material.Maps.Select(m => m.Role).OfType<Role>().ToHashSet();
        var seen = new HashSet<Role>();
        foreach (
            var file in scene
                .Sets.Beside(paint.Name)
                .Where(f => f.Name.Role is { } r && Wanted.Contains(r) && f.Beside.Facts is not null)
                .OrderBy(f => f.Name.Resolution == paint.Name.Resolution ? 0 : 1)
                .ThenByDescending(f => f.Beside.Facts!.Width)
        )
        {
            var role = file.Name.Role!.Value;
            if (
                there.Contains(role)
                || !seen.Add(role)
                || (role is Role.Roughness or Role.Metalness && (there.Contains(Role.MetallicRoughness) || there.Contains(Role.Packed)))
                || (role == Role.Bump && there.Contains(Role.Normal))
            )
                continue;
            var map = BesideMap.Of(scene, paint.Use.Reference.File, file);
            var edits = map.With(ConnectMap.Edits(material, map.Key, role, paint, scene));
            var name = edits.OfType<SetImage>().FirstOrDefault()?.Input;
            var finding = Found(
                    material,
                    $"{file.Name.Text} belongs to {material.Name} and is not connected.",
                    $"{role.Word()} map of the set is not connected",
                    $"{role.Word()} maps of their sets are not connected",
                    role.Word()
                )
                .With(
                    new PictureEvidence(new(ReferenceKind.Image, string.Empty, file.Beside.Path)),
                    new TextEvidence($"{file.Name.Text} lies beside {paint.FileText}.")
                );
            yield return edits.IsEmpty
                ? finding.Decide($"{material.Model?.Name ?? material.Type} has no free input for it.")
                : finding.Fix($"Connect it to {name}", 0.8, edits);
        }
    }
}
