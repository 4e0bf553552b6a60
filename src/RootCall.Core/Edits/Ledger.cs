using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

public enum EntryState
{
    /// <summary>Put in, previewed, not yet part of the current scene.</summary>
    Pending,

    /// <summary>Part of the current scene.</summary>
    Applied,
}

/// <summary>One decision of the artist: edits that are applied and undone together.</summary>
/// <param name="Id">Identity in the store.</param>
/// <param name="Sentence">What it does, in one sentence with its count.</param>
/// <param name="ProposedBy">Who proposed it: <c>relocation rule</c>, <c>candidate</c>, <c>by hand</c>.</param>
public sealed record LedgerEntry(
    Guid Id,
    string Sentence,
    ImmutableArray<Edit> Edits,
    EntryState State,
    string ProposedBy,
    DateTimeOffset At
)
{
    /// <summary>The relocation rule it applies; null for any other entry.</summary>
    public PathRewrite? Rule { get; init; }

    /// <summary>The findings of the audit that it fixes; empty for any other entry.</summary>
    public ImmutableArray<FixedFinding> Fixed { get; init; } = [];

    /// <summary>Who proposes what a person decided.</summary>
    public const string HandProposed = "by hand";

    /// <summary>What a person decided: pending, until it is applied.</summary>
    public static LedgerEntry ByHand(string sentence, ImmutableArray<Edit> edits, DateTimeOffset at) =>
        new(Guid.CreateVersion7(), sentence, edits, EntryState.Pending, HandProposed, at);
}

/// <summary>
/// The ordered edits made to a scene since it arrived. Immutable: each act gives another ledger. Applied entries come
/// before pending ones.
/// </summary>
public sealed record Ledger(ImmutableArray<LedgerEntry> Entries)
{
    public static Ledger Empty { get; } = new([]);

    public IEnumerable<LedgerEntry> Applied => Entries.Where(e => e.State == EntryState.Applied);

    public IEnumerable<LedgerEntry> Pending => Entries.Where(e => e.State == EntryState.Pending);

    public Ledger Put(LedgerEntry entry) => new(Entries.Add(entry with { State = EntryState.Pending }));

    /// <summary>Puts an entry in, unless somebody else has changed the same things meanwhile.</summary>
    /// <param name="seen">The last entry that whoever decided knew; null when that does not matter.</param>
    /// <exception cref="CannotUseException">Somebody has.</exception>
    public Ledger PutAfter(Guid? seen, LedgerEntry entry)
    {
        var at = Entries.FindIndex(e => e.Id == seen);
        var targets = Targets(entry).ToHashSet(StringComparer.Ordinal);
        if (at >= 0 && Entries.Skip(at + 1).FirstOrDefault(e => Targets(e).Any(targets.Contains)) is { } other)
            throw new CannotUseException(
                $"“{other.Sentence}” was put in from another window at {other.At.LocalDateTime:HH:mm}, and changes the same things. "
                    + "Nothing was put in here; look at it, and fix again."
            );
        return Put(entry);
    }

    /// <summary>Place, from 1, of the pending entry that fixes each finding, by the finding's key.</summary>
    public Dictionary<string, int> PendingFixes()
    {
        var pending = new Dictionary<string, int>(StringComparer.Ordinal);
        for (var i = 0; i < Entries.Length; i++)
            if (Entries[i].State == EntryState.Pending)
                foreach (var done in Entries[i].Fixed)
                    pending[done.Key] = i + 1;
        return pending;
    }

    /// <summary>Every pending entry becomes part of the current scene.</summary>
    public Ledger ApplyPending() => new([.. Entries.Select(e => e with { State = EntryState.Applied })]);

    /// <summary>Takes the last entry off; an empty ledger stays empty.</summary>
    public Ledger Undo() => Entries.IsEmpty ? this : new(Entries.RemoveAt(Entries.Length - 1));

    /// <summary>Keeps the entry and takes those after it off.</summary>
    public Ledger UndoTo(Guid id) => new([.. Entries.Take(Entries.FindIndex(e => e.Id == id) + 1)]);

    /// <summary>Takes one entry off, whatever came after it.</summary>
    /// <param name="standingOnIt">Later entries that change the same things: when there are any, nothing is taken off.</param>
    public Ledger TakeBack(Guid id, out ImmutableArray<LedgerEntry> standingOnIt)
    {
        var at = Entries.FindIndex(e => e.Id == id);
        standingOnIt = [];
        if (at < 0)
            return this;
        var touched = Targets(Entries[at]).ToHashSet();
        standingOnIt = [.. Entries.Skip(at + 1).Where(e => Targets(e).Any(touched.Contains))];
        return standingOnIt.IsEmpty ? new(Entries.RemoveAt(at)) : this;
    }

    /// <summary>The file that answers each relinked reference, last decision first.</summary>
    public ImmutableDictionary<ReferenceKey, string> Relinks(bool withPending = false) =>
        Answers(withPending).Where(a => a.Value.File is not null).ToImmutableDictionary(a => a.Key, a => a.Value.File!);

    /// <summary>What the entries say of references: which file answers, how its path is written, where it lies in a package.</summary>
    public ImmutableDictionary<ReferenceKey, Answer> Answers(bool withPending = false)
    {
        var answers = ImmutableDictionary.CreateBuilder<ReferenceKey, Answer>();
        foreach (var edit in (withPending ? Entries : Applied).SelectMany(e => e.Edits).Where(e => e.About is not null))
            answers[edit.About!.Value] = edit.Answered(answers.GetValueOrDefault(edit.About.Value) ?? new());
        return answers.ToImmutable();
    }

    private static IEnumerable<string> Targets(LedgerEntry entry) => entry.Edits.Select(e => e.Target);
}

internal static class ImmutableArrays
{
    public static int FindIndex<T>(this ImmutableArray<T> array, Predicate<T> match)
    {
        for (var i = 0; i < array.Length; i++)
            if (match(array[i]))
                return i;
        return -1;
    }
}
