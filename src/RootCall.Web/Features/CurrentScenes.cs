using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Rows;
using RootCall.Data.Stores;
using RootCall.Web.Live;

namespace RootCall.Web.Features;

/// <summary>A scene as it stands: the arrived muster with the applied ledger laid over it.</summary>
/// <param name="Extracted">Folder of the store with what was taken out of the scene.</param>
internal sealed record CurrentState(ArrivalRow Arrival, MusterReport Report, Core.Edits.Ledger Ledger, RootScope Scope, string Extracted);

/// <summary>Puts arrived scene and ledger together for every request that shows or decides something.</summary>
internal sealed class CurrentScenes(SceneStore scenes, LedgerStore ledgers, RootStore roots, DiskStore disk, FileWatch watch, FileFacts facts)
{
    /// <exception cref="CannotUseException">There is no such scene.</exception>
    public async Task<CurrentState> Get(Guid sceneId, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(sceneId, stop) ?? throw new CannotUseException("There is no such scene.");
        var ledger = await ledgers.Read(sceneId, stop);
        var scope = await roots.ScopeOf(arrival.Path, sceneId, stop);
        var arrived = await scenes.Report(arrival);
        var report = Mustering.Relink(arrived, ledger.Relinks(), scope, facts);
        watch.Look(sceneId, arrival.MusterRevision, arrived);
        return new(arrival, Mustering.Again(report, watch.Changed, scope, facts), ledger, scope, disk.Extracted(sceneId));
    }

    /// <summary>What a list of many scenes shows of one. Only a scene whose ledger relinked something is put together for it.</summary>
    public async Task<(ArrivalRow Arrival, Core.Edits.Ledger Ledger, int References, int Unanswered)> Summary(Guid sceneId, CancellationToken stop)
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
                foreach (var edit in ledger.Entries[i].Edits.OfType<RelinkReference>()) entries[edit.Reference] = i + 1;
        return entries;
    }
}

/// <summary>How folders are called on screen: from the root's own name on, from the scene's folder, or in the store.</summary>
internal sealed class FolderNames(IEnumerable<RootRow> roots, string sceneFolder, string extracted)
{
    private readonly ImmutableArray<string> tops = [.. roots.Select(r => r.Folder), sceneFolder];

    public string Of(string folder)
    {
        if (RootScope.IsInside(extracted, folder)) return $"store/{Path.GetRelativePath(extracted, folder)}";
        var top = tops.Where(t => RootScope.IsInside(t, folder)).MaxBy(t => t.Length);
        // The extracted images of a scene lie in a folder of the store that has its id for a name; stand-ins lie beside it.
        if (top is null && Path.GetDirectoryName(Path.GetDirectoryName(extracted)) is { } store && RootScope.IsInside(store, folder)) return $"store/{Path.GetRelativePath(store, folder)}";
        if (top is null) return folder;
        var below = Path.GetRelativePath(top, folder);
        return below == "." ? Path.GetFileName(top) : $"{Path.GetFileName(top)}/{below}";
    }
}
