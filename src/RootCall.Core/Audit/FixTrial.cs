using System.Runtime.CompilerServices;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>
/// Makes each fix on a draft of the scene before it is offered: the finding must be gone, nothing as serious may come in its place, and
/// no other material may change. Rules about single materials are run again for that material alone; what a rule about the whole
/// scene offers is only made, and proven by the tests.
/// </summary>
internal sealed class FixTrial
{
    private readonly AuditScene scene;
    private readonly List<MaterialRule> rules;
    private readonly HashSet<string> materialRules;
    private readonly ILookup<string, Finding> before;
    private readonly HashSet<string> elsewhere;
    private readonly ConditionalWeakTable<Finding, Finding> known;

    /// <param name="rules">Those that ran.</param>
    /// <param name="known">Findings that were tried in an earlier audit of the same scene, by what came of them.</param>
    public FixTrial(AuditScene scene, IEnumerable<Rule> rules, IEnumerable<Finding> found, ConditionalWeakTable<Finding, Finding>? known)
    {
        this.scene = scene;
        this.rules = [.. rules.OfType<MaterialRule>()];
        materialRules = this.rules.Select(r => r.Id).ToHashSet(StringComparer.Ordinal);
        var all = found.ToList();
        before = all.Where(f => f.Target.Material is not null).ToLookup(f => f.Target.Material!, StringComparer.Ordinal);
        elsewhere = all.Where(f => f.Target.Material is null).Select(f => f.Key).ToHashSet(StringComparer.Ordinal);
        this.known = known ?? [];
    }

    /// <summary>The finding with the fixes that hold.</summary>
    public Finding Try(Finding finding)
    {
        if (finding.Fixes.IsEmpty)
            return finding;
        if (known.TryGetValue(finding, out var settled))
            return settled;
        string? why = null;
        var kept = finding.Fixes.RemoveAll(f => WhyNot(finding, f) is { } not && (why ??= not) is not null);
        settled =
            kept.Length == finding.Fixes.Length
                ? finding
                : finding with
                {
                    Fixes = kept,
                    Decide = finding.Decide ?? (kept.IsEmpty ? why : null),
                };
        known.AddOrUpdate(finding, settled);
        return settled;
    }

    private string? WhyNot(Finding finding, Fix fix)
    {
        var draft = new SceneDraft(scene.Index);
        foreach (var edit in fix.Edits)
            if (edit.Change(draft) is { } why)
                return why;
        if (!materialRules.Contains(finding.Rule) || finding.Target.Material is not { } name || scene.Called(name) is not { } target)
            return null;
        for (var i = 0; i < scene.Scene.Materials.Length && i < draft.Materials.Count; i++)
        {
            var (was, now) = (scene.Scene.Materials[i], draft.Materials[i]);
            if (ReferenceEquals(was, now))
                continue;
            if (!ReferenceEquals(was, target.Material))
                return $"It would change {now.Name} too.";
            if (Mends(finding, new MaterialView(now, scene, target.Users)) is { } not)
                return not;
        }

        return null;
    }

    private string? Mends(Finding finding, MaterialView after)
    {
        HashSet<string>? there = null;
        // What the destination makes of it is another matter than what the look is.
        foreach (var rule in rules.Where(r => r.Id == finding.Rule || !r.AsksDestination))
        foreach (var left in rule.Inspect(after, scene))
        {
            if (left.Key == finding.Key)
                return "What could be changed does not mend it.";
            if (left.Severity < finding.Severity)
                continue;
            there ??= before[finding.Target.Material!].Select(f => f.Key).ToHashSet(StringComparer.Ordinal);
            if (!there.Contains(left.Key) && !elsewhere.Contains(left.Key))
                return $"It would bring something as serious: {left.Message}";
        }

        return null;
    }
}
