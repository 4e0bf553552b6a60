namespace RootCall.Core.Audit.Rules;

public sealed class MixedVersions : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.mixed-versions", "Maps of one material are of different versions", Severity.Warning)
        {
            Expects = "The maps of one set are of one version.",
            Why = "The relief is that of last week, the colour that of today.",
            Source = "Common practice.",
            Evidence =
                "Version numbers in the names of one set. A warning where the newer file lies beside it, else a note. "
                + "Silent where only one map has a number.",
            Fix = "Relinks to the newest version of each, where it lies beside it.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd textures/bark_basecolor_v003.png
                map_Pr textures/bark_roughness_v002.png
                """
            ) with
            {
                Beside = ["textures/bark_roughness_v003.png"],
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (
            var set in material
                .Maps.Where(m => m.Name.Version is not null && m.Name.Body.Length > 0)
                .DistinctBy(m => m.Use.Reference)
                .GroupBy(m => m.Name.Body)
        )
        {
            var newest = set.Max(m => m.Name.Version!.Value);
            foreach (var old in set.Where(m => m.Name.Version < newest))
            {
                var right = scene
                    .Sets.SameMap(old.Name)
                    .FirstOrDefault(f => f.Name.Version == newest && f.Name.Resolution == old.Name.Resolution);
                var finding = Found(
                        old.Input,
                        $"{old.FileText} of {material.Name} is version {old.Name.Version}; another of its maps is {newest}.",
                        "map is of an older version than the rest",
                        "maps are of older versions than the rest"
                    )
                    .With(
                        new NumberEvidence("version", old.Name.Version!.Value, string.Empty, newest, newest),
                        new PictureEvidence(old.Use.Reference)
                    )
                    .At(right is null ? Severity.Note : Severity.Warning);
                yield return right is null || old.Answer?.Resolved is null
                    ? finding.Decide($"Ask for version {newest} of it.")
                    : finding.Fix(
                        $"Read {right.Name.Text} instead",
                        0.85,
                        new Edits.RelinkReference(old.Use.Reference, old.Answer.Resolved, right.Beside.Path)
                    );
            }
        }
    }
}
