using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class BlendWhereCutOut : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.blend-where-cut-out", "Blended where a cut-out would do", Severity.Note)
        {
            Expects = "A stencil is cut out; only gradients are blended.",
            Why = "Blended surfaces are sorted, write no depth and cost a pass.",
            Source = "glTF 2.0, 3.9.4 “alphaMode”, implementation note on MASK and BLEND.",
            Evidence =
                "Nine tenths of the alpha lie near 0 or 1, and nothing else makes the material translucent. It is slower "
                + "and not wrong, so it is a note.",
            Fix = "Sets MASK.",
            Example = Example.Gltf(
                """
                {
                  "name": "leaf",
                  "alphaMode": "BLEND",
                  "doubleSided": true,
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/leaf_basecolor.png#cutout" } }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            !material.IsGltf
            || material.Text("alphaMode") != "BLEND"
            || material.Number(Role.Opacity) is < 1
            || material.Role(Role.BaseColour)?.Maps is not [var map, ..]
            || map.Pixels?.Channel(Channels.A) is not { IsTwoValued: true } alpha
        )
            yield break;
        if (material.Role(Role.Opacity)?.Factor?.Numbers is [< 1, ..])
            yield break;
        yield return Found(
                material,
                $"{material.Name} is blended; the alpha of {map.FileText} is a stencil.",
                "material is blended where a cut-out would do",
                "materials are blended where a cut-out would do"
            )
            .With(
                new PictureEvidence(map.Use.Reference, Channels.A),
                new NumberEvidence("deviation of the alpha", Math.Round(alpha.Deviation, 3), string.Empty),
                new ValueEvidence("alphaMode", "BLEND", "MASK")
            )
            .Fix(
                "Set alphaMode to MASK",
                0.85,
                new SetValue(material.Name, "alphaMode", material.Input("alphaMode")!.Input.Value, ShaderValue.OfText("MASK"))
            );
    }
}
