using RootCall.Core.Files;
using RootCall.Core.SendOff;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker.Tasks;

/// <summary>Writes a copy of the scene's own files into a root for output, with paths in the styles that the ledger says.</summary>
public sealed class WriteCopyTask(SceneReading reading, RootStore roots, DiskStore disk)
{
    public async Task Run(WorkLease lease, WriteCopy request, WorkProgress progress, CancellationToken stop)
    {
        var outputs = new RootScope((await roots.All(stop)).Where(r => r.Purpose == RootStore.Output).Select(r => r.Folder));
        if (outputs.Enter(request.Folder) is not { } folder)
            throw new CannotUseException($"“{request.Folder}” lies in no root for output; nothing is written anywhere else.");
        using var work = Folders.Temporary(disk.Work(lease.Token));
        var (read, report) = await reading.Written(request.SceneId, work.Path, progress, stop);
        progress.Report("writing", Path.GetFileName(report.Scene.Path));
        Directory.CreateDirectory(folder);
        RelinkedCopy.Write(report, folder, read.Session.Current.Answers, stop);
    }
}
