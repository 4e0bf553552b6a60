using System.Runtime.CompilerServices;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>
/// Makes each fix on a draft of the scene before it is offered: the finding must be gone, nothing as serious may come in its place, and
/// no other material may change. Rules about single materials are run again for every material that changed. Whether a finding about
/// the whole scene is gone is proven by the tests: asking its rule again would be an audit for each fix.
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
        var target = materialRules.Contains(finding.Rule) && finding.Target.Material is { } name ? scene.Called(name) : null;
        for (var i = 0; i < draft.Materials.Count; i++)
        {
            if (draft.WasAt(i) is not (>= 0 and var place))
                continue; // It was made by the fix.
            var (was, now) = (scene.Everything[place], draft.Materials[i]);
            if (ReferenceEquals(was.Material, now))
                continue;
            if (target is not null && was != target)
                return $"It would change {now.Name} too.";
            if (Mends(finding, was, new MaterialView(now, scene, was.Users)) is { } not)
                return not;
        }

        return null;
    }

    private string? Mends(Finding finding, MaterialView was, MaterialView after)
    {
        HashSet<(string Rule, string? Part, string Cause)>? there = null;
        // What the destination makes of it is another matter than what the look is.
        foreach (var rule in rules.Where(r => r.Id == finding.Rule || !r.AsksDestination))
        foreach (var left in rule.Inspect(after, scene))
        {
            if (left.Key == finding.Key)
                return "What could be changed does not mend it.";
            if (left.Severity < finding.Severity)
                continue;
            // Not by its key: the edit may be another name.
            there ??= before[was.Name].Select(Place).ToHashSet();
            if (!there.Contains(Place(left)) && !elsewhere.Contains(left.Key))
                return $"It would bring something as serious: {left.Message}";
        }

        return null;
    }

    private static (string Rule, string? Part, string Cause) Place(Finding finding) =>
        (finding.Rule, finding.Target.Part, finding.Cause.Key);
}
