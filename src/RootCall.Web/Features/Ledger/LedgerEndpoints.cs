using Microsoft.AspNetCore.Http.HttpResults;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Pictures;

namespace RootCall.Web.Features.Ledger;

internal sealed record LedgerView(IEnumerable<EntryItem> Entries, int Applied, int Pending);

internal sealed record EntryItem(
    Guid Id,
    int Place,
    string Sentence,
    string State,
    string ProposedBy,
    DateTimeOffset At,
    int Edits,
    IEnumerable<EditItem> First,
    IEnumerable<RefusedItem> Refused
);

/// <summary>Materials that an entry makes look another way, by name.</summary>
/// <param name="More">How many more there are.</param>
internal sealed record ChangedLooksView(IEnumerable<string> Materials, int More);

/// <summary>An edit of an entry that no longer applies.</summary>
internal sealed record RefusedItem(string What, string Reason);

/// <param name="Before">Path as it arrived.</param>
/// <param name="After">File that answers, as people call it.</param>
internal sealed record EditItem(string What, string Where, string Before, string After);

/// <summary>
/// A decision: one of a rule (<c>From</c> and <c>To</c>; of <c>Numbers</c> alone where they are given), picked references and a folder,
/// or one reference and a file.
/// </summary>
internal sealed record Decide(string? From, string? To, IReadOnlyList<int>? Numbers, string? Folder, int? Number, string? Path);

internal static class LedgerEndpoints
{
    private const int Shown = 12;

    public static void MapLedger(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/ledger").WithTags("Ledger");
        group.MapGet(string.Empty, async (Guid id, CurrentScenes current, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            return TypedResults.Ok(View(state.Ledger, state));
        });
        group.MapPost("/entries", async (Guid id, Decide decide, CurrentScenes current, LedgerStore ledgers, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            var entry = Entry(decide, state, state.Names);
            return TypedResults.Ok(View(await ledgers.Change(id, l => l.Put(entry), stop), state));
        });
        group.MapGet("/{entry:guid}/looks", Looks);
        group.MapGet("/{entry:guid}/swatch", Swatch).ExcludeFromDescription();
        group.MapPost("/apply", (Guid id, Changes changes, CancellationToken stop) => changes.Make(id, l => l.ApplyPending(), stop));
        group.MapPost("/undo", (Guid id, Changes changes, CancellationToken stop) => changes.Make(id, l => l.Undo(), stop));
        group.MapPost("/redo", async (Guid id, LedgerStore ledgers, CurrentScenes current, CancellationToken stop) =>
        {
            var after = await ledgers.Redo(id, stop);
            return TypedResults.Ok(View(after, await current.Get(id, stop)));
        });
        group
            .MapGet("/file", async (Guid id, Guid[]? entries, LedgerStore ledgers, CurrentScenes current, CancellationToken stop) =>
            {
                var ledger = await ledgers.Read(id, stop);
                var picked = entries is { Length: > 0 } ? ledger.Entries.Where(e => entries.Contains(e.Id)) : ledger.Entries;
                return Results.File(
                    LedgerFile.Write(picked),
                    "application/json",
                    Path.ChangeExtension(Path.GetFileName((await current.Get(id, stop)).Arrival.Path), ".ledger.json")
                );
            })
            .ExcludeFromDescription();
        group.MapPost("/undo-to/{entry:guid}", (Guid id, Guid entry, Changes changes, CancellationToken stop) =>
            changes.Make(id, l => l.UndoTo(entry), stop)
        );
        group.MapPost("/take-back/{entry:guid}", (Guid id, Guid entry, Changes changes, CancellationToken stop) => changes.Make(
                id,
                l =>
                {
                    var after = l.TakeBack(entry, out var standing);
                    return standing.IsEmpty
                        ? after
                        : throw new CannotUseException($"“{standing[0].Sentence}” stands on this entry; take that one back first.");
                },
                stop
            ));
    }

    private static async Task<Ok<ChangedLooksView>> Looks(Guid id, Guid entry, CurrentScenes current, CancellationToken stop)
    {
        if (await current.Around(id, entry, stop) is not var (before, after))
            return TypedResults.Ok(new ChangedLooksView([], 0));
        var changed = ChangedLooks.Between(before, after);
        return TypedResults.Ok(new ChangedLooksView(changed.Take(Shown), Math.Max(0, changed.Length - Shown)));
    }

