using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>The ledger of each scene. Every change reads it, makes another one and writes the difference in one transaction.</summary>
public sealed class LedgerStore(IDbContextFactory<RootCallDb> databases)
{
    public async Task<Ledger> Read(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return Ledger(await Rows(db, sceneId, stop));
    }

    /// <exception cref="CannotUseException">Another window changed the ledger in between.</exception>
    public async Task<Ledger> Change(Guid sceneId, Func<Ledger, Ledger> change, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        var rows = await Rows(db, sceneId, stop);
        var after = change(Ledger(rows));
        var byId = rows.ToDictionary(r => r.Id);
        db.RemoveRange(rows.Where(r => after.Entries.All(e => e.Id != r.Id)));
        var sequence = rows.Select(r => r.Sequence).DefaultIfEmpty(0).Max();
        foreach (var entry in after.Entries)
        {
            if (byId.TryGetValue(entry.Id, out var row)) row.State = Word(entry.State);
            else
                db.Add(new LedgerEntryRow
                {
                    Id = entry.Id,
                    SceneId = sceneId,
                    Sequence = ++sequence,
                    Sentence = entry.Sentence,
                    State = Word(entry.State),
                    ProposedBy = entry.ProposedBy,
                    At = entry.At,
                    Rule = entry.Rule is { } rule ? Json.Document(rule) : null,
                    Edits = Json.Document(entry.Edits),
                });
        }

        try
        {
            await db.SaveChangesAsync(stop);
            await transaction.CommitAsync(stop);
        }
        catch (DbUpdateException e)
        {
            throw new CannotUseException("The ledger was changed in another window at the same moment; look at it again. Nothing was changed here.", e);
        }

        return after;
    }

    private static Task<List<LedgerEntryRow>> Rows(RootCallDb db, Guid sceneId, CancellationToken stop) =>
        db.LedgerEntries.Where(l => l.SceneId == sceneId).OrderBy(l => l.Sequence).ToListAsync(stop);

    private static Ledger Ledger(IEnumerable<LedgerEntryRow> rows) => new(
        [.. rows.Select(r => new LedgerEntry(
            r.Id, r.Sentence, Json.Read<ImmutableArray<Edit>>(r.Edits), r.State == "applied" ? EntryState.Applied : EntryState.Pending, r.ProposedBy, r.At) { Rule = r.Rule is { } rule ? Json.Read<PathRewrite>(rule) : null })]);

    private static string Word(EntryState state) => state == EntryState.Applied ? "applied" : "pending";
}
