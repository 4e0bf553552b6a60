using RootCall.Core.Files;
using RootCall.Core.SendOff;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker.Tasks;

/// <summary>Writes a copy of the scene's own files into a root for output, with paths in the styles that the ledger says.</summary>
public sealed class WriteCopyTask(SceneStore scenes, LedgerStore ledgers, SceneReading reading, RootStore roots, Bounds bounds)
{
    public async Task Run(WriteCopy request, WorkProgress progress, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(request.SceneId, stop) ?? throw new CannotUseException("The scene is no longer there.");
        var outputs = new RootScope((await roots.All(stop)).Where(r => r.Purpose == RootStore.Output).Select(r => r.Folder));
        if (outputs.Enter(request.Folder) is not { } folder)
            throw new CannotUseException($"“{request.Folder}” lies in no root for output; nothing is written anywhere else.");
        var ledger = await ledgers.Read(request.SceneId, stop);
        using var work = Folders.Temporary();
        var read = await reading.Read(
            arrival.Path,
            request.SceneId,
            ledger,
            relinks: true,
            Path.Combine(work.Path, "edited"),
            null,
            progress,
            stop
        );
        progress.Report("writing", Path.GetFileName(arrival.Path));
        Directory.CreateDirectory(folder);
        var written = read.Session.Written(Directory.CreateDirectory(Path.Combine(work.Path, "written")).FullName);
        RelinkedCopy.Write(WritableScene.Make(written, read.Context, bounds, work.Path), folder, read.Session.Current.Answers, stop);
    }
}
