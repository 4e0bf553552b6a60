using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker.Tasks;

/// <summary>
/// Lists the roots and musters a scene again. Libraries that the ledger relinked are read too, so that what they call for
/// turns up; other relinks stay in the ledger, which is laid over the muster when it is shown.
/// </summary>
public sealed class SearchTask(SceneStore scenes, LedgerStore ledgers, SceneReading reading)
{
    public async Task Run(Search request, WorkProgress progress, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(request.SceneId, stop) ?? throw new CannotUseException("The scene is no longer there.");
        var before = await scenes.Report(arrival);
        var libraries = (await ledgers.Read(request.SceneId, stop)).Relinks().Where(r => r.Key.Kind == ReferenceKind.MaterialLibrary).ToDictionary();
        var (report, context) = await reading.Muster(arrival.Path, libraries, SceneReading.Seen(before), progress, stop);
        await scenes.Remuster(request.SceneId, report, context.Index.Count, DateTimeOffset.UtcNow, stop);
    }
}
