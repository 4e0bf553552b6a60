using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Rows;
using RootCall.Data.Stores;

namespace RootCall.Web.Features.Muster;

/// <summary>
/// What Muster shows. A scene of 20,000 references is several megabytes of it, and a decision changes a few rows: whoever
/// says which version they have is sent what differs.
/// </summary>
internal sealed class MusterViews(CurrentScenes current, RuleStore rules, SceneMemory memory)
{
    private const int Versions = 6;

    /// <summary>Versions of this process; another one's are not known here.</summary>
    private readonly string process = Guid.NewGuid().ToString("N")[..8];
    private int last;

    /// <summary>The rows of one version, to hold others against.</summary>
    /// <param name="Entries">Place in the ledger of the pending entry that relinks each reference.</param>
    private sealed record Shown(
        string Version,
        MusterReport Report,
        Core.Edits.Ledger Ledger,
        IReadOnlyList<RootRow> Roots,
        Dictionary<ReferenceKey, int> Entries,
        Lazy<ImmutableArray<Bundle>> Bundles
    );

    /// <summary>The last versions that were shown, newest first.</summary>
    private sealed record History(ImmutableList<Shown> Versions);

    /// <param name="since">The version that the window has; null for none.</param>
    /// <exception cref="CannotUseException">There is no such scene.</exception>
    public async Task<MusterView> Get(Guid id, string? since, CancellationToken stop)
    {
        var state = await current.Get(id, stop);
        var approved = (await rules.Approved(stop)).ToHashSet();
        var (now, before) = await Keep(id, state, since, stop);
        return View(state, now, before, approved);
    }

    private async Task<(Shown Now, Shown? Before)> Keep(Guid id, CurrentState state, string? since, CancellationToken stop)
    {
        using var turn = await memory.Turn<History>(id, stop);
        var known = memory.Get<History>(id)?.Versions ?? [];
        var before = since is null ? null : known.Find(v => v.Version == since);
        // Folders that are called otherwise by now are so in every row; rows that are gone cannot be told as such.
        if (
            before is not null
            && (!CurrentScenes.Same(before.Roots, state.Roots) || before.Report.References.Length > state.Report.References.Length)
        )
            before = null;
        var newest = known.FirstOrDefault();
        if (newest is not null && ReferenceEquals(newest.Ledger, state.Ledger) && ReferenceEquals(newest.Report, state.Report))
            return (newest, before);
        var now = new Shown(
            string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{process}-{Interlocked.Increment(ref last)}"),
            state.Report,
            state.Ledger,
            state.Roots,
            CurrentScenes.PendingEntries(state.Ledger),
            newest?.Report.References == state.Report.References ? newest.Bundles : new(() => RelocationMap.Of(state.Report))
        );
        var kept = known.Insert(0, now).Take(Versions).ToImmutableList();
        // Versions share the rows that are the same.
        memory.Put<History>(id, new(kept), SceneMemory.Weight(state.Report) / 4);
        return (now, before);
    }

    private static MusterView View(CurrentState state, Shown now, Shown? before, HashSet<PathRewrite> approved)
    {
        var (report, names) = (now.Report, state.Names);
        var relinked = state.Ledger.Relinks();
        var byNumber = report.References.ToDictionary(r => r.Number);
        int? Entry(MusteredReference r) => now.Entries.TryGetValue(r.Reference.Key, out var entry) ? entry : null;
        BundleItem Item(Bundle b)
        {
            var rows = b.Numbers.Select(n => byNumber[n]).ToList();
            return new(
                b.State.Word(),
                b.From,
                b.To.Select(t => new PlaceItem(t, names.Of(t))),
                b.Numbers,
                b.Contradicts,
                rows.TrueForAll(r => Entry(r) is not null) ? Entry(rows[0]) : null,
                rows.TrueForAll(r => relinked.ContainsKey(r.Reference.Key)),
                b.To.Length == 1 && approved.Contains(new(b.From, b.To[0])),
                b.StandIns
            );
        }

        return new(
            now.Version,
            before?.Version,
            report.Totals.Select(t => new StateTotal(t.Key.Word(), t.Value)),
            report.Answering,
            (before is null ? report.References : Different(report, now, before)).Select(r => Row(r, report.Scene, names, Entry(r))),
            now.Bundles.Value.Select(Item),
            state.Roots.Select(r => new RootItem(r.Id, r.Name, r.Folder, r.Purpose)),
            state.Arrival.MusteredAt,
            state.Arrival.FilesIndexed,
            report.Notes
        );
    }

    /// <summary>Rows that are new, answered otherwise or decided since. All of them when some are gone: numbers then shift.</summary>
    private static IEnumerable<MusteredReference> Different(MusterReport report, Shown now, Shown before)
    {
        for (var i = 0; i < report.References.Length; i++)
        {
            var row = report.References[i];
            if (
                i >= before.Report.References.Length
                || !ReferenceEquals(before.Report.References[i], row)
                || before.Entries.GetValueOrDefault(row.Reference.Key) != now.Entries.GetValueOrDefault(row.Reference.Key)
            )
                yield return row;
        }
    }

    private static ReferenceItem Row(MusteredReference r, Scene scene, FolderNames names, int? entry)
    {
        var called = CalledNow.Of(r, scene);
        var written = WrittenPath.Parse(called);
        var carried = r.Reference.Carried is not null;
        var answer = r.Resolved ?? r.Clear?.Path;
        return new(
            r.Number,
            r.Reference.Kind.Word(),
            called,
            carried ? r.Reference.Written : written.FileName,
            carried ? "inside the scene" : written.Folder,
            r.State.Word(),
            r.Flags.Words(),
            MapRole.Word(r.Reference),
            r.Reference.UsedBy.Select(u => new UseItem(u.Material, u.Input)),
            r.Resolved,
            answer is null ? null : names.Of(Path.GetDirectoryName(answer)!),
            (r.Facts ?? r.Clear?.Facts)?.Width,
            (r.Facts ?? r.Clear?.Facts)?.Height,
            (r.Stamp ?? r.Clear?.Stamp)?.Bytes,
            r.Damage,
            r.Candidates.Length,
            entry,
            r.State == ReferenceState.Present && scene.Answers.GetValueOrDefault(r.Reference.Key)?.File is not null
        );
    }
}
