using System.Collections.Concurrent;
using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;
using RootCall.Data.Rows;
using RootCall.Data.Stores;
using RootCall.Web.Live;

namespace RootCall.Web.Features;

/// <summary>
/// A scene as it stands: what the workers read, with the applied ledger made to it. The same object as long as nothing changes.
/// </summary>
/// <param name="Edited">The scene with its ledger, in memory.</param>
/// <param name="Extracted">Folder of the store with what was taken out of the scene.</param>
internal sealed record CurrentState(
    ArrivalRow Arrival,
    EditedScene Edited,
    MusterReport Report,
    Core.Edits.Ledger Ledger,
    RootScope Scope,
    IReadOnlyList<RootRow> Roots,
    string Extracted
)
{
    /// <summary>Edits that do not apply, those that a worker met among them.</summary>
    public IEnumerable<RefusedEdit> Refused =>
        RefusedBefore.Concat(Edited.Refused.Select(r => new RefusedEdit(r.Entry.Id, r.Edit.Describe(), r.Reason)));

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

    /// <summary>Edits that a worker could not make.</summary>
    public required IReadOnlyList<RefusedEdit> RefusedBefore { get; init; }

    public FolderNames Names => names ??= new(Roots, Report.Scene.Folder, Extracted);

    /// <summary>References by their key.</summary>
    public IReadOnlyDictionary<ReferenceKey, Reference> Uses =>
        uses ??= Report.Scene.References.DistinctBy(r => r.Key).ToDictionary(r => r.Key);

    /// <summary>How many references in that state have a candidate in that folder: so many one act could answer.</summary>
    public int Shared(ReferenceState inState, string folder) => (shared ??= CountShared()).GetValueOrDefault((inState, folder));

    /// <summary>What a frame that shows the scene as it stands is made of.</summary>
    public string FramePrintOf(FrameLighting light, string? camera, string? colours) =>
        framePrints.GetOrAdd((light, camera), _ => FramePrint.Of(Report, light, camera, colours));

    private readonly ConcurrentDictionary<(FrameLighting, string?), string> framePrints = [];
    private FolderNames? names;
    private Dictionary<ReferenceKey, Reference>? uses;
    private Dictionary<(ReferenceState, string), int>? shared;

    private Dictionary<(ReferenceState, string), int> CountShared() =>
        Report
            .References.SelectMany(r => r.Candidates.Select(c => (r.State, Folder: Path.GetDirectoryName(c.Path)!)).Distinct())
            .GroupBy(p => p)
            .ToDictionary(g => g.Key, g => g.Count());
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
    SeenStore seen,
    SceneMemory memory,
    Bounds bounds,
    ILogger<CurrentScenes> log
)
{
    /// <param name="Revision">Of the scene, before its rows were read.</param>
    /// <param name="Watched">Counts the changes of its files on disk.</param>
    /// <param name="Edited">The scene with its ledger; the next ledger's shares what is the same.</param>
    /// <param name="Basis">Its muster without a ledger.</param>
    /// <param name="Report">Its muster with the ledger, before files changed on disk.</param>
    private sealed record Held(long Revision, int Watched, EditedScene Edited, MusterReport Basis, MusterReport Report, CurrentState State)
    {
        /// <summary>The scene up to entries that were looked at lately, by the entry; by none as it arrived.</summary>
        public Dictionary<Guid, MusterReport> Moments { get; } = [];
    }

    /// <exception cref="CannotUseException">There is no such scene.</exception>
    public async Task<CurrentState> Get(Guid sceneId, CancellationToken stop)
    {
        using var turn = await memory.Turn<Held>(sceneId, stop);
        var revision = await scenes.Revision(sceneId, stop) ?? throw new CannotUseException("There is no such scene.");
        var folders = await roots.All(stop);
        var watched = watch.Look(sceneId);
        var last = memory.Get<Held>(sceneId);
        if (last is not null && last.Revision == revision && last.Watched == watched && Same(last.State.Roots, folders))
            return last.State;
        var held = await Make(sceneId, revision, folders, watched, last, stop);
        memory.Put(sceneId, held, SceneMemory.Weight(held.Basis));
        return held.State;
    }

    /// <summary>Moments of a scene that are kept: two that are compared, and two before that.</summary>
    private const int MostMoments = 4;

    /// <summary>The scene before an entry of its ledger and with it, those that wait counted in; null when the entry is gone.</summary>
    /// <exception cref="CannotUseException">There is no such scene.</exception>
    public async Task<(MusterReport Before, MusterReport After)?> Around(Guid sceneId, Guid entry, CancellationToken stop)
    {
        var entries = (await Get(sceneId, stop)).Ledger.Entries;
        if (entries.ToList().FindIndex(e => e.Id == entry) is not (>= 0 and var at))
            return null; // It was taken back meanwhile.
        var before = await Upto(sceneId, at == 0 ? null : entries[at - 1].Id, stop);
        return (ChangedLooks.Decided(before), ChangedLooks.Decided(await Upto(sceneId, entry, stop)));
    }

    /// <summary>A scene at a moment.</summary>
    /// <exception cref="CannotUseException">There is no such scene, version or entry.</exception>
    public async Task<MusterReport> At(SceneMoment moment, CancellationToken stop)
    {
        if (moment.Kind == MomentKind.Now)
            return (await Get(moment.SceneId, stop)).Report;
        if (moment.Kind != MomentKind.Version)
            return await Upto(moment.SceneId, moment.Entry, stop);
        var arrival = await scenes.Arrival(moment.SceneId, moment.Version!.Value, stop)
            ?? throw new CannotUseException($"There is no version {moment.Version} of the scene.");
        return await scenes.Report(arrival.Id, stop);
    }

    /// <param name="last">The last entry of the ledger that counts; null for none.</param>
    private async Task<MusterReport> Upto(Guid sceneId, Guid? last, CancellationToken stop)
    {
        await Get(sceneId, stop);
        using var turn = await memory.Turn<Held>(sceneId, stop);
        var held = memory.Get<Held>(sceneId) ?? throw new CannotUseException("There is no such scene.");
        if (held.Moments.TryGetValue(last ?? Guid.Empty, out var known))
            return known;
        var ledger = new SceneMoment(sceneId, last is null ? MomentKind.Arrived : MomentKind.Entry, last).Of(held.State.Ledger);
        var edited = held.Edited.With(Left(ledger.Entries, held.State.Arrival.Included));
        var seen = ImmutableDictionary<ReferenceKey, LastSeen>.Empty;
        if (held.Moments.Count == MostMoments)
            held.Moments.Clear();
        return held.Moments[last ?? Guid.Empty] = Mustered(edited, held.State.Scope, held.Basis, seen);
    }

    /// <summary>What is to be made here: of an entry that a worker made, what answers for references is left.</summary>
    private static IEnumerable<LedgerEntry> Left(IEnumerable<LedgerEntry> entries, IReadOnlyCollection<Guid> included) =>
        entries
            .Select(e => included.Contains(e.Id) ? e with { Edits = [.. e.Edits.Where(x => !x.Brings)] } : e)
            .Where(e => !e.Edits.IsEmpty);

    /// <param name="seen">What was remembered of files that the ledger relinked to.</param>
    private MusterReport Mustered(
        EditedScene edited,
        RootScope scope,
        MusterReport basis,
        IReadOnlyDictionary<ReferenceKey, LastSeen> seen
    ) => Mustering.Run(edited.Current, new(scope, new RootIndex([]), facts) { LooksBeside = false, LastSeen = seen }, basis);

    private async Task<Held> Make(
        Guid sceneId,
        long revision,
        IReadOnlyList<RootRow> folders,
        int watched,
        Held? last,
        CancellationToken stop
    )
    {
        var arrival = await scenes.Arrival(sceneId, stop) ?? throw new CannotUseException("There is no such scene.");
        var ledger = await ledgers.Read(sceneId, stop);
        var scope = roots.ScopeOf(arrival.Path, sceneId, folders);
        var there =
            last?.State is { } state
            && (state.Arrival.Id, state.Arrival.MusterRevision) == (arrival.Id, arrival.MusterRevision)
            && state.Scope.Folders.SequenceEqual(scope.Folders);
        var (basis, refused) = there ? (last!.Basis, last.State.RefusedBefore) : await Basis(arrival, stop);
        var before = there ? last!.Edited : EditedScene.Of(basis.Scene, new(scope, bounds), folder: null);
        // What workers found out about files that the ledger relinks to: some do not decode.
        if (!there)
            await known.Load(facts, ledger.Relinks(withPending: true).Values.OfType<string>(), stop, again: true);
        var edited = before.With(Left(ledger.Applied, arrival.Included));
        var report =
            there && ReferenceEquals(last!.Edited.Current, edited.Current)
                ? last.Report
                : Mustered(edited, scope, basis, await seen.Read(sceneId, edited.Current.Answers.Keys, stop));
        watched = watch.Look(sceneId, arrival.MusterRevision, report) ?? watched;
        var now = Mustering.Again(report, watch.Changed(sceneId), scope, facts);
        if (watch.Broken(sceneId) is { Count: > 0 } broken)
        {
            await known.Load(facts, broken, stop, again: true);
            now = Mustering.Judge(now, facts, broken);
        }

        await scenes.Counted(arrival, revision, now.References.Length, now.References.Length - now.Answering, stop);
        return new(
            revision,
            watched,
            edited,
            basis,
            report,
            new(arrival, edited, now, ledger, scope, folders, disk.Extracted(sceneId))
            {
                Looked = there ? last!.State.Looked : basis.References.Select(r => r.Reference.Key).ToHashSet(),
                RefusedBefore = refused,
            }
        );
    }

    /// <summary>The arrived muster, with what the ledger brings: that was looked for by the worker that read the scene.</summary>
    private async Task<(MusterReport, IReadOnlyList<RefusedEdit>)> Basis(ArrivalRow arrival, CancellationToken stop)
    {
        var kept = await scenes.Kept(arrival.Id, stop);
        var read = kept.Report;
        if (kept.Brought.Count == 0)
            return (read, kept.Refused);
        var known = read.References.Select(r => r.Reference.Key).ToHashSet();
        var brought = kept.Brought.Where(b => !known.Contains(b.Reference.Key));
        return (read with { References = [.. read.References, .. brought] }, kept.Refused);
    }

    internal static bool Same(IReadOnlyList<RootRow> a, IReadOnlyList<RootRow> b) =>
        a.Count == b.Count
        && a.Zip(b).All(p => (p.First.Id, p.First.Name, p.First.Purpose) == (p.Second.Id, p.Second.Name, p.Second.Purpose));

    /// <summary>
    /// All scenes as a list shows them. One about which something was decided is counted anew behind it, and windows that show
    /// the list hear when that gives another number.
    /// </summary>
    public async Task<IReadOnlyList<ListedScene>> List(CancellationToken stop)
    {
        var list = await scenes.List(stop);
        var uncounted = list.Where(s => !s.IsCounted).Select(s => s.Id).ToList();
        behind.Start(uncounted, id => Get(id, CancellationToken.None));
        return list;
    }

    private readonly Behind behind = new(log, "counted for the list");

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
    private readonly ConcurrentDictionary<string, string> known = new(StringComparer.Ordinal);

    public string Of(string folder) => known.GetOrAdd(folder, Find);

    private string Find(string folder)
    {
        if (RootScope.IsInside(extracted, folder))
            return $"store/{Path.GetRelativePath(extracted, folder)}";
        var top = tops.Where(t => RootScope.IsInside(t, folder)).MaxBy(t => t.Length);
        // store/added/SCENE/DELIVERY/... is called by what was delivered.
        if (top is null && AddedTo(folder) is { } added)
            return added;
        // The extracted images of a scene lie in a folder of the store that has its id for a name; stand-ins lie beside it.
        if (top is null && Path.GetDirectoryName(Path.GetDirectoryName(extracted)) is { } store && RootScope.IsInside(store, folder))
            return $"store/{Path.GetRelativePath(store, folder)}";
        if (top is null)
            return folder;
        var below = Path.GetRelativePath(top, folder);
        return below == "." ? Path.GetFileName(top) : $"{Path.GetFileName(top)}/{below}";
    }

    private string? AddedTo(string folder)
    {
        var id = Path.GetFileName(extracted);
        var added = Path.Combine(Path.GetDirectoryName(Path.GetDirectoryName(extracted))!, "added", id);
        return RootScope.IsInside(added, folder)
            ? string.Join('/', Path.GetRelativePath(added, folder).Split('/').Skip(1).Prepend("added"))
            : null;
    }
}
