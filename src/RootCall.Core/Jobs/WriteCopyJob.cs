using RootCall.Core.Files;
using RootCall.Core.SendOff;

namespace RootCall.Core.Jobs;

/// <summary>
/// Writes a copy of the scene's own files into a root for output, with paths in the styles that the ledger says; or the scene in another
/// format. The last that it reports is where it lies, and a line for each thing that stayed behind.
/// </summary>
public sealed class WriteCopyJob(SceneReading reading, SceneCrossing crossing, IRoots roots, IStorePlaces places)
{
    public async Task Run(IAttempt attempt, WriteCopy request, CancellationToken stop)
    {
        if ((await roots.Outputs(stop)).Enter(request.Folder) is not { } folder)
            throw new CannotUseException($"“{request.Folder}” lies in no root for output; nothing is written anywhere else.");
        using var work = Folders.Temporary(places.Work(attempt.Token));
        if (request.Into is { } into)
        {
            var (_, file) = await crossing.Write(request.SceneId, into, folder, work.Path, attempt, stop);
            attempt.Report("written", string.Join('\n', file.Behind.Prepend(file.Path).Take(MostTold)));
            return;
        }

        var (read, report) = await reading.Written(request.SceneId, work.Path, attempt, stop);
        attempt.Report("writing", Path.GetFileName(report.Scene.Path));
        Directory.CreateDirectory(folder);
        var written = RelinkedCopy.Write(report, folder, read.Session.Current.Answers, stop);
        attempt.Report("written", written.Written[0]);
    }

    private const int MostTold = 12;
}
