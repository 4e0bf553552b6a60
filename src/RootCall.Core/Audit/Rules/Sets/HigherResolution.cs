namespace RootCall.Core.Audit.Rules;

public sealed class HigherResolution : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.higher-resolution", "A higher resolution lies beside the one in use", Severity.Note)
        {
            Expects = "The largest size of a map is read, unless a smaller one was chosen.",
            Why = "The frame is soft while the sharp file lies beside it.",
            Source = "Common practice.",
            Evidence =
                "A file of the same name but for its resolution has more pixels both ways, told from both headers. A "
                + "smaller size may be meant, so it is a note.",
            Fix = "Relinks to the larger one.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd textures/bark_basecolor_1k.png
                """
            ) with
            {
                Beside = ["textures/bark_basecolor_2k.png#large"],
            },
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (map.Facts is not { } now || map.Answer is not { Resolved: { } path, Pattern: null } || map.Name.Body.Length == 0)
            yield break;
        var larger = scene
            .Sets.SameMap(map.Name)
            .Where(f =>
                f.Name.Resolution != map.Name.Resolution
                && f.Name.Version == map.Name.Version
                && f.Beside.Facts is { } facts
                && facts.Width > now.Width
                && facts.Height > now.Height
            )
            .MaxBy(f => f.Beside.Facts!.Width);
        if (larger is null)
            yield break;
        var then = larger.Beside.Facts!;
        yield return Found(
                map.Input,
                $"{map.FileText} has {now.Width} x {now.Height} px; {larger.Name.Text} has {then.Width} x {then.Height}.",
                "map has a higher resolution beside it",
                "maps have higher resolutions beside them"
            )
            .With(
                new PairEvidence("image", path, larger.Beside.Path, $"{now.Width} px and {then.Width} px"),
                new NumberEvidence("width", now.Width, "px", then.Width)
            )
            .Fix(
                $"Read {larger.Name.Text} instead",
                ProxyInUse.IsProxy(map.Name) ? 0.85 : 0.6,
                new Edits.RelinkReference(map.Use.Reference, path, larger.Beside.Path)
            );
    }
}
