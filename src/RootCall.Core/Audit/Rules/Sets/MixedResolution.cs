namespace RootCall.Core.Audit.Rules;

public sealed class MixedResolution : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.mixed-resolution", "Maps of one material differ much in size", Severity.Note)
        {
            Expects = "The maps of one set are of one size, or nearly so.",
            Why = "The large one costs memory that the small one makes worthless.",
            Source = "Common practice.",
            Evidence =
                "Widths told from the headers of maps of one set. Silent about a small map of one value, and about maps "
                + "that did not come.",
            Thresholds = [new("most", 4, "times", "Largest width beside the smallest.")],
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd textures/bark_basecolor.png#large
                map_Pr textures/bark_roughness.png#tiny
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (
            var set in material
                .Maps.Where(m => m.Facts is not null && m.Name.Body.Length > 0)
                .DistinctBy(m => m.Use.Reference)
                .GroupBy(m => m.Name.Body)
        )
        {
            var (small, large) = (set.MinBy(m => m.Facts!.Width)!, set.MaxBy(m => m.Facts!.Width)!);
            var times = (double)large.Facts!.Width / small.Facts!.Width;
            // A flat map may be small.
            if (times <= Limit(scene, "most") || small.Pixels?.Channels.All(c => c.IsConstant) == true)
                continue;
            yield return Found(
                    material,
                    $"{large.FileText} of {material.Name} is {large.Facts.Width} px wide, {small.FileText} {small.Facts.Width}.",
                    "material has maps of very different sizes",
                    "materials have maps of very different sizes"
                )
                .With(
                    new NumberEvidence("widest beside narrowest", Math.Round(times, 1), "times", 1, Limit(scene, "most")),
                    new PairEvidence(
                        "image",
                        large.Answer?.Resolved ?? large.FileText,
                        small.Answer?.Resolved ?? small.FileText,
                        $"{large.Facts.Width} px and {small.Facts.Width} px"
                    )
                )
                .Decide("Find the small map in a larger size, or switch the large ones down in Muster.");
        }
    }
}
