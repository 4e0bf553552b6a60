using RootCall.Core.Files;
using RootCall.Core.SendOff;

namespace RootCall.Core.Jobs;

/// <summary>Writes a copy of the scene's own files into a root for output, with paths in the styles that the ledger says.</summary>
public sealed class WriteCopyJob(SceneReading reading, IRoots roots, IStorePlaces places)
{
    public async Task Run(IAttempt attempt, WriteCopy request, CancellationToken stop)
    {
        if ((await roots.Outputs(stop)).Enter(request.Folder) is not { } folder)
            throw new CannotUseException($"“{request.Folder}” lies in no root for output; nothing is written anywhere else.");
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var (read, report) = await reading.Written(request.SceneId, work.Path, attempt, stop);
        attempt.Report("writing", Path.GetFileName(report.Scene.Path));
        Directory.CreateDirectory(folder);
        RelinkedCopy.Write(report, folder, read.Session.Current.Answers, stop);
    }
}
