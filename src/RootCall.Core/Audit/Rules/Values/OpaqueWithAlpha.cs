using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class OpaqueWithAlpha : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.opaque-with-alpha", "Opaque, with a map whose alpha varies", Severity.Warning)
        {
            Expects = "A material whose base colour map has a varying alpha is cut out or blended.",
            Why = "The alpha is ignored: leaves are rectangles.",
            Source = "glTF 2.0, 3.9.4: with alphaMode OPAQUE the alpha value is ignored.",
            Evidence =
                "The alpha of the base colour map varies. Some files keep another map in an alpha that is meant to be ignored, so the "
                + "fix is for a person to put in.",
            Fix = "Sets MASK when nearly all alpha values are 0 or 1, BLEND otherwise.",
            Example = Example.Gltf(
                """{ "name": "leaf", "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/leaf_basecolor.png#cutout" } } }"""
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            !material.IsGltf
            || material.Text("alphaMode") != "OPAQUE"
            || material.Role(Role.BaseColour)?.Maps is not [var map, ..]
            || map.Pixels?.Channel(Channels.A) is not { } alpha
            || alpha.IsConstant
        )
            yield break;
        var mode = alpha.IsTwoValued ? "MASK" : "BLEND";
        yield return Found(
                material,
                Invariant($"{material.Name} is opaque; the alpha of {map.FileText} runs from {alpha.Min:0.##} to {alpha.Max:0.##}."),
                "material is opaque although its alpha varies",
                "materials are opaque although their alpha varies"
            )
            .With(
                new PictureEvidence(map.Use.Reference, Channels.A),
                new NumberEvidence("mean of the alpha", Math.Round(alpha.Mean, 3), string.Empty, 1, 1),
                new ValueEvidence("alphaMode", "OPAQUE", mode)
            )
            .Fix(
                $"Set alphaMode to {mode}",
                alpha.IsTwoValued ? 0.85 : 0.75,
                new SetValue(material.Name, "alphaMode", material.Input("alphaMode")!.Input.Value, ShaderValue.OfText(mode))
            );
    }
}
