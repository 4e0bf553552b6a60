using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class DisplacementZero : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.displacement-zero", "A relief that is multiplied by zero", Severity.Warning)
        {
            Expects = "A displacement or bump map has a scale above zero.",
            Why = "The displacement is there and only the bump is seen, or nothing.",
            Source = "Wavefront MTL, “-bm” and “-mm”; UsdPreviewSurface Proposal 2.6, “UsdUVTexture”, scale.",
            Evidence = "The scale or the factor is written as 0. Silent about values near 0.",
            Fix = "Takes the scale out, so that it is 1.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                disp -mm 0 0 textures/bark_height.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (map.Input.Role is not (Role.Displacement or Role.Bump) || !(map.Use.Scale is [0, ..] || map.Input.Factor?.Numbers is [0, ..]))
            yield break;
        var finding = Found(
                map.Input,
                $"{map.FileText} is multiplied by 0 on its way to {map.Input.Name} of {map.Material.Name}.",
                "relief is multiplied by zero",
                "reliefs are multiplied by zero"
            )
            .With(new ValueEvidence("scale", "0", "1"), new PictureEvidence(map.Use.Reference, map.Channel));
        yield return map.Use.Scale is [0, ..]
            ? finding.Fix("Set its scale to 1", 0.85, map.Read(u => u with { Scale = scene.IsUsd ? [1, 1, 1, 1] : [], Bias = [] }))
            : finding.Decide("The factor stands in the graph; set it where the material was made.");
    }
}
