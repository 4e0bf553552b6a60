using RootCall.Core.Files;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>Draws two moments with the same samples, each by its first camera.</summary>
public sealed class MomentFramesJob(
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

    public async Task Run(IAttempt attempt, DrawMoments request, CancellationToken stop)
    {
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var (before, first) = await Drawn(request.Before, "the first");
        var (after, second) = await Drawn(request.After, "the second");
        var folder = places.MomentFrames(request);
        var pair = new FramePair(before, after);
        pair.Keep(folder, tools.House);
        new DrawnPair(Print(first, second), clock.GetUtcNow(), pair.Difference, [.. before.Told.Union(after.Told)]).Keep(folder);

        async Task<(TestFrame Frame, string Print)> Drawn(SceneMoment moment, string which)
        {
            var arrival = moment.Version is { } version
                ? await scenes.Version(moment.SceneId, version, stop) ?? throw new CannotUseException("That version was removed.")
                : await scenes.Demand(moment.SceneId, stop);
            var ledger = moment.Of(await ledgers.Read(moment.SceneId, stop));
            var edited = Path.Combine(work.Path, which);
            var read = await reading.Read(arrival.Path, moment.SceneId, ledger, relinks: true, edited, null, attempt, stop);
            var view = new FrameView(
                DrawnPair.Width,
                DrawnPair.Height,
                request.Light.OfSwatches().Map(),
                DrawnPair.Samples,
                Environment.ProcessorCount,
                MostTime
            )
            {
                HasOwnLights = request.Light == FrameLighting.Scene,
                Progress = (done, _) => attempt.Report($"drawing {which}", Path.GetFileName(arrival.Path), done, DrawnPair.Samples),
            };
            var scene = new DrawnScene(read.Report, read.Session.Edited.Basis, read.Session.Edited.Reading);
            return (TestFrame.Of(scene, view, tools, stop), FramePrint.Of(read.Report, request.Light, null, places.ColourPrint));
        }
    }

    /// <summary>Tells whether a pair still shows its moments.</summary>
    /// <param name="first">What the first is made of (<see cref="FramePrint"/>).</param>
    public static string Print(string first, string second) => $"{first} {second}";
}
