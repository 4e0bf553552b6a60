using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class SelfLit : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.self-lit", "Emission on what should be lit", Severity.Warning)
        {
            Expects = "The base colour map is not the emission too.",
            Why = "The surface glows with its own paint: it never falls into shadow and burns out in the sun.",
            Source = "Common practice.",
            Evidence =
                "A warning where the material has relief or roughness of its own and is opaque; else a note, since a lamp "
                + "or a screen has nothing but its glow.",
            Fix = "Disconnects the map from the emission.",
            Example = Example.Gltf(
                """
                {
                  "name": "pot",
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/pot_basecolor.png" }, "roughnessFactor": 0.7 },
                  "emissiveFactor": [1, 1, 1],
                  "emissiveTexture": { "index": "textures/pot_basecolor.png" }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (material.Text("unlit") == "true" || material.Role(Role.BaseColour)?.Maps is not [var paint, ..])
            yield break;
        foreach (
            var glow in material.Maps.Where(m =>
                m.Input.Role == Role.Emission && m.Use.Reference == paint.Use.Reference && m.Input.Factor?.Numbers.Max() is not 0
            )
        )
        {
            var edits =
                glow.Input.Factor is { } factor && material.IsGltf
                    ? [glow.Disconnect(), new Edits.SetValue(material.Name, glow.Input.Name, factor, Scenes.ShaderValue.Of(0, 0, 0))]
                    : System.Collections.Immutable.ImmutableArray.Create<Edits.Edit>(glow.Disconnect());
            // A lamp or a screen has nothing else; what has relief or roughness was made to be lit.
            var lit =
                material.Maps.Any(m => m.Input.Role is Role.Normal or Role.Roughness) && material.Text("alphaMode") is null or "OPAQUE";
            yield return Found(
                    glow.Input,
                    $"{glow.FileText} is base colour and emission of {material.Name}.",
                    "material glows with its own paint",
                    "materials glow with their own paint"
                )
                .With(new PictureEvidence(glow.Use.Reference), new WireEvidence(glow.Use.Reference, Channels.Rgb, glow.Input.Name, null))
                .At(lit ? Severity.Warning : Severity.Note)
                .Fix($"Disconnect it from {glow.Input.Name}", 0.85, edits);
        }
    }
}
