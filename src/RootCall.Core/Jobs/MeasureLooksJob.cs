using RootCall.Core.Files;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>
/// Puts the looks of a scene into numbers, so that they can be put in order: what each looks like, and how far that lies from how it
/// arrived. What was measured lies by what it was made of; whoever asks a second time measures only what is left.
/// </summary>
public sealed class MeasureLooksJob(ISceneShelf scenes, ILedgers ledgers, SceneReading reading, IStorePlaces places, TextureCache textures)
{
    private const int Samples = 2;

    public async Task Run(IAttempt attempt, MeasureLooks request, CancellationToken stop)
    {
        var arrival = await scenes.Demand(request.SceneId, stop);
        var ledger = await ledgers.Read(request.SceneId, stop);
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var now = await reading.Read(
            arrival.Path,
            request.SceneId,
            ledger,
            relinks: true,
            Path.Combine(work.Path, "now"),
            null,
            attempt,
            stop
        );
        var then = ledger.Entries.IsEmpty
            ? now
            : await reading.Read(
                arrival.Path,
                request.SceneId,
                Edits.Ledger.Empty,
                relinks: true,
                Path.Combine(work.Path, "then"),
                null,
                attempt,
                stop
            );
        var arrived = new Dictionary<string, MeasuredLook>(StringComparer.Ordinal);
        foreach (var look in MeasuredLook.Of(then.Report))
            _ = arrived.TryAdd(look.Material.Id, look) && arrived.TryAdd(look.Material.Name, look);
        var looks = MeasuredLook.Of(now.Report);
        for (var i = 0; i < looks.Length; i++)
        {
            stop.ThrowIfCancellationRequested();
            attempt.Report("measuring", looks[i].Material.Name, i, looks.Length);
            // One that was made like another is held beside that one.
            var (id, name) = (looks[i].Material.CopyOf ?? looks[i].Material.Id, looks[i].Material.Arrived ?? looks[i].Material.Name);
            Measure(looks[i], arrived.GetValueOrDefault(id) ?? arrived.GetValueOrDefault(name), arrival.Id, stop);
        }
    }

    private void Measure(MeasuredLook look, MeasuredLook? arrived, Guid arrival, CancellationToken stop)
    {
        var (place, moved) = (places.Look(look.Print), places.Look(look.MovedFrom(arrival)));
        var same = arrived is null || arrived.Print == look.Print;
        var isMoved = !File.Exists(moved);
        var after = !File.Exists(place) || (isMoved && !same) ? Drawn(look.Now, stop) : null;
        if (!File.Exists(place))
            WholeOrNothing.Cached(place, after is null ? [] : LookFeatures.Of(after).Write());
        if (!isMoved)
            return;
        // What did not arrive has not moved.
        var before = same ? null : Drawn(arrived!.Now, stop);
        var far = after is null || before is null ? new LookDifference(0, 0, 0) : after.Difference(before);
        WholeOrNothing.Cached(moved, far.Write());
    }

    /// <summary>Null for one that cannot be drawn: it has no place in an order.</summary>
    private Swatch? Drawn(SwatchOrder order, CancellationToken stop)
    {
        try
        {
            return Swatch.Of(order, textures, places.Moment, Samples, 1, Swatch.MostTime, stop);
        }
        catch (CannotUseException)
        {
            return null;
        }
    }
}
