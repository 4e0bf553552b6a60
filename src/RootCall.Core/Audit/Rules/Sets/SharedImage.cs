using RootCall.Core.Muster;

namespace RootCall.Core.Audit.Rules;

public sealed class SharedImage : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.shared-image", "Several materials share one image although others of that name exist", Severity.Warning)
        {
            Expects = "Materials of different things do not read one image that has only a role for a name.",
            Why = "Files of one name from several folders were put into one; the last one overwrote the others.",
            Source = "Common practice.",
            Example = Example.Mtl(
                """
                newmtl pot
                map_Kd textures/basecolor.png
                newmtl lid
                map_Kd textures/basecolor.png
                """
            ) with
            {
                Beside = ["textures/lid/basecolor.png#other"],
            },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        foreach (
            var group in scene
                .Materials.SelectMany(m => m.Maps)
                .Where(m => m.Answer?.Resolved is not null)
                .GroupBy(m => m.Answer!.Resolved!, StringComparer.Ordinal)
        )
        {
            var materials = group.Select(m => m.Material).Distinct().ToList();
            var name = group.First().Name;
            if (materials.Count < 2)
                continue;
            var stamp = group.First().Answer!.Stamp;
            var others = scene
                .Sets.Named(name)
                .Where(f =>
                    f.Beside.Path != group.Key
                    && (
                        f.Beside.Stamp.Bytes != stamp?.Bytes
                        || scene.Pixels(new FileState(f.Beside.Path, f.Beside.Stamp)) is { } p
                            && scene.Pixels(group.First().Answer) is { } q
                            && !p.Channels.Select(c => c.Mean).SequenceEqual(q.Channels.Select(c => c.Mean))
                    )
                )
                .ToList();
            if (others.Count == 0)
                continue;
            var folders = others.Take(3).Select(o => Path.GetFileName(Path.GetDirectoryName(o.Beside.Path)));
            yield return Found(
                    new Target("image", name.Text),
                    $"{string.Join(", ", materials.Take(4).Select(m => m.Name))} read one {name.Text}; {others.Count} other "
                        + $"{(others.Count == 1 ? "file" : "files")} of that name {(others.Count == 1 ? "has" : "have")} other contents.",
                    "image is shared although others of its name exist",
                    "images are shared although others of their names exist"
                )
                .With(
                    new PairEvidence("image", group.Key, others[0].Beside.Path, "contents"),
                    new PictureEvidence(group.First().Use.Reference)
                )
                .Decide($"Say which material wants which: {string.Join(", ", folders)} hold the others.");
        }
    }
}
