using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker.Tasks;

/// <summary>
/// Lists the roots, makes the ledger's look edits and musters the scene again. Own files that the ledger relinked are read
/// too, so that what they call for turns up; other relinks stay in the ledger, which is laid over the muster when it is shown.
/// </summary>
public sealed class SearchTask(SceneStore scenes, LedgerStore ledgers, SceneReading reading, DiskStore disk, FollowUps followUps)
{
    public async Task Run(Guid id, Search request, WorkProgress progress, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(request.SceneId, stop) ?? throw new CannotUseException("The scene is no longer there.");
        var before = await scenes.Report(arrival);
        var ledger = await ledgers.Read(request.SceneId, stop);
        var copies = Path.Combine(disk.Edited(request.SceneId), id.ToString("N"));
        if (Directory.Exists(copies)) Directory.Delete(copies, recursive: true); // What a worker left that died in the middle.
        var read = await reading.Read(arrival.Path, request.SceneId, ledger, k => k.Kind.IsOwnFile(), copies, before, progress, stop);
        await scenes.Remuster(request.SceneId, read.ToKeep, DateTimeOffset.UtcNow, stop);
        await followUps.Remember(request.SceneId, read, stop);
        foreach (var old in Directory.Exists(disk.Edited(request.SceneId)) ? Directory.GetDirectories(disk.Edited(request.SceneId)) : [])
            if (old != copies) Directory.Delete(old, recursive: true);
    }
}
