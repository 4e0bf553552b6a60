using RootCall.Core.Files;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>
/// Measures how far a crossing moves each look of a scene. What was measured lies by what it was made of, so that whoever takes the job
/// up again, or asks a second time, measures only what is left; nothing of it is part of the scene.
/// </summary>
public sealed class MeasureCrossingJob(
    ISceneShelf scenes,
    ILedgers ledgers,
    SceneReading reading,
    IStorePlaces places,
    TextureCache textures
)
{
    public async Task Run(IAttempt attempt, MeasureCrossing request, CancellationToken stop)
    {
        var arrival = await scenes.Demand(request.SceneId, stop);
        var ledger = await ledgers.Read(request.SceneId, stop);
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var edited = Path.Combine(work.Path, "edited");
        var read = await reading.Read(arrival.Path, request.SceneId, ledger, relinks: true, edited, null, attempt, stop);
        var references = new ReferencesByKey(read.Report);
        var looks = read
            .Report.Scene.Materials.Where(m => !m.IsTemplate && (request.Materials is null || request.Materials.Contains(m.Name)))
            .Select(m => CrossedLook.Of(m, references, request.Model, request.Route, []))
            .OfType<CrossedLook>()
            .ToList();
        for (var i = 0; i < looks.Count; i++)
        {
            attempt.Report(request.Fit ? "fitting" : "measuring", looks[i].Material.Name, i, looks.Count);
            var place = places.Crossing(looks[i].Print);
            var known = MovedLook.Read(place);
            if (File.Exists(place) && (!request.Fit || known is null or { Fit: not null }))
                continue;
            stop.ThrowIfCancellationRequested();
            var moved = known ?? MovedLook.Of(looks[i], textures, places.Moment, stop);
            if (request.Fit)
                moved = moved?.WithFit(looks[i], textures, places.Moment, stop);
            WholeOrNothing.Cached(place, moved?.Write() ?? []);
        }
    }
}
