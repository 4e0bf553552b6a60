using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class HeightEightBit : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.height-8-bit", "A displacement with 8 bits", Severity.Note)
        {
            Expects = "A map that moves the surface has 16 bits or floats.",
            Why = "256 heights are terraces.",
            Source = "Common practice.",
            Evidence = "The depth told from the header. Silent where a deeper file lies beside it: sets.better-format offers that.",
            Thresholds = [new("least", 16, "bit", "Least bits per channel.")],
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                disp textures/bark_height.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (map.Input.Role != Role.Displacement || map.Facts is not { IsFloat: false } facts || facts.BitDepth >= Limit(scene, "least"))
            yield break;
        if (BetterFormat.Of(map, scene) is not null)
            yield break; // sets.better-format offers it.
        yield return Found(
                map.Input,
                $"{map.FileText} displaces {map.Material.Name} with {facts.BitDepth} bits.",
                "displacement has too few bits",
                "displacements have too few bits"
            )
            .With(
                new NumberEvidence("bits per channel", facts.BitDepth, "bit", Limit(scene, "least"), 32),
                new PictureEvidence(map.Use.Reference)
            )
            .Decide("Export it again with 16 bits or floats.");
    }
}
