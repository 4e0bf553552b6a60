using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>
/// Takes images out of a scene into the store, where they wait until a package lays them beside the scene, and puts the
/// edits that call them from there into the ledger as one pending entry.
/// </summary>
public sealed class ExtractJob(ISceneShelf scenes, ILedgers ledgers, IStorePlaces places, TimeProvider clock)
{
    public async Task Run(IAttempt attempt, Extract request, CancellationToken stop)
    {
        var arrival = await scenes.Demand(request.SceneId, stop);
        var ledger = await ledgers.Read(request.SceneId, stop);
        if (ledger.Entries.Any(e => e.Id == attempt.Job))
            return; // Taken up again after it was done.
        var report = await scenes.Report(arrival.Id, stop);
        attempt.Report("extracting", Path.GetFileName(arrival.Path));
        var plan = CarriedImages.Plan(report, request.Numbers, places.Extracted(request.SceneId));
        if (plan.IsEmpty)
            throw new CannotUseException("None of these images is carried inside the scene.");
        CarriedImages.WriteFiles(report, plan);
        stop.ThrowIfCancellationRequested();
        var count = plan.Length == 1 ? Path.GetFileName(plan[0].File) : $"{plan.Length} images";
        await ledgers.Change(
            request.SceneId,
            l =>
                l.Put(
                    new(
                        attempt.Job,
                        $"Extract {count} that the scene carried",
                        CarriedImages.Edits(report, plan),
                        EntryState.Pending,
                        "by hand",
                        clock.GetUtcNow()
                    )
                ),
            stop
        );
    }
}
