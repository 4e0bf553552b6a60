using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class NormalScale : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.normal-scale", "A normal or bump scale far from 1", Severity.Warning)
        {
            Expects = "A normal map is read with a scale near 1.",
            Why = "At 0 the relief is gone; at 5 every pore is a crater; below 0 it is turned inside out.",
            Source = "glTF 2.0, 3.9.3 “normalTexture.scale”: 1 by default; MaterialX 1.38, “normalmap”, scale; Wavefront MTL, “-bm”.",
            Evidence = "The scale as it is written. Silent in USD, where scale and bias unpack the map.",
            Fix = "Sets 1.",
            Thresholds = [new("low", 0.05, string.Empty, "Least."), new("high", 3, string.Empty, "Most.")],
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normal.png", "scale": 0 } }"""),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (!map.Input.Role.IsNormal() || map.Material.IsPreview || scene.IsUsd)
            yield break;
        var inGraph = map
            .Material.Material.Graph.Nodes.FirstOrDefault(n =>
                n.Type == "normalmap" && n.Input("scale")?.Value is not null && map.Material.Material.Graph.Node(n.Name) is not null
            )
            ?.Input("scale")
            ?.Value?.Numbers;
        if (
            (map.Use.Scale.IsEmpty ? inGraph : map.Use.Scale) is not [var scale, ..]
            || (scale >= Limit(scene, "low") && scale <= Limit(scene, "high"))
        )
            yield break;
        var finding = Found(
                map.Input,
                Invariant($"{map.FileText} of {map.Material.Name} is read with a scale of {scale:0.##}."),
                "normal map has a scale far from 1",
                "normal maps have a scale far from 1",
                scale == 0 ? "zero" : null
            )
            .With(
                new NumberEvidence("scale", scale, string.Empty, Limit(scene, "low"), Limit(scene, "high")),
                new ValueEvidence("scale", Invariant($"{scale:0.##}"), "1"),
                new PictureEvidence(map.Use.Reference)
            );
        yield return map.Use.Scale.IsEmpty
            ? finding.Decide("The scale stands in the graph; set it where the material was made.")
            : finding.Fix("Set the scale to 1", scale == 0 ? 0.9 : 0.7, map.Read(u => u with { Scale = [1] }));
    }
}
