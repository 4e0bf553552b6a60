using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>A whole scene in the looks that arrived beside the same in another shading model.</summary>
/// <param name="Print">What it was made of (<see cref="WholeCrossing.Print"/>).</param>
/// <param name="Told">What the frames do not show, in sentences.</param>
public sealed record DrawnCrossing(string Print, DateTimeOffset At, LookDifference Moved, ImmutableArray<string> Told)
{
    /// <summary>What is known of the pair in a folder; null when there is none.</summary>
    public static DrawnCrossing? Of(string folder)
    {
        try
        {
            return JsonSerializer.Deserialize(File.ReadAllBytes(About(folder)), CrossingFrameContext.Default.DrawnCrossing);
        }
        catch (Exception e) when (e is JsonException or IOException)
        {
            return null;
        }
    }

    /// <summary>Written last: what it tells of lies there.</summary>
    internal void Keep(string folder) =>
        WholeOrNothing.Cached(About(folder), JsonSerializer.SerializeToUtf8Bytes(this, CrossingFrameContext.Default.DrawnCrossing));

    private static string About(string folder) => Path.Combine(folder, "about.json");
}

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
    private const int Width = 480,
        Height = 270,
        Samples = 16;

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
            var view = new FrameView(Width, Height, SwatchLight.Studio.Map(), Samples, Environment.ProcessorCount, MostTime)
            {
                Progress = (done, _) => attempt.Report(verb, name, done, Samples),
            };
            var report = request.Crossing.Dressed(read.Report, ledger, look, l => MovedLook.Read(places.Crossing(l.Print)));
            return TestFrame.Of(new(report, read.Session.Edited.Basis, read.Session.Edited.Reading), view, tools, stop);
        }

        var pair = new FramePair(Drawn(WornLook.Arrived, "drawing it as it arrived"), Drawn(WornLook.Crossed, "drawing it crossed"));
        var folder = places.CrossingFrame(request.SceneId, request.Crossing);
        pair.Keep(folder, tools.House);
        new DrawnCrossing(print, clock.GetUtcNow(), pair.Difference, [.. pair.Before.Told.Union(pair.After.Told)]).Keep(folder);
    }
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(DrawnCrossing))]
internal sealed partial class CrossingFrameContext : JsonSerializerContext;
