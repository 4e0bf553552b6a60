using System.IO.Compression;
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
        if (request.Folder is null)
        {
            await ToFetch(attempt, request, stop);
            return;
        }

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
        var written = RelinkedCopy.Write(report, folder, read.Session.Current.Answers, stop: stop);
        attempt.Report("written", written.Written[0]);
    }

    /// <summary>Its paths hold where the arrived scene lies: whoever fetches it puts it there.</summary>
    private async Task ToFetch(IAttempt attempt, WriteCopy request, CancellationToken stop)
    {
        if (request.Into is not null)
            throw new CannotUseException("Another format is written into a root for output, with the images that it needs.");
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var (read, report) = await reading.Written(request.SceneId, work.Path, attempt, stop);
        attempt.Report("writing", Path.GetFileName(report.Scene.Path));
        var part = Directory.CreateDirectory(Path.Combine(work.Path, "to-fetch")).FullName;
        var home = read.Session.Edited.Basis.Folder;
        var written = RelinkedCopy.Write(report, part, read.Session.Current.Answers, home, stop).Written;
        var name = Path.GetFileName(written[0]);
        var file = Path.Combine(part, name);
        if (written.Length > 1)
        {
            name = Path.ChangeExtension(name, ".zip");
            file = Path.Combine(work.Path, name);
            await ZipFile.CreateFromDirectoryAsync(part, file, stop);
        }

        var to = places.ToFetch(request.SceneId, attempt.Job);
        await attempt.Held(
            () =>
            {
                Directory.CreateDirectory(to);
                File.Move(file, Path.Combine(to, name), overwrite: true);
            },
            stop
        );
        attempt.Report("to fetch", $"{name}\n{home}");
    }

    private const int MostTold = 12;
}
