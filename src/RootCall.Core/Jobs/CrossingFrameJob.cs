using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>Draws a scene twice: as it arrived, and with every look carried over. Nothing of it becomes part of the scene.</summary>
public sealed class CrossingFrameJob(
    ISceneShelf scenes,
    ILedgers ledgers,
    SceneReading reading,
    IStorePlaces places,
    FrameTools tools,
    TimeProvider clock
)
{
    /// <summary>Of each frame.</summary>
    private static readonly TimeSpan MostTime = TimeSpan.FromSeconds(60);

    public async Task Run(IAttempt attempt, DrawCrossing request, CancellationToken stop)
    {
        var arrival = await scenes.Demand(request.SceneId, stop);
        var ledger = await ledgers.Read(request.SceneId, stop);
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var edited = Path.Combine(work.Path, "edited");
        var read = await reading.Read(arrival.Path, request.SceneId, ledger, relinks: true, edited, null, attempt, stop);
        var print = request.Crossing.Print(FramePrint.Of(read.Report, FrameLighting.Studio, null, places.ColourPrint));
        var name = Path.GetFileName(arrival.Path);
        TestFrame Drawn(WornLook look, string verb)
        {
            var view = new FrameView(
                DrawnPair.Width,
                DrawnPair.Height,
                SwatchLight.Studio.Map(),
                DrawnPair.Samples,
                Environment.ProcessorCount,
                MostTime
            )
            {
                Progress = (done, _) => attempt.Report(verb, name, done, DrawnPair.Samples),
            };
            var report = request.Crossing.Dressed(read.Report, ledger, look, l => MovedLook.Read(places.Crossing(l.Print)));
            return TestFrame.Of(new(report, read.Session.Edited.Basis, read.Session.Edited.Reading), view, tools, stop);
        }

        var pair = new FramePair(Drawn(WornLook.Arrived, "drawing it as it arrived"), Drawn(WornLook.Crossed, "drawing it crossed"));
        var folder = places.CrossingFrame(request.SceneId, request.Crossing);
        pair.Keep(folder, tools.House);
        new DrawnPair(print, clock.GetUtcNow(), pair.Difference, [.. pair.Before.Told.Union(pair.After.Told)]).Keep(folder);
    }
}
