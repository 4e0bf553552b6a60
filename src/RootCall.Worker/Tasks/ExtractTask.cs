using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker.Tasks;

/// <summary>
/// Takes images out of a scene into the store, where they wait until a package lays them beside the scene, and puts the
/// edits that call them from there into the ledger as one pending entry.
/// </summary>
public sealed class ExtractTask(SceneStore scenes, LedgerStore ledgers, DiskStore disk)
{
    public async Task Run(Guid id, Extract request, WorkProgress progress, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(request.SceneId, stop) ?? throw new CannotUseException("The scene is no longer there.");
        var ledger = await ledgers.Read(request.SceneId, stop);
        if (ledger.Entries.Any(e => e.Id == id))
            return; // Taken up again after it was done.
        var report = await scenes.Report(arrival, stop);
        progress.Report("extracting", Path.GetFileName(arrival.Path));
        var plan = CarriedImages.Plan(report, request.Numbers, disk.Extracted(request.SceneId));
        if (plan.IsEmpty)
            throw new CannotUseException("None of these images is carried inside the scene.");
        CarriedImages.WriteFiles(report, plan);
        stop.ThrowIfCancellationRequested();
        var edits = plan.Select(p => (Edit)p.Edit)
            .Concat(
                plan.DistinctBy(p => p.Edit.Written)
                    .Select(p => new RelinkReference(ExtractImage.KeyIn(report.Scene, p.Edit.Written), null, p.File))
            );
        var count = plan.Length == 1 ? Path.GetFileName(plan[0].File) : $"{plan.Length} images";
        await ledgers.Change(
            request.SceneId,
            l =>
                l.Put(new(id, $"Extract {count} that the scene carried", [.. edits], EntryState.Pending, "by hand", DateTimeOffset.UtcNow)),
            stop
        );
    }
}
