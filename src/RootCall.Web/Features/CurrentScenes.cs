using System.Collections.Concurrent;
using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Rows;
using RootCall.Data.Stores;
using RootCall.Web.Live;

namespace RootCall.Web.Features;

/// <summary>A scene as it stands: what the workers read, with the applied ledger made to it.</summary>
/// <param name="Edited">The scene with its ledger, in memory.</param>
/// <param name="Extracted">Folder of the store with what was taken out of the scene.</param>
internal sealed record CurrentState(
    ArrivalRow Arrival,
    EditedScene Edited,
    MusterReport Report,
    Core.Edits.Ledger Ledger,
    RootScope Scope,
    string Extracted
)
{
    /// <summary>Edits that do not apply, those that a worker met among them.</summary>
    public IEnumerable<RefusedEdit> Refused =>
        SceneStore.RefusedOf(Arrival).Concat(Edited.Refused.Select(r => new RefusedEdit(r.Entry.Id, r.Edit.Describe(), r.Reason)));

    /// <summary>A worker has to read files before all of the ledger shows, or to look in the roots for what it brings.</summary>
    public bool NeedsSearch
    {
        get
        {
            var applied = Ledger.Applied.Select(e => e.Id).ToList();
            return Edited.Waits
                || Arrival.Included.Exists(i => !applied.Contains(i))
                || Report.References.Any(r => r.State == ReferenceState.Missing && !Looked.Contains(r.Reference.Key));
        }
    }

    /// <summary>References that a worker has looked for in the roots.</summary>
    public required IReadOnlySet<ReferenceKey> Looked { get; init; }
}

/// <summary>Puts arrived scene and ledger together for every request that shows or decides something.</summary>
internal sealed class CurrentScenes(
    SceneStore scenes,
    LedgerStore ledgers,
    RootStore roots,
    DiskStore disk,
    FileWatch watch,
    FileFacts facts,
    KnownFileStore known,
    Bounds bounds
)
{
    /// <summary>Scenes whose last state is kept, so that the next one only takes what is new.</summary>
    private const int Most = 32;
    private readonly ConcurrentDictionary<Guid, Held> held = new();

    private sealed record Held(
        (Guid Arrival, int Revision) Key,
        string Scope,
        EditedScene Edited,
        MusterReport Basis,
        IReadOnlySet<ReferenceKey> Looked
    )
    {
        public DateTime Used { get; init; } = DateTime.UtcNow;

        public MusterReport? Report { get; init; }
    }

    /// <exception cref="CannotUseException">There is no such scene.</exception>
    public async Task<CurrentState> Get(Guid sceneId, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(sceneId, stop) ?? throw new CannotUseException("There is no such scene.");
        var ledger = await ledgers.Read(sceneId, stop);
        var scope = await roots.ScopeOf(arrival.Path, sceneId, stop);
        var read = await scenes.Report(arrival);
        watch.Look(sceneId, arrival.MusterRevision, read);
        var last =
            held.GetValueOrDefault(sceneId) is { } there
            && there.Key == (arrival.Id, arrival.MusterRevision)
            && there.Scope == string.Join('|', scope.Folders)
                ? there
                : Start(arrival, read, scope);
        // What workers found out about files that the ledger relinks to: some do not decode.
        if (last.Report is null)
            await known.Load(facts, ledger.Relinks(withPending: true).Values.OfType<string>(), stop, again: true);
        var edited = last.Edited.With(ledger.Applied.Where(e => !arrival.Included.Contains(e.Id)));
        var context = new MusterContext(scope, new RootIndex([]), facts) { LooksBeside = false };
        var report =
            last.Report is not null && ReferenceEquals(last.Edited.Current, edited.Current)
                ? last.Report
                : Mustering.Run(edited.Current, context, last.Basis);
        held[sceneId] = last with { Edited = edited, Report = report, Used = DateTime.UtcNow };
        foreach (var old in held.OrderByDescending(h => h.Value.Used).Skip(Most))
            held.TryRemove(old.Key, out _);
        return new(arrival, edited, Mustering.Again(report, watch.Changed, scope, facts), ledger, scope, disk.Extracted(sceneId))
        {
            Looked = last.Looked,
        };
    }

    private Held Start(ArrivalRow arrival, MusterReport read, RootScope scope)
    {
        // What the ledger brings was looked for by the worker that read the scene.
        var brought = SceneStore.BroughtOf(arrival);
        var basis = read with
        {
            References = [.. read.References, .. brought.Where(b => !read.References.Any(r => r.Reference.Key == b.Reference.Key))],
        };
        var edited = EditedScene.Of(read.Scene, new(scope, bounds), folder: null);
        return new(
            (arrival.Id, arrival.MusterRevision),
            string.Join('|', scope.Folders),
            edited,
            basis,
            basis.References.Select(r => r.Reference.Key).ToHashSet()
        );
    }

    /// <summary>What a list of many scenes shows of one. Only a scene whose ledger relinked something is put together for it.</summary>
    public async Task<(ArrivalRow Arrival, Core.Edits.Ledger Ledger, int References, int Unanswered)> Summary(
        Guid sceneId,
        CancellationToken stop
    )
    {
        var ledger = await ledgers.Read(sceneId, stop);
        if (ledger.Applied.Any())
        {
            var state = await Get(sceneId, stop);
            return (state.Arrival, ledger, state.Report.References.Length, state.Report.References.Length - state.Report.Answering);
        }

        var arrival = await scenes.Arrival(sceneId, stop) ?? throw new CannotUseException("There is no such scene.");
        var (references, unanswered) = await scenes.Count(arrival.Id, stop);
        return (arrival, ledger, references, unanswered);
    }

    /// <summary>Which pending entry, by its place in the ledger from 1, relinks each reference.</summary>
    public static Dictionary<ReferenceKey, int> PendingEntries(Core.Edits.Ledger ledger)
    {
        var entries = new Dictionary<ReferenceKey, int>();
        for (var i = 0; i < ledger.Entries.Length; i++)
            if (ledger.Entries[i].State == EntryState.Pending)
                foreach (var edit in ledger.Entries[i].Edits.OfType<RelinkReference>())
                    entries[edit.Reference] = i + 1;
        return entries;
    }
}

/// <summary>How folders are called on screen: from the root's own name on, from the scene's folder, or in the store.</summary>
internal sealed class FolderNames(IEnumerable<RootRow> roots, string sceneFolder, string extracted)
{
    private readonly ImmutableArray<string> tops = [.. roots.Select(r => r.Folder), sceneFolder];

    public string Of(string folder)
    {
        if (RootScope.IsInside(extracted, folder))
            return $"store/{Path.GetRelativePath(extracted, folder)}";
        var top = tops.Where(t => RootScope.IsInside(t, folder)).MaxBy(t => t.Length);
        // The extracted images of a scene lie in a folder of the store that has its id for a name; stand-ins lie beside it.
        if (top is null && Path.GetDirectoryName(Path.GetDirectoryName(extracted)) is { } store && RootScope.IsInside(store, folder))
            return $"store/{Path.GetRelativePath(store, folder)}";
        if (top is null)
            return folder;
        var below = Path.GetRelativePath(top, folder);
        return below == "." ? Path.GetFileName(top) : $"{Path.GetFileName(top)}/{below}";
    }
}
