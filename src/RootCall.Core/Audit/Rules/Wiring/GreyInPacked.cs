using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class GreyInPacked : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.grey-in-packed", "A grey image where each channel is another map", Severity.Warning)
        {
            Expects = "The texture that gives roughness in green and metalness in blue holds two maps.",
            Why = "Of a grey image both read the same: what is rough becomes metal, and wood shines like steel.",
            Source = "glTF 2.0, 3.9.2 “metallicRoughnessTexture”: roughness in green, metalness in blue.",
            Evidence =
                "The three channels are the same and vary. Where the metalness is switched off by its factor a grey roughness is right. "
                + "The name of a set that is named so throughout says which of the two it is; then the fix is sure.",
            Fix = "Switches the metalness off, so that the image is the roughness alone.",
            Example = Example.Gltf(
                """
                {
                  "name": "pot",
                  "pbrMetallicRoughness": {
                    "baseColorTexture": { "index": "textures/pot_basecolor.png" },
                    "metallicRoughnessTexture": { "index": "textures/pot_roughness.png" }
                  }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            !material.IsGltf
            || material.Role(Role.Metalness) is not { Maps: [var map, ..] } metalness
            || map.Pixels is not { IsGrey: true, IsFlat: false }
            || metalness.Factor?.Numbers is [0, ..]
        )
            yield break;
        var reading = map.Reading(scene);
        var finding = Found(
                metalness,
                $"{map.FileText} is grey; {material.Name} reads its roughness and its metalness from it.",
                "grey image is roughness and metalness at once",
                "grey images are roughness and metalness at once"
            )
            .With(new PictureEvidence(map.Use.Reference), new ValueEvidence(metalness.Name, "1", "0"));
        yield return reading.Named == Role.Metalness
            ? finding.Decide("It is called a metalness map: ask for the roughness, and pack the two.")
            : finding.Fix(
                "Switch the metalness off",
                reading is { NameCounts: true, Named: Role.Roughness } ? 0.92 : 0.7,
                new SetValue(material.Name, metalness.Name, metalness.Factor, ShaderValue.Of(0))
            );
    }
}
