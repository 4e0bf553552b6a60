using RootCall.Core.Edits;
using RootCall.Core.Muster;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class StrayMap : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.stray-map", "A map of another set", Severity.Warning)
        {
            Expects = "All maps of a material are of one set.",
            Why = "A relief from another thing lies nowhere where the paint does.",
            Source = "Common practice.",
            Evidence =
                "Three maps at least, of which all but one are of one set, and the set has a map of the odd one's role. A warning where "
                + "another material reads that one among maps of the odd one's set: the two were exchanged. A note where it merely lies "
                + "beside; an artist may have chosen the other. Silent about names that end in no role.",
            Fix = "Reads the set's own map.",
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
            .Maps.Where(m => m.Name.Thing.Length > 0 && m.Role != Role.Environment)
            .DistinctBy(m => m.Use.Reference)
            .ToList();
        if (maps.Count < 3)
            yield break; // Of two none is the stray one.
        var home = maps.Where(m => m.Role is not null).Select(m => m.Name.Thing).MaxBy(t => maps.Count(m => m.Name.IsOf(t)));
        if (home is null || maps.Count(m => m.Name.IsOf(home)) is var own && (own < 2 || own < maps.Count - 1))
            yield break;
        foreach (var stray in maps.Where(m => !m.Name.IsOf(home) && m is { Role: not null, Answer.Resolved: not null }))
        {
            var (first, path) = (maps.First(m => m.Role is not null && m.Name.IsOf(home)).Name, stray.Answer!.Resolved!);
            // A map of its own set is what was meant: one that lies unread, or one that another material reads in its stead.
            if (scene.Sets.Beside(first).FirstOrDefault(f => f.Name.Role == stray.Role && f.Beside.Facts is not null) is { } there)
                yield return Told(stray, there.Name.Text, "lies beside them", there.Beside.Path)
                    .At(Severity.Note)
                    .Fix($"Read {there.Name.Text} instead", 0.7, new RelinkReference(stray.Use.Reference, path, there.Beside.Path));
            else if (Borrowed(first, stray, scene) is { } lent)
                yield return Told(stray, lent.FileText, $"is read by {lent.Material.Name}", lent.Answer!.Resolved!)
                    .Fix($"Read {lent.FileText} instead", 0.8, stray.Read(u => u with { Reference = lent.Use.Reference }));
        }
    }

    private Finding Told(MapView stray, string own, string where, string path) =>
        Found(
                stray.Input,
                $"{stray.FileText} is of another set than the other maps of {stray.Material.Name}; {own} {where}.",
                "map is of another set",
                "maps are of other sets"
            )
            .With(new PairEvidence("image", stray.Answer!.Resolved!, path, "the set they belong to"));

    /// <summary>The set's own map in a material whose other maps are of the set that the stray one is of: the two were exchanged.</summary>
    private static MapView? Borrowed(FileName home, MapView stray, AuditScene scene) =>
        scene
            .Sets.InUse(home)
            .FirstOrDefault(m =>
                m.Material != stray.Material
                && m.Role == stray.Role
                && m.Input.Role == stray.Input.Role
                && m.Answer?.Resolved is not null
                && m.Material.Maps.All(o => o.Use.Reference == m.Use.Reference || o.Name.IsOfSet(stray.Name))
                && m.Material.Maps.Length > 2
            );
}
