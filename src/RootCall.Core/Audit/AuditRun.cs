using System.Collections.Concurrent;
using System.Collections.Immutable;
using RootCall.Core.Destinations;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>What an audit found.</summary>
/// <param name="Findings">Worst first, in the order of the rules.</param>
/// <param name="Failed">Rules that could not be run, with the reason; the others were.</param>
public sealed record AuditReport(ImmutableArray<Finding> Findings, ImmutableArray<FailedRule> Failed)
{
    public int Count(Severity severity) => Findings.Count(f => f.Severity == severity);

    /// <summary>Findings by cause: the worst first, then the larger family.</summary>
    public IEnumerable<CauseGroup> Causes =>
        Findings
            .GroupBy(f => f.Cause.Key)
            .Select(g => new CauseGroup(g.First().Cause, g.First().Rule, g.Max(f => f.Severity), [.. g]))
            .OrderByDescending(g => g.Severity)
            .ThenByDescending(g => g.Findings.Length)
            .ThenBy(g => g.Cause.Key, StringComparer.Ordinal);
}

public sealed record CauseGroup(Cause Cause, string Rule, Severity Severity, ImmutableArray<Finding> Findings)
{
    /// <summary>The finding that says most: the surest fix, then the most evidence.</summary>
    public Finding Clearest =>
        Findings.OrderByDescending(f => f.Fixes.FirstOrDefault()?.Confidence ?? 0).ThenByDescending(f => f.Evidence.Length).First();
}

public sealed record FailedRule(string Rule, string Reason);

/// <summary>
/// Runs rules. Rules about single materials run again only for materials that changed since the last audit with the same
/// memory; all others run each time.
/// </summary>
public static class AuditRun
{
    /// <param name="memory">What an earlier audit of the same scene found; null to start anew.</param>
    /// <param name="rules">All when null.</param>
    /// <param name="threads">How many rules run at once; as many as there are processors when null.</param>
    public static AuditReport Make(
        AuditScene scene,
        AuditMemory? memory = null,
        IReadOnlyList<Rule>? rules = null,
        int? threads = null,
        CancellationToken stop = default
    )
    {
        var active = (rules ?? RuleCatalog.All).Where(r => scene.House.IsOn(r.Id)).ToList();
        return Run(scene, active, memory, threads, stop);
    }

    /// <summary>The same audit for another destination: only rules that ask where the scene goes are run again.</summary>
    /// <param name="threads">How many rules run at once; as many as there are processors when null.</param>
    public static AuditReport For(
        AuditScene scene,
        AuditReport report,
        Destination destination,
        int? threads = null,
        CancellationToken stop = default
    )
    {
        var asking = RuleCatalog.All.Where(r => r.AsksDestination && scene.House.IsOn(r.Id)).ToList();
        var ids = asking.Select(r => r.Id).ToHashSet(StringComparer.Ordinal);
        var order = RuleCatalog.All.Select((r, i) => (r.Id, i)).ToDictionary(r => r.Id, r => r.i, StringComparer.Ordinal);
        var there = Run(scene.For(destination), asking, memory: null, threads, stop);
        return new(
            [
                .. report
                    .Findings.Where(f => !ids.Contains(f.Rule))
                    .Concat(there.Findings)
                    .OrderByDescending(f => f.Severity)
                    .ThenBy(f => order[f.Rule]),
            ],
            [.. report.Failed.Where(f => !ids.Contains(f.Rule)).Concat(there.Failed).OrderBy(f => f.Rule, StringComparer.Ordinal)]
        );
    }

    private static AuditReport Run(AuditScene scene, List<Rule> active, AuditMemory? memory, int? threads, CancellationToken stop)
    {
        var found = new ConcurrentBag<(int Rule, int At, Finding Finding)>();
        var failed = new ConcurrentBag<FailedRule>();
        memory?.Begin(scene);
        var options = new ParallelOptions { CancellationToken = stop, MaxDegreeOfParallelism = threads ?? Environment.ProcessorCount };
        Parallel.For(0, active.Count, options, r =>
        {
            try
            {
                var at = 0;
                foreach (var finding in Findings(active[r], scene, memory))
                    found.Add((r, at++, finding));
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                failed.Add(new(active[r].Id, e.Message));
            }
        });
        memory?.End();
        var settled = found.OrderBy(f => f.Rule).ThenBy(f => f.At).Select(f => Settle(f.Finding, scene)).OrderByDescending(f => f.Severity);
        return new([.. settled], [.. failed.OrderBy(f => f.Rule, StringComparer.Ordinal)]);
    }

    private static IEnumerable<Finding> Findings(Rule rule, AuditScene scene, AuditMemory? memory) =>
        memory is null || rule is not MaterialRule one ? rule.Inspect(scene) : memory.Of(one, scene);

    /// <summary>The house's severity, and only fixes that can be made: each is tried on a draft of the scene.</summary>
    private static Finding Settle(Finding finding, AuditScene scene)
    {
        var settled = finding with { Severity = scene.House.SeverityOf(finding.Rule) ?? finding.Severity };
        if (settled.Fixes.IsEmpty)
            return settled;
        string? why = null;
        var kept = settled.Fixes.RemoveAll(f => WhyNot(f, scene.Index) is { } not && (why ??= not) is not null);
        return kept.Length == settled.Fixes.Length
            ? settled
            : settled with
            {
                Fixes = kept,
                Decide = settled.Decide ?? (kept.IsEmpty ? why : null),
            };
    }

    private static string? WhyNot(Fix fix, SceneIndex index)
    {
        var draft = new SceneDraft(index);
        foreach (var edit in fix.Edits)
            if (edit.Change(draft) is { } why)
                return why;
        return null;
    }
}
