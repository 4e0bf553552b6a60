using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class MetalnessLeftAtDefault : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.metalness-left-at-default", "Metal, because nobody said otherwise", Severity.Note)
        {
            Expects = "A glTF material that is no metal says so: without a metalness it is all metal.",
            Why = "Painted wood is drawn without any diffuse light: it is dark, and shines like steel.",
            Source = "glTF 2.0, 5.22 “metallicFactor”: 1 by default. Base colours of bare metals are bright: common practice.",
            Evidence =
                "The file says nothing of metalness, the base colour map is darker than bare metals are or mostly green or blue, and the "
                + "roughness is at least 0.5. A writer may leave out what is the default, so it only asks.",
            Fix = "Sets the metalness to 0.",
            Thresholds = [new("darkest", 0.5, string.Empty, "Least mean of the brightest channel of a bare metal, as stored.")],
            Example = Example.Gltf(
                """
                {
                  "name": "door",
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/door_basecolor.png#dark" }, "roughnessFactor": 0.8 }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            !material.IsGltf
            || material.Role(Role.Metalness) is not { IsConnected: false, Input.Value: null, Largest: 1 } metalness
            || material.Number(Role.Roughness) is not >= 0.5
            || material.Role(Role.BaseColour)?.Maps is not [{ Pixels: { IsFlat: false, Channels.Length: >= 3 } paint } map]
        )
            yield break;
        var means = paint.Channels.Take(3).Select(c => c.Mean).ToList();
        var darkest = Limit(scene, "darkest");
        if (means.Max() >= darkest && means[0] >= Math.Max(means[1], means[2]) - 0.1)
            yield break;
        yield return Found(
                metalness,
                Invariant($"Nothing is said of the metalness of {material.Name}, so it is 1; {map.FileText} is no bare metal."),
                "material is metal because nothing was said",
                "materials are metal because nothing was said"
            )
            .With(
                new PictureEvidence(map.Use.Reference),
                new NumberEvidence("mean of the brightest channel", Math.Round(means.Max(), 3), string.Empty, darkest, 1),
                new ValueEvidence(metalness.Name, "1", "0")
            )
            .Fix("Set the metalness to 0", 0.7, new SetValue(material.Name, metalness.Name, null, ShaderValue.Of(0)));
    }
}
