using System.Collections.Concurrent;
using System.Collections.Immutable;
using RootCall.Core.Destinations;

namespace RootCall.Core.Audit;

/// <summary>What an audit found.</summary>
/// <param name="Findings">Worst first, in the order of the rules.</param>
/// <param name="Failed">Rules that could not be run, with the reason; the others were.</param>
public sealed record AuditReport(ImmutableArray<Finding> Findings, ImmutableArray<FailedRule> Failed)
{
    /// <summary>How much of the scene was looked at.</summary>
    public required AuditCoverage Coverage { get; init; }

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
        return Run(scene, active, active, [], memory, threads, stop);
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
        var others = report.Findings.Where(f => !ids.Contains(f.Rule));
        var active = RuleCatalog.All.Where(r => scene.House.IsOn(r.Id)).ToList();
        var there = Run(scene.For(destination), asking, active, others, memory: null, threads, stop);
        return new(
            [.. others.Concat(there.Findings).OrderByDescending(f => f.Severity).ThenBy(f => order[f.Rule])],
            [.. report.Failed.Where(f => !ids.Contains(f.Rule)).Concat(there.Failed).OrderBy(f => f.Rule, StringComparer.Ordinal)]
        )
        {
            Coverage = report.Coverage,
        };
    }

    /// <param name="active">Rules that run.</param>
    /// <param name="all">Rules that fixes are tried against.</param>
    /// <param name="others">What those of them found that do not run.</param>
    private static AuditReport Run(
        AuditScene scene,
        List<Rule> active,
        List<Rule> all,
        IEnumerable<Finding> others,
        AuditMemory? memory,
        int? threads,
        CancellationToken stop
    )
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
        var inOrder = found.OrderBy(f => f.Rule).ThenBy(f => f.At).Select(f => f.Finding).ToArray();
        var broken = failed.Select(f => f.Rule).ToHashSet(StringComparer.Ordinal);
        var trial = new FixTrial(scene, all.Where(r => !broken.Contains(r.Id)), [.. inOrder, .. others], memory?.Tried);
        Parallel.For(0, inOrder.Length, options, i =>
        {
            var tried = trial.Try(inOrder[i]);
            inOrder[i] = tried with { Severity = scene.House.SeverityOf(tried.Rule) ?? tried.Severity };
        });
        return new([.. inOrder.OrderByDescending(f => f.Severity)], [.. failed.OrderBy(f => f.Rule, StringComparer.Ordinal)])
        {
            Coverage = AuditCoverage.Of(scene, all.Count - failed.Count),
        };
    }

    private static IEnumerable<Finding> Findings(Rule rule, AuditScene scene, AuditMemory? memory) =>
        memory is null || rule is not MaterialRule one ? rule.Inspect(scene) : memory.Of(one, scene);
}
