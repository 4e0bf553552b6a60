using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Core.Edits;

/// <summary>The artist's decisions about a muster, each as one entry for the ledger.</summary>
public static class Decisions
{
    /// <summary>Everything that moved from one place to another.</summary>
    /// <exception cref="CannotUseException">The muster infers no such rule any more.</exception>
    public static LedgerEntry ApproveRule(MusterReport report, string from, string to, Func<string, string> nameFolder, DateTimeOffset at)
    {
        var rule = RelocationRules.Infer(report.References).FirstOrDefault(r => r.From == from && r.To == to)
            ?? throw new CannotUseException($"Nothing is left that moved from {from} to {to}.");
        var settled = rule.Settles.ToHashSet();
        var edits = report.References.Where(r => settled.Contains(r.Number)).Select(CurrentScene.Take);
        return Entry($"Relink {Count(settled.Count)}, {from} to {nameFolder(to)}", edits, "relocation rule", at);
    }

    /// <summary>For each of the references, its best candidate in that folder.</summary>
    /// <exception cref="CannotUseException">None of them has a candidate there.</exception>
    public static LedgerEntry TakeFrom(MusterReport report, IReadOnlyCollection<int> numbers, string folder, Func<string, string> nameFolder, DateTimeOffset at)
    {
        var wanted = numbers.ToHashSet();
        var taken = (
            from reference in report.References
            where wanted.Contains(reference.Number)
            let candidate = reference.Candidates.FirstOrDefault(c => Path.GetDirectoryName(c.Path) == folder)
            where candidate is not null
            select new RelinkReference(reference.Reference.Key, reference.Resolved, candidate.Path)).ToList();
        if (taken.Count == 0) throw new CannotUseException($"None of the picked references has a candidate in {folder}.");
        return Entry($"Relink {(taken.Count == 1 ? Path.GetFileName(taken[0].To!) : Count(taken.Count))} to {nameFolder(folder)}", taken, "candidate", at);
    }

    /// <summary>One reference, one file.</summary>
    /// <exception cref="CannotUseException">No such reference, or no such file inside the roots.</exception>
    public static LedgerEntry ByHand(MusterReport report, int number, string path, RootScope scope, DateTimeOffset at)
    {
        var reference = report.References.FirstOrDefault(r => r.Number == number) ?? throw new CannotUseException($"The scene has no reference {number}.");
        if (reference.Reference.Carried is not null) throw new CannotUseException($"“{reference.Reference.Written}” is carried inside the scene; it calls no file that could be relinked.");
        if (scope.Enter(path) is not { } real || !File.Exists(real)) throw new CannotUseException($"“{path}” is no file inside the roots.");
        var name = WrittenPath.Parse(reference.Reference.Written).FileName;
        return Entry($"Relink {name} to {Path.GetFileName(real)}", [new RelinkReference(reference.Reference.Key, reference.Resolved, real)], "by hand", at);
    }

    private static LedgerEntry Entry(string sentence, IEnumerable<Edit> edits, string proposedBy, DateTimeOffset at) =>
        new(Guid.CreateVersion7(), sentence, [.. edits], EntryState.Pending, proposedBy, at);

    private static string Count(int n) => n == 1 ? "1 reference" : string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{n:N0} references");
}
