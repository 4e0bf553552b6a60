using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class BetterFormat : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.better-format", "A better format of the same map lies beside it", Severity.Note)
        {
            Expects = "Of two files of one map the one with more depth is read.",
            Why = "Heights in 8 bits are terraces while the 16-bit file lies unused.",
            Source = "Common practice.",
            Evidence =
                "A file of the same name but for its ending has more bits and no fewer pixels, told from both headers. "
                + "Silent about colours, where 8 bits do.",
            Fix = "Relinks to the better one.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                disp textures/bark_height.png
                """
            ) with
            {
                Beside = ["textures/bark_height.hdr"],
            },
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (Of(map, scene) is not { } better)
            yield break;
        var (now, then) = (map.Facts!, better.Beside.Facts!);
        yield return Found(
                map.Input,
                $"{map.FileText} has {now.BitDepth} bits; {better.Name.Text} has {Depth(then)}.",
                "map has a better format beside it",
                "maps have better formats beside them"
            )
            .With(new PairEvidence("image", map.Answer!.Resolved!, better.Beside.Path, $"{now.BitDepth} bits and {Depth(then)}"))
            .Fix(
                $"Read {better.Name.Text} instead",
                0.8,
                new Edits.RelinkReference(map.Use.Reference, map.Answer.Resolved, better.Beside.Path)
            );
    }

    /// <summary>The deeper file of the same map; depth counts for what moves or bends the surface.</summary>
    internal static SetFile? Of(MapView map, AuditScene scene) =>
        map.Input.Role is not (Role.Displacement or Role.Bump or Role.Normal or Role.Environment)
        || map.Facts is not { } now
        || map.Answer?.Resolved is null
        || map.Answer.Pattern is not null
            ? null
            : scene
                .Sets.Beside(map.Name)
                .Where(f =>
                    f.Name.Role == map.Role
                    && f.Name.Resolution == map.Name.Resolution
                    && f.Name.Version == map.Name.Version
                    && f.Beside.Facts is { } better
                    && Bits(better) > Bits(now)
                    && better.Width >= now.Width
                )
                .MaxBy(f => Bits(f.Beside.Facts!));

    private static int Bits(Imaging.ImageFacts facts) => facts.IsFloat ? Math.Max(facts.BitDepth, 16) + 1 : facts.BitDepth;

    private static string Depth(Imaging.ImageFacts facts) => facts.IsFloat ? "floats" : $"{facts.BitDepth} bits";
}