    /// <param name="before">The material as it is before the entry; otherwise as it is with it, held beside that.</param>
    private static async Task<IResult> Swatch(
        Guid id,
        Guid entry,
        string material,
        bool? before,
        string? light,
        int? side,
        HttpResponse response,
        CurrentScenes current,
        DiskStore disk,
        SwatchRequests swatches,
        CancellationToken stop
    )
    {
        if (await current.Around(id, entry, stop) is not var (was, now))
            return Results.NoContent();
        var first = SwatchEndpoints.Order(was, material, light, side);
        var order =
            before == true ? first
            : SwatchEndpoints.Order(now, material, light, side) is { } after ? after with { Before = first }
            : null;
        return SwatchEndpoints.Answer(order, response, disk, swatches);
    }

    internal static LedgerView View(Core.Edits.Ledger ledger, CurrentState state)
    {
        var (uses, names) = (state.Uses, state.Names);
        var refused = state.Refused.ToLookup(r => r.Entry);
        return new(
            ledger.Entries.Select(
                (e, i) =>
                    new EntryItem(
                        e.Id,
                        i + 1,
                        e.Sentence,
                        e.State == EntryState.Applied ? "applied" : "pending",
                        e.ProposedBy,
                        e.At,
                        e.Edits.Length,
                        e.Edits.Take(Shown).Select(x => Item(x, uses, names)),
                        [
                            .. refused[e.Id].Select(r => new RefusedItem(r.What, r.Reason)),
                            .. e.State == EntryState.Applied
                                ? e
                                    .Edits.OfType<RelinkReference>()
                                    .Where(r => !uses.ContainsKey(r.Reference))
                                    .Select(r => new RefusedItem(r.Describe(), "the scene no longer calls for it"))
                                : [],
                        ]
                    )
            ),
            ledger.Applied.Count(),
            ledger.Pending.Count()
        );
    }

    private static EditItem Item(Edit edit, IReadOnlyDictionary<ReferenceKey, Reference> uses, FolderNames names) =>
        new(
            edit.Text.Kind,
            edit.Text.Where.Length == 0 && edit.About is { } key ? Where(uses.GetValueOrDefault(key)) : edit.Text.Where,
            edit.Text.Before,
            edit is RelinkReference relink ? After(relink, names) : edit.Text.After
        );

    private static string Where(Reference? reference) =>
        reference?.UsedBy.FirstOrDefault() is { } use
            ? string.Join(", ", new[] { use.Material, use.Input }.Where(t => t.Length > 0))
            : "no longer in the scene";

    private static string After(RelinkReference relink, FolderNames names) =>
        relink.To is null ? "as it arrived" : $"{names.Of(Path.GetDirectoryName(relink.To)!)}/{Path.GetFileName(relink.To)}";

    private static LedgerEntry Entry(Decide decide, CurrentState state, FolderNames names) =>
        decide switch
        {
            { From: { } from, To: { } to } => Decisions.ApproveRule(
                state.Report,
                from,
                to,
                names.Of,
                DateTimeOffset.UtcNow,
                decide.Numbers?.ToHashSet()
            ),
            { Numbers: { } numbers, Folder: { } folder } => Decisions.TakeFrom(
                state.Report,
                numbers,
                folder,
                names.Of,
                DateTimeOffset.UtcNow
            ),
            { Number: { } number, Path: { } path } => Decisions.ByHand(state.Report, number, path, state.Scope, DateTimeOffset.UtcNow),
            _ => throw new CannotUseException("A decision needs a rule, or references and a folder, or a reference and a file."),
        };
}

/// <summary>
/// Changes a ledger; when an own file is relinked or a look edited, the scene is read again, since it calls for other
/// files then.
/// </summary>
internal sealed class Changes(CurrentScenes current, LedgerStore ledgers, RootStore roots, RuleStore rules, WorkDispatcher work)
{
    public async Task<LedgerView> Make(Guid id, Func<Core.Edits.Ledger, Core.Edits.Ledger> change, CancellationToken stop)
    {
        var before = await ledgers.Read(id, stop);
        var after = await ledgers.Change(id, change, stop);
        var known = before.Applied.Select(e => e.Id).ToHashSet();
        await rules.Remember(after.Applied.Where(e => !known.Contains(e.Id)), await roots.All(stop), stop);
        var state = await current.Get(id, stop);
        if (state.NeedsSearch)
            await work.Start(new Search(id), "Read the scene with its edits", id, stop);
        // A file that is written over later is told from what it was when it was relinked.
        if (after.Applied.Any(e => !known.Contains(e.Id) && e.Edits.Any(x => x is RelinkReference)))
            await work.Start(new Remember(id), "Remember the files", id, stop);
        return LedgerEndpoints.View(after, state);
    }
}
