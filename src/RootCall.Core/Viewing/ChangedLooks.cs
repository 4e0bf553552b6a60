using System.Collections.Immutable;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>Which materials look another way in one state of a scene than in another.</summary>
public static class ChangedLooks
{
    /// <summary>Names of materials that are in both states and would be drawn otherwise, in the order of the later one.</summary>
    public static ImmutableArray<string> Between(MusterReport before, MusterReport after)
    {
        var known = before.Scene.Materials.Where(m => !m.IsTemplate).DistinctBy(m => m.Id).ToDictionary(m => m.Id);
        var moved = Moved(before, after);
        var (then, now) = (new ReferencesByKey(before), new ReferencesByKey(after));
        return
        [
            .. after
                .Scene.Materials.Where(m => m is { IsTemplate: false, Graph.SurfaceNode: not null })
                .Where(m =>
                    known.TryGetValue(m.Id, out var was)
                    && MayDiffer(was, m, moved)
                    && SwatchOrder.LookOf(was, then) != SwatchOrder.LookOf(m, now)
                )
                .Select(m => m.Name),
        ];
    }

    /// <summary>The scene as it is decided: a file that is only offered does not answer.</summary>
    public static MusterReport Decided(MusterReport report) =>
        report with
        {
            References =
            [
                .. report.References.Select(r =>
                    r.State == ReferenceState.Elsewhere ? r with { State = ReferenceState.Missing, Candidates = [] } : r
                ),
            ],
        };

    /// <summary>References that another file answers, or none any more.</summary>
    private static HashSet<ReferenceKey> Moved(MusterReport before, MusterReport after)
    {
        var was = before.References.DistinctBy(r => r.Reference.Key).ToDictionary(r => r.Reference.Key, r => r.Resolved);
        return [.. after.References.Where(r => was.GetValueOrDefault(r.Reference.Key) != r.Resolved).Select(r => r.Reference.Key)];
    }

    /// <summary>Most materials are the same objects and read files that are the same: those need no closer look.</summary>
    private static bool MayDiffer(Material was, Material now, HashSet<ReferenceKey> moved) =>
        !ReferenceEquals(was, now) || now.Graph.Nodes.Any(n => n.Image is { } image && moved.Contains(image.Reference));
}
