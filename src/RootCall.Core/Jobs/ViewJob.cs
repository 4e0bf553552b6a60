using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>Makes a scene ready to be walked around. What was made of its geometry as it stands is not made again.</summary>
public sealed class ViewJob(
    ISceneShelf scenes,
    ILedgers ledgers,
    SceneReading reading,
    IStorePlaces places,
    FrameTools tools,
    TimeProvider clock
)
{
    public async Task Run(IAttempt attempt, MakeView request, CancellationToken stop)
    {
        var arrival = await scenes.Demand(request.SceneId, stop);
        var ledger = await ledgers.Read(request.SceneId, stop);
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var edited = Path.Combine(work.Path, "edited");
        var read = await reading.Read(arrival.Path, request.SceneId, ledger, relinks: true, edited, null, attempt, stop);
        var print = ViewedScene.PrintOf(read.Report);
        var folder = places.View(request.SceneId, print);
        if (ViewedScene.Of(folder) is not null)
            return;
        var basis = read.Session.Edited.Basis;
        var made = Directory.CreateDirectory(Path.Combine(work.Path, "view")).FullName;
        using var source = SceneFormats.Of(basis.Path).Geometry(basis, read.Session.Edited.Reading, tools.Meshes);
        using var writer = new ViewWriter(read.Report.Scene, source, made);
        writer.Write(print, clock.GetUtcNow(), (mesh, done, all) => attempt.Report("placing", mesh, done, all), stop).Keep(made);
        await attempt.Held(
            () =>
            {
                // Whoever still looks at an older one has what was loaded; what is left of it is asked for anew.
                var others = Directory.CreateDirectory(Path.GetDirectoryName(folder)!);
                foreach (var older in others.EnumerateDirectories())
                    older.Delete(recursive: true);
                Directory.Move(made, folder);
            },
            stop
        );
    }
}
