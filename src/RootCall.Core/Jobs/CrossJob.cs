using System.Collections.Immutable;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>
/// Carries materials to another shading model: bakes the images that the scene's format needs for it, and puts one pending entry into
/// the ledger at the end. Cancelled before, nothing of it stays.
/// </summary>
public sealed class CrossJob(
    ISceneShelf scenes,
    ILedgers ledgers,
    IHouse house,
    SceneReading reading,
    IStorePlaces places,
    IImageDecoder decoder,
    IImageEncoder encoder,
    TimeProvider clock
)
{
    /// <summary>Images in full size that are kept for the next material.</summary>
    private const long TextureBytes = 1_200_000_000;

    public async Task Run(IAttempt attempt, Cross request, CancellationToken stop)
    {
        var arrival = await scenes.Demand(request.SceneId, stop);
        var ledger = await ledgers.Read(request.SceneId, stop);
        if (ledger.Entries.Any(e => e.Id == attempt.Job))
            return; // Taken up again after it was done.
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var edited = Path.Combine(work.Path, "edited");
        var read = await reading.Read(arrival.Path, request.SceneId, ledger, relinks: true, edited, null, attempt, stop);
        var scene = read.Report.Scene;
        var baked = Path.Combine(work.Path, "baked");
        var done = 0;
        var baking = new LookBaking(read.Report, new(decoder, TextureBytes, LookBaking.LargestSide), encoder, places.Moment, baked)
        {
            Called = (await house.Rules(stop)).Baked(await house.Names(stop)),
            Begun = name => attempt.Report("baking", name, done, request.Materials.Count),
        };
        var (changes, left) = (new Dictionary<string, CrossChange>(StringComparer.Ordinal), new List<string>());
        foreach (var name in request.Materials)
        {
            attempt.Report("crossing", name, done++, request.Materials.Count);
            stop.ThrowIfCancellationRequested();
            if (scene.Called(name) is not { } material || Crossings.Of(material.Graph, request.Model, request.Route) is not { } crossed)
                continue;
            var set = request.Set.GetValueOrDefault(name, []);
            var images = baking.Bake(material, crossed.With(set), stop);
            if (images.WhyNot is null)
                changes[name] = new(set, images.Inputs, images.Files) { Route = request.Route };
            else
                left.Add($"{name}: {images.WhyNot}");
        }

        if (changes.Count == 0 && left.Count > 0)
            throw new CannotUseException($"Nothing was carried. {left[0]}");
        // Where they lie from now on; what an attempt that was lost left there is not the ledger's.
        var kept = Path.Combine(places.Extracted(request.SceneId), $"baked-{attempt.Job:N}");
        var entry = CrossingEntries.TakeOver(
            scene,
            [.. changes.Keys.Select(scene.Called).OfType<Scenes.Material>()],
            request.Model,
            changes.ToDictionary(c => c.Key, c => c.Value.In(kept)),
            clock.GetUtcNow(),
            request.Note
        ) with
        {
            Id = attempt.Job,
        };
        if (left.Count > 0)
            entry = entry with { Sentence = $"{entry.Sentence}; left {left.Count}: {left[0]}" };
        if (Directory.Exists(baked))
            await attempt.Held(
                () =>
                {
                    if (Directory.Exists(kept))
                        Directory.Delete(kept, recursive: true);
                    Directory.CreateDirectory(Path.GetDirectoryName(kept)!);
                    Directory.Move(baked, kept);
                },
                stop
            );
        await ledgers.Change(request.SceneId, l => l.Entries.Any(e => e.Id == entry.Id) ? l : l.Put(entry), stop);
    }
}
