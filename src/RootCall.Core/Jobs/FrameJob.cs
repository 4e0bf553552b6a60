using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>A frame that was drawn, or is being drawn.</summary>
/// <param name="Print">What it was made of (<see cref="FramePrint"/>).</param>
/// <param name="Samples">Paths that were followed for each pixel so far, of <paramref name="Wanted"/>.</param>
/// <param name="IsDone">Nobody draws on at it, and nobody stopped it; it may have run out of time.</param>
/// <param name="Told">What it does not show, in sentences; known at the end.</param>
public sealed record DrawnFrame(
    string Print,
    DateTimeOffset At,
    int Samples,
    int Wanted,
    bool IsDone,
    string? Camera,
    int Triangles,
    ImmutableArray<string> Told
)
{
    /// <summary>What is known of the picture at a place; null when there is none.</summary>
    public static DrawnFrame? Of(string picture)
    {
        var about = AboutOf(picture);
        if (!File.Exists(about))
            return null;
        try
        {
            return JsonSerializer.Deserialize(File.ReadAllBytes(about), FrameJobContext.Default.DrawnFrame);
        }
        catch (Exception e) when (e is JsonException or IOException)
        {
            return null;
        }
    }

    internal void Keep(string picture, byte[] png)
    {
        WholeOrNothing.Cached(picture, png);
        WholeOrNothing.Cached(AboutOf(picture), JsonSerializer.SerializeToUtf8Bytes(this, FrameJobContext.Default.DrawnFrame));
    }

    private static string AboutOf(string picture) => Path.ChangeExtension(picture, ".json");
}

/// <summary>Draws a scene with its ledger. A first picture is there after one path for each pixel; it gets better from there.</summary>
public sealed class FrameJob(
    ISceneShelf scenes,
    ILedgers ledgers,
    SceneReading reading,
    IStorePlaces places,
    FrameTools tools,
    ChosenColours colours,
    TimeProvider clock
)
{
    private const int Width = 688,
        Height = 387,
        Samples = 64;

    private static readonly TimeSpan MostTime = TimeSpan.FromSeconds(90);

    public async Task Run(IAttempt attempt, Draw request, CancellationToken stop)
    {
        var arrival = await scenes.Demand(request.SceneId, stop);
        var ledger = await ledgers.Read(request.SceneId, stop);
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var read = await reading.Read(
            arrival.Path,
            request.SceneId,
            ledger,
            relinks: true,
            Path.Combine(work.Path, "edited"),
            null,
            attempt,
            stop
        );
        var output = places.Frame(request.SceneId, request.Light, request.Camera);
        var name = Path.GetFileName(arrival.Path);
        var print = FramePrint.Of(read.Report, request.Light, request.Camera, places.ColourPrint);
        var begun = new DrawnFrame(print, default, 0, Samples, IsDone: false, null, 0, []);
        attempt.Report("placing its meshes", name);
        var view = new FrameView(Width, Height, request.Light.OfSwatches().Map(), Samples, Environment.ProcessorCount, MostTime)
        {
            Camera = request.Camera,
            HasOwnLights = request.Light == FrameLighting.Scene,
            Progress = (done, picture) =>
            {
                attempt.Report("drawing", name, done, Samples);
                // Each shows twice as much as the one before.
                if (int.IsPow2(done) && done < Samples)
                    (begun with { At = clock.GetUtcNow(), Samples = done }).Keep(
                        output,
                        DisplayPicture.Png(Width, Height, picture(), tools.House)
                    );
            },
        };
        var frame = TestFrame.Of(new(read.Report, read.Session.Edited.Basis, read.Session.Edited.Reading), view, tools, stop);
        var made = begun with
        {
            At = clock.GetUtcNow(),
            Samples = frame.Samples,
            IsDone = true,
            Camera = frame.Camera,
            Triangles = frame.Triangles,
            Told = [.. frame.Told, .. (ReadOnlySpan<string>)(colours.Told is { } told ? [told] : [])],
        };
        made.Keep(output, frame.Png(tools.House));
    }
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(DrawnFrame))]
internal sealed partial class FrameJobContext : JsonSerializerContext;
