using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;

namespace RootCall.Core.Bench;

/// <summary>A material as the sheet shows it.</summary>
/// <param name="Name">What edits call it by.</param>
/// <param name="Title">As people see it; several may share one.</param>
/// <param name="Model">Name of its shading model; the format's own type where none is known; empty without a surface.</param>
/// <param name="Worst">Of its open findings; null for none.</param>
/// <param name="Findings">How many are open.</param>
/// <param name="Word">What the worst of them is about, in a few words; empty for none.</param>
/// <param name="Tells">Sentences of the worst ones.</param>
/// <param name="Change">Place, from 1, of the last entry of the ledger that changes its look; 0 for none.</param>
/// <param name="Twins">Others that look the same, or differ in one value.</param>
public sealed record BenchRow(
    string Name,
    string Title,
    string Model,
    string Family,
    Severity? Worst,
    int Findings,
    string Word,
    ImmutableArray<string> Tells,
    int Change,
    ImmutableArray<Twin> Twins,
    bool IsWorn
);

/// <param name="Of">The other material.</param>
/// <param name="Differ">In what they differ.</param>
public sealed record Twin(string Of, string Differ);

/// <summary>All materials of a scene side by side.</summary>
public static class BenchSheet
{
    /// <summary>Sentences that a row tells at most, and other materials that it names.</summary>
    private const int Told = 3;

    /// <param name="isOpen">Of a finding: nobody lets it stand.</param>
    public static ImmutableArray<BenchRow> Of(AuditScene scene, AuditReport report, Ledger ledger, Func<Finding, bool> isOpen)
    {
        var open = report
            .Findings.Where(f => f.Target.Material is not null && isOpen(f))
            .GroupBy(f => scene.Called(f.Target.Material!)?.Name ?? f.Target.Material!)
            .ToDictionary(g => g.Key, g => g.OrderByDescending(f => f.Severity).ToList(), StringComparer.Ordinal);
        var changes = Changes(scene, ledger);
        var twins = Twins(scene, report);
        var families = MaterialFamily.Of([.. scene.Materials.Select(m => m.Material.Name)]);
        return
        [
            .. scene.Materials.Select(
                (m, i) =>
                {
                    var mine = open.GetValueOrDefault(m.Name) ?? [];
                    return new BenchRow(
                        m.Name,
                        m.Material.Name,
                        m.Model?.Name ?? m.Type,
                        families[i],
                        mine.Count > 0 ? mine[0].Severity : null,
                        mine.Count,
                        mine.Count > 0 ? WordOf(mine[0]) : string.Empty,
                        [.. mine.Take(Told).Select(f => f.Message)],
                        changes.GetValueOrDefault(m.Name),
                        [.. twins[m.Name].DistinctBy(t => t.Of).Take(Told)],
                        !m.Users.IsEmpty
                    );
                }
            ),
        ];
    }

    /// <summary>The rule's own word: <c>values.too-dark</c> is “too dark”.</summary>
    private static string WordOf(Finding finding) =>
        finding.Rule[(finding.Rule.IndexOf('.', StringComparison.Ordinal) + 1)..].Replace('-', ' ');

    private static Dictionary<string, int> Changes(AuditScene scene, Ledger ledger)
    {
        var users = scene.Materials.SelectMany(m => m.Maps.Select(x => (x.Use.Reference, m.Name))).ToLookup(u => u.Reference, u => u.Name);
        var changes = new Dictionary<string, int>(StringComparer.Ordinal);
        for (var i = 0; i < ledger.Entries.Length; i++)
            foreach (var name in ledger.Entries[i].Edits.SelectMany(e => Touched(e, users)))
                changes[scene.Called(name)?.Name ?? name] = i + 1;
        return changes;
    }

    private static IEnumerable<string> Touched(Edit edit, ILookup<ReferenceKey, string> users) =>
        edit switch
        {
            SetValue value => [value.Material],
            SetImage image => [image.Material],
            CrossMaterial cross => [cross.Beside],
            CopyMaterial copy => [copy.To],
            Rename { Kind: "material" } rename => [rename.To],
            { About: { } key } => users[key],
            _ => [],
        };

    private static ILookup<string, Twin> Twins(AuditScene scene, AuditReport report)
    {
        string Name(string material) => scene.Called(material)?.Name ?? material;
        return report
            .Findings.SelectMany(f => f.Evidence.OfType<PairEvidence>())
            .Where(p => p.Kind == "material")
            .SelectMany(p => new[] { (Of: Name(p.A), Other: Name(p.B), p.Differ), (Of: Name(p.B), Other: Name(p.A), p.Differ) })
            .ToLookup(p => p.Of, p => new Twin(p.Other, p.Differ));
    }
}
