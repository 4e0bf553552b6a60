using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class TintedMap : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.tinted-map", "A tint that multiplies a map by something far from white", Severity.Note)
        {
            Expects = "A painted base colour is multiplied by white, or nearly so.",
            Why = "The map is darker or of another hue than it was painted.",
            Source = "glTF 2.0, 3.9.2: baseColorFactor multiplies the texture; Wavefront MTL, “map_Kd”: multiplied by Kd.",
            Evidence = "The factor of a base colour map. Tinting is how variants are made, so it is a note.",
            Fix = "Sets the tint to white.",
            Thresholds = [new("least", 0.6, string.Empty, "The darkest channel of a tint that is still taken for white.")],
            Example = Example.Gltf(
                """
                {
                  "name": "pot",
                  "pbrMetallicRoughness": {
                    "baseColorFactor": [0.4, 0.2, 0.2, 1],
                    "baseColorTexture": { "index": "textures/pot_basecolor.png" }
                  }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (material.Role(Role.BaseColour) is not { Maps: [var map, ..], Factor: { Numbers.Length: 3 } tint } input)
            yield break;
        var least = tint.Numbers.Min();
        if (least >= Limit(scene, "least") || tint.Numbers.Max() <= BlackTint.Black)
            yield break;
        yield return Found(
                input,
                $"{map.FileText} is multiplied by {tint} in {material.Name}.",
                "base colour map is tinted",
                "base colour maps are tinted"
            )
            .With(
                new NumberEvidence("darkest channel of the tint", Math.Round(least, 3), string.Empty, Limit(scene, "least"), 1),
                new ValueEvidence(input.Name, tint.ToString(), "1 1 1"),
                new PictureEvidence(map.Use.Reference)
            )
            .Fix("Set the tint to white", 0.6, new SetValue(material.Name, input.Name, tint, ShaderValue.Of(1, 1, 1)));
    }
}
