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
            Evidence =
                "Several materials read one file, and files of the very same name with other sizes or values lie in "
                + "other folders of the roots. Silent where there is only one such file.",
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

    public override IEnumerable<Finding> Inspect(AuditScene scene) => Of(scene).Select(Told);

    /// <summary>One file that several materials read although others of its name differ from it.</summary>
    internal static IEnumerable<Shared> Of(AuditScene scene) =>
        from maps in scene
            .Materials.SelectMany(m => m.Maps)
            .Where(m => m.Answer?.Resolved is not null)
            .GroupBy(m => m.Answer!.Resolved!, StringComparer.Ordinal)
        let materials = maps.Select(m => m.Material).Distinct().ToList()
        where materials.Count > 1
        let others = Others(maps.Key, maps.First(), scene)
        where others.Count > 0
        select new Shared(maps.Key, maps.First(), materials, others);

    private static List<SetFile> Others(string path, MapView map, AuditScene scene) =>
        [.. scene.Sets.Named(map.Name).Where(f => f.Beside.Path != path && Differs(f.Beside, map, scene))];

    private static bool Differs(FileBeside file, MapView map, AuditScene scene) =>
        file.Stamp.Bytes != map.Answer!.Stamp?.Bytes
        || scene.Pixels(new FileState(file.Path, file.Stamp)) is { } there
            && map.Pixels is { } here
            && !there.Channels.Select(c => c.Mean).SequenceEqual(here.Channels.Select(c => c.Mean));

    private Finding Told(Shared shared)
    {
        var (name, others) = (shared.Map.Name, shared.Others);
        var folders = others.Take(3).Select(o => Path.GetFileName(Path.GetDirectoryName(o.Beside.Path)));
        return Found(
                new Target("image", name.Text),
                $"{string.Join(", ", shared.Materials.Take(4).Select(m => m.Name))} read one {name.Text}; {others.Count} other "
                    + $"{(others.Count == 1 ? "file" : "files")} of that name {(others.Count == 1 ? "has" : "have")} other contents.",
                "image is shared although others of its name exist",
                "images are shared although others of their names exist"
            )
            .With(new PairEvidence("image", shared.Path, others[0].Beside.Path, "contents"), new PictureEvidence(shared.Map.Use.Reference))
            .Decide($"Say which material wants which: {string.Join(", ", folders)} hold the others.");
    }

    internal sealed record Shared(string Path, MapView Map, List<MaterialView> Materials, List<SetFile> Others);
}
