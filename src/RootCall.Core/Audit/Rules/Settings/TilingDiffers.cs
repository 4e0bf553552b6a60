using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class TilingDiffers : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.tiling-differs", "Maps of one material tile differently", Severity.Note)
        {
            Expects = "The maps of one set repeat together.",
            Why = "The relief no longer lies where it was painted.",
            Source = "Common practice.",
            Evidence =
                "Maps of one set by their names repeat differently in one UV set. Silent about maps of other sets: a "
                + "detail map tiles on purpose.",
            Fix = "Gives all the tiling that most of them have.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd -s 4 4 1 textures/bark_basecolor.png
                map_Pr -s 4 4 1 textures/bark_roughness.png
                norm textures/bark_normal.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        // Only maps of one set: a detail map tiles on purpose.
        foreach (
            var set in material
                .Maps.Where(m => m.Name.Body.Length > 0 && m.Input.Role != Role.Environment && m.Input.Role != Role.Reflection)
                .GroupBy(m => (m.Name.Body, m.Use.UvSet))
        )
        {
            var tilings = set.GroupBy(m => (m.Use.Transform.ScaleU, m.Use.Transform.ScaleV))
                .OrderByDescending(g => g.Count())
                .ThenByDescending(g => g.Any(m => m.Input.Role == Role.BaseColour))
                .ToList();
            if (tilings.Count < 2)
                continue;
            var (u, v) = tilings[0].Key;
            var others = tilings.Skip(1).SelectMany(g => g).ToList();
            ImmutableArray<Edit> edits =
            [
                .. others.Select(m => m.Read(use => use with { Transform = use.Transform with { ScaleU = u, ScaleV = v } })),
            ];
            yield return Found(
                    material,
                    $"{string.Join(", ", others.Take(4).Select(m => m.FileText))} of {material.Name} repeat "
                        + Invariant($"{others[0].Use.Transform.ScaleU:0.##} x {others[0].Use.Transform.ScaleV:0.##}, the other maps ")
                        + Invariant($"{u:0.##} x {v:0.##}."),
                    "material has maps that tile differently",
                    "materials have maps that tile differently"
                )
                .With(
                    new ValueEvidence(
                        "repeats",
                        Invariant($"{others[0].Use.Transform.ScaleU:0.##} x {others[0].Use.Transform.ScaleV:0.##}"),
                        Invariant($"{u:0.##} x {v:0.##}")
                    ),
                    new PictureEvidence(others[0].Use.Reference)
                )
                .Fix(Invariant($"Repeat all {u:0.##} x {v:0.##}"), tilings[0].Count() > tilings[1].Count() ? 0.75 : 0.6, edits);
        }
    }
}
