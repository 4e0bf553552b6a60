using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>
/// A decision at several places, as one plan. It is tried on a draft, place by place: what cannot be written is left with its reason.
/// A rule is not asked whether it likes it; the person has looked.
/// </summary>
public static class HandPlan
{
    public static FixPlan Make(AuditScene scene, HandDecision decision, IEnumerable<HandPlace> places)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        var (done, left) = (ImmutableArray.CreateBuilder<Finding>(), ImmutableArray.CreateBuilder<(Finding, string)>());
        var known = new HashSet<Edit>();
        // An image that several inputs read is one finding with several places.
        var told = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (place, finding) in places)
        {
            // Without a finding of its own a place is told of as if it had one.
            var about = finding
                ?? new Finding("by-hand", Severity.Note, place, decision.Title, new(string.Empty, string.Empty, string.Empty));
            try
            {
                var mine = decision.Edits(scene, place);
                if (WhyNot(scene, mine, decision, place) is { } why)
                {
                    left.Add((about, why));
                    continue;
                }

                edits.AddRange(mine.Where(known.Add));
                if (finding is not null && told.Add(finding.Key))
                    done.Add(finding with { Fixes = [new(decision.Title, 1, mine)] });
            }
            catch (CannotUseException e)
            {
                left.Add((about, e.Message));
            }
        }

        return new(edits.ToImmutable(), done.ToImmutable(), left.ToImmutable());
    }

    /// <summary>One entry, so that one undo takes it back.</summary>
    /// <exception cref="CannotUseException">It can be written nowhere; the sentence says why.</exception>
    public static LedgerEntry Entry(this FixPlan plan, HandDecision decision, DateTimeOffset at)
    {
        var places = plan.Edits.Select(e => e.Text.Where).Distinct().ToList();
        var where = places.Count == 1 ? places[0] : $"{places.Count} places";
        return plan.Entry($"{decision.Title}: {where}", LedgerEntry.HandProposed, at);
    }

    private static string? WhyNot(AuditScene scene, ImmutableArray<Edit> edits, HandDecision decision, Target place)
    {
        var draft = new SceneDraft(scene.Index);
        return edits.Select(e => e.Change(draft)).FirstOrDefault(why => why is not null) ?? decision.Missed(draft, place);
    }
}
