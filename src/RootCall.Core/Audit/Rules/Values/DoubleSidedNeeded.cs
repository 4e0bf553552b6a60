using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class DoubleSidedNeeded : MaterialRule
{
    private static readonly string[] Thin =
    [
        "leaf",
        "leaves",
        "foliage",
        "petal",
        "cloth",
        "fabric",
        "curtain",
        "flag",
        "paper",
        "feather",
        "hair",
        "grass",
        "fern",
        "wing",
    ];

    public override RuleDescriptor Descriptor { get; } =
        new("values.double-sided-needed", "One-sided leaves and cloth", Severity.Note)
        {
            Expects = "What is thin and cut out is seen from both sides.",
            Why = "Half of the leaves are missing from behind.",
            Source = "glTF 2.0, 3.9.5 “Double Sided”: false by default, back faces are culled.",
            Evidence =
                "It is cut out by an alpha that varies, or its name is of a thin thing; the two together make the fix "
                + "sure. Silent about what is blended.",
            Fix = "Sets doubleSided.",
            Example = Example.Gltf(
                """
                {
                  "name": "tin_leaf",
                  "alphaMode": "MASK",
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/leaf_basecolor.png#cutout" } }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (!material.IsGltf || material.Text("doubleSided") != "false" || material.Text("alphaMode") == "BLEND")
            yield break;
        var name = material.Material.Name.ToLowerInvariant();
        var cutOut =
            material.Text("alphaMode") == "MASK"
            && material.Role(Role.BaseColour)?.Maps is [var map, ..]
            && map.Pixels?.Channel(Channels.A) is { IsConstant: false };
        var thin = Thin.FirstOrDefault(t => name.Split('_', '-', ' ', '.').Contains(t));
        if (!cutOut && thin is null)
            yield break;
        yield return Found(
                material,
                $"{material.Name} is {(cutOut ? "cut out" : $"called {thin}")} and seen from one side only.",
                "thin material is one-sided",
                "thin materials are one-sided"
            )
            .With(new ValueEvidence("doubleSided", "false", "true"))
            .Fix(
                "Make it double-sided",
                cutOut && thin is not null ? 0.92 : 0.75,
                new SetValue(material.Name, "doubleSided", material.Input("doubleSided")!.Input.Value, ShaderValue.OfText("true"))
            );
    }
}
