using System.Collections.Immutable;
using RootCall.Core.Edits;
using static System.FormattableString;

namespace RootCall.Core.Audit;

/// <summary>Fixes of several findings as one entry of the ledger.</summary>
/// <param name="Edits">Each once; of two that want another thing of the same place the first is taken.</param>
/// <param name="Fixed">The findings that they fix.</param>
/// <param name="Left">The findings that are left, each with the reason.</param>
public sealed record FixPlan(
    ImmutableArray<Edit> Edits,
    ImmutableArray<Finding> Fixed,
    ImmutableArray<(Finding Finding, string Reason)> Left
)
{
    /// <param name="least">Fixes that are less sure are left out.</param>
    public static FixPlan Make(IEnumerable<Finding> findings, double least = 0)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        var wanted = new Dictionary<string, string>(StringComparer.Ordinal);
        var (done, left) = (ImmutableArray.CreateBuilder<Finding>(), ImmutableArray.CreateBuilder<(Finding, string)>());
        foreach (var finding in findings.DistinctBy(f => f.Key))
        {
            if (finding.Fixes.FirstOrDefault() is not { } fix)
                left.Add((finding, finding.Decide ?? "Only a person can decide."));
            else if (fix.Confidence < least)
                left.Add((finding, Invariant($"Its fix is {fix.Confidence:0.00} sure; {least:0.00} is asked.")));
            else if (
                fix.Edits.FirstOrDefault(e => wanted.TryGetValue(e.Target, out var other) && other != e.Describe() + e.Text.After)
                    is { } clash
                && !IsMove(fix, clash)
            )
                left.Add((finding, $"Another fix changes {clash.Text.Where} already; audit again after it."));
            else
            {
                foreach (var edit in fix.Edits)
                    if (!wanted.TryGetValue(edit.Target, out var known) || known != edit.Describe() + edit.Text.After)
                    {
                        edits.Add(edit);
                        wanted[edit.Target] = edit.Describe() + edit.Text.After;
                    }

                done.Add(finding);
            }
        }

        return new(edits.ToImmutable(), done.ToImmutable(), left.ToImmutable());
    }

    /// <summary>A fix that changes one place twice itself, as when an image is put in and its factor set.</summary>
    private static bool IsMove(Fix fix, Edit edit) => fix.Edits.Count(e => e.Target == edit.Target) > 1;

    /// <summary>An entry that says what is fixed, and by which rule.</summary>
    /// <exception cref="Files.CannotUseException">Nothing can be fixed; the sentence says why.</exception>
    public LedgerEntry Entry(DateTimeOffset at)
    {
        var causes = Fixed.Select(f => f.Cause.Key).Distinct().Count();
        return causes == 1
            ? Entry($"Fix {Fixed[0].Cause.Sentence(Fixed.Length)}", $"rule {Fixed[0].Rule}", at)
            : Entry($"Fix {Fixed.Length} findings of {causes} causes", "rules of the audit", at);
    }

    /// <exception cref="Files.CannotUseException">Nothing can be fixed; the sentence says why.</exception>
    public LedgerEntry Entry(string sentence, string proposedBy, DateTimeOffset at) =>
        Edits.IsEmpty
            ? throw new Files.CannotUseException(Left.IsEmpty ? "There is nothing to fix." : Left[0].Reason)
            : new(Guid.CreateVersion7(), sentence, Edits, EntryState.Pending, proposedBy, at)
            {
                Fixed = [.. Fixed.Select(f => f.AsFixed())],
            };

    /// <summary>“111 edits = 37 disconnect + 37 connect + 37 set colour space”.</summary>
    public string Count()
    {
        var kinds = Edits
            .GroupBy(e => e.Word)
            .OrderByDescending(g => g.Count())
            .ThenBy(g => g.Key, StringComparer.Ordinal)
            .Select(g => $"{g.Count()} {g.Key}")
            .ToList();
        return kinds.Count == 1 ? $"{Plural(Edits.Length)}: {kinds[0]}" : $"{Plural(Edits.Length)} = {string.Join(" + ", kinds)}";
    }

    private static string Plural(int n) => n == 1 ? "1 edit" : $"{n} edits";
}
