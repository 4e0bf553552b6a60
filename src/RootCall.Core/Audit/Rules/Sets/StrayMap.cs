using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class StrayMap : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.stray-map", "A map of another set", Severity.Note)
        {
            Expects = "All maps of a material are of one set.",
            Why = "A relief from another thing lies nowhere where the paint does.",
            Source = "Common practice.",
            Fix = "Relinks to the set's own map, when it lies beside the others.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd textures/bark_basecolor.png
                map_Pr textures/bark_roughness.png
                norm textures/stone_normal.png
                """
            ) with
            {
                Beside = ["textures/bark_normal.png"],
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        var maps = material
            .Maps.Where(m => m.Name.Body.Length > 0 && m.Role is not (null or Role.Environment))
            .DistinctBy(m => m.Use.Reference)
            .ToList();
        if (maps.Count < 3)
            yield break; // Of two none is the stray one.
        var home = maps.GroupBy(m => m.Name.Body).MaxBy(g => g.Count())!;
        if (home.Count() < 2 || home.Count() < maps.Count - 1)
            yield break;
        foreach (var stray in maps.Where(m => m.Name.Body != home.Key))
        {
            // A set of its own beside it in the folder is what was meant.
            var own = scene.Sets.Beside(home.First().Name).FirstOrDefault(f => f.Name.Role == stray.Role && f.Beside.Facts is not null);
            if (own is null || stray.Answer?.Resolved is null)
                continue;
            yield return Found(
                    stray.Input,
                    $"{stray.FileText} is of another set than the other maps of {material.Name}; {own.Name.Text} lies beside them.",
                    "map is of another set",
                    "maps are of other sets"
                )
                .With(new PairEvidence("image", stray.Answer.Resolved, own.Beside.Path, "the set they belong to"))
                .Fix(
                    $"Read {own.Name.Text} instead",
                    0.7,
                    new Edits.RelinkReference(stray.Use.Reference, stray.Answer.Resolved, own.Beside.Path)
                );
        }
    }
}
