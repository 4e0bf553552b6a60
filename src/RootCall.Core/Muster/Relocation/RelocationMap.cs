using System.Collections.Immutable;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>References that go together on the relocation map: from one written place, in one state, to the same places.</summary>
/// <param name="From">Written folder with slashes; empty for what is carried inside the scene.</param>
/// <param name="To">Absolute folders: one for a relocation or an answer, several for a contest, none otherwise.</param>
/// <param name="Numbers">The references, one strand each.</param>
/// <param name="Contradicts">For a relocation: references under <paramref name="From"/> whose clear answer lies elsewhere.</param>
public sealed record Bundle(
    ReferenceState State,
    string From,
    ImmutableArray<string> To,
    ImmutableArray<int> Numbers,
    ImmutableArray<int> Contradicts
)
{
    /// <summary>Neutral pictures stand in for these.</summary>
    public bool StandIns { get; init; }
}

/// <summary>The muster drawn as bundles: old places to new places.</summary>
public static class RelocationMap
{
    private const int MostRivals = 3;

    private static readonly ReferenceState[] Order =
    [
        ReferenceState.Elsewhere,
        ReferenceState.Contested,
        ReferenceState.Present,
        ReferenceState.Damaged,
        ReferenceState.Missing,
        ReferenceState.Outside,
        ReferenceState.Embedded,
    ];

    /// <summary>Bundles by state, what can be decided first; within a state the largest first.</summary>
    public static ImmutableArray<Bundle> Of(MusterReport report)
    {
        var relocations = RelocationRules
            .Infer(report.References)
            .Select(r => new Bundle(ReferenceState.Elsewhere, r.From, [r.To], r.Settles, r.Contradicts));
        var others = report
            .References.Where(r => r.State != ReferenceState.Elsewhere)
            .GroupBy(r => (r.State, From: From(r), To: string.Join('\n', To(r)), StandIns: r.Flags.HasFlag(ReferenceFlags.StandIn)))
            .Select(g => new Bundle(g.Key.State, g.Key.From, [.. To(g.First())], [.. g.Select(r => r.Number)], [])
            {
                StandIns = g.Key.StandIns,
            });
        return
        [
            .. relocations
                .Concat(others)
                .OrderBy(b => Array.IndexOf(Order, b.State))
                .ThenByDescending(b => b.Numbers.Length)
                .ThenBy(b => b.From, StringComparer.Ordinal),
        ];
    }

    private static string From(MusteredReference reference) =>
        reference.Reference.Carried is null ? WrittenPath.Parse(reference.Reference.Written).Folder : string.Empty;

    private static IEnumerable<string> To(MusteredReference reference) =>
        reference.State switch
        {
            ReferenceState.Present => [Path.GetDirectoryName(reference.Resolved)!],
            ReferenceState.Contested => reference
                .Candidates.Select(c => Path.GetDirectoryName(c.Path)!)
                .Distinct(StringComparer.Ordinal)
                .Take(MostRivals),
            _ => [],
        };
}
