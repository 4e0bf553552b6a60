using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>The ledger of each scene. Every change reads it, makes another one and writes the difference in one transaction.</summary>
public sealed class LedgerStore(IDbContextFactory<RootCallDb> databases) : ILedgers
{
    private const string Undone = "undone";

    public async Task<Ledger> Read(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return Ledger(await Rows(db, sceneId, stop));
    }

    /// <summary>Changes of one scene's ledger are made one after the other, each on what the one before it left.</summary>
    public async Task<Ledger> Change(Guid sceneId, Func<Ledger, Ledger> change, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        await Turns.Take(db, sceneId, stop);
        var rows = await Rows(db, sceneId, stop);
        var after = change(Ledger(rows));
        var byId = rows.ToDictionary(r => r.Id);
        // What is taken back is kept until something new is put in, so that it can be done again.
        foreach (var gone in rows.Where(r => after.Entries.All(e => e.Id != r.Id)))
            gone.State = Undone;
        var undone = await db.LedgerEntries.Where(l => l.SceneId == sceneId && l.State == Undone).ToListAsync(stop);
        var sequence = rows.Concat(undone).Select(r => r.Sequence).DefaultIfEmpty(0).Max();
        foreach (var again in undone.Where(u => after.Entries.Any(e => e.Id == u.Id)))
        {
            (again.State, again.Sequence) = (Word(EntryState.Pending), ++sequence);
            byId[again.Id] = again;
        }

        if (after.Entries.Any(e => !byId.ContainsKey(e.Id)))
            db.RemoveRange(undone);
        foreach (var entry in after.Entries)
        {
            if (byId.TryGetValue(entry.Id, out var row))
                row.State = Word(entry.State);
            else
                db.Add(
                    new LedgerEntryRow
                    {
                        Id = entry.Id,
                        SceneId = sceneId,
                        Sequence = ++sequence,
                        Sentence = entry.Sentence,
                        State = Word(entry.State),
                        ProposedBy = entry.ProposedBy,
                        At = entry.At,
                        Rule = entry.Rule is { } rule ? Json.Document(rule) : null,
                        Fixed = entry.Fixed.IsDefaultOrEmpty ? null : Json.Document(entry.Fixed),
                        Edits = Json.Document(entry.Edits),
                    }
                );
        }

        await db.SaveChangesAsync(stop);
        await Turns.End(db, sceneId, SceneChange.Ledger, stop);
        await transaction.CommitAsync(stop);
        return after;
    }

    /// <summary>The entry that was taken back last, as a pending one again; the ledger as it is when there is none.</summary>
    public async Task<Ledger> Redo(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var next = await db
            .LedgerEntries.AsNoTracking()
            .Where(l => l.SceneId == sceneId && l.State == Undone)
            .OrderBy(l => l.Sequence)
            .FirstOrDefaultAsync(stop)
            ?? throw new CannotUseException("Nothing was taken back that could be done again.");
        return await Change(sceneId, l => l.Put(Entry(next)), stop);
    }

    /// <summary>How many entries could be done again.</summary>
    public async Task<int> CountUndone(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.LedgerEntries.CountAsync(l => l.SceneId == sceneId && l.State == Undone, stop);
    }

    private static Task<List<LedgerEntryRow>> Rows(RootCallDb db, Guid sceneId, CancellationToken stop) =>
        db.LedgerEntries.Where(l => l.SceneId == sceneId && l.State != Undone).OrderBy(l => l.Sequence).ToListAsync(stop);

    private static Ledger Ledger(IEnumerable<LedgerEntryRow> rows) => new([.. rows.Select(Entry)]);

    private static LedgerEntry Entry(LedgerEntryRow r) =>
        new(
            r.Id,
            r.Sentence,
            Json.Read<ImmutableArray<Edit>>(r.Edits),
            r.State == "applied" ? EntryState.Applied : EntryState.Pending,
            r.ProposedBy,
            r.At
        )
        {
            Rule = r.Rule is { } rule ? Json.Read<PathRewrite>(rule) : null,
            Fixed = r.Fixed is { } done ? Json.Read<ImmutableArray<FixedFinding>>(done) : [],
        };

    private static string Word(EntryState state) => state == EntryState.Applied ? "applied" : "pending";
}
