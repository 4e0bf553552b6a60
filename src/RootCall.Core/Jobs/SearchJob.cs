namespace RootCall.Core.Jobs;

/// <summary>
/// Lists the roots, makes the ledger's look edits and musters the scene again. Own files that the ledger relinked are read
/// too, so that what they call for turns up; other relinks stay in the ledger, which is laid over the muster when it is shown.
/// </summary>
public sealed class SearchJob(
    ISceneShelf scenes,
    ILedgers ledgers,
    SceneReading reading,
    IStorePlaces places,
    FollowUps followUps,
    TimeProvider clock
)
{
    /// <summary>How often a muster is made again because something newer was stored meanwhile.</summary>
    private const int Tries = 3;

    public async Task Run(IAttempt attempt, Search request, CancellationToken stop)
    {
        for (var tries = 1; ; tries++)
        {
            var arrival = await scenes.Demand(request.SceneId, stop);
            var before = await scenes.Report(arrival.Id, stop);
            var ledger = await ledgers.Read(request.SceneId, stop);
            // A folder of its own: what another search of the scene made is not touched before it is out of use.
            var copies = Path.Combine(places.Edited(request.SceneId), $"{attempt.Token:N}-{tries}");
            var read = await reading.Read(arrival.Path, request.SceneId, ledger, relinks: false, copies, before, attempt, stop);
            var stored = await scenes.Remuster(arrival, read.ToKeep, clock.GetUtcNow(), stop);
            if (stored)
                await followUps.Remember(request.SceneId, read, stop);
            else if (Directory.Exists(copies))
                Directory.Delete(copies, recursive: true);
            // What was found for an older ledger is made again for the one that stands.
            var now = await ledgers.Read(request.SceneId, stop);
            if (stored && now.Applied.Select(e => e.Id).SequenceEqual(ledger.Applied.Select(e => e.Id)))
                break;
            if (tries == Tries)
                break;
        }

        await Sweep(request.SceneId, stop);
    }

    /// <summary>Removes copies that the stored scene does not read.</summary>
    private async Task Sweep(Guid sceneId, CancellationToken stop)
    {
        if (!Directory.Exists(places.Edited(sceneId)) || await scenes.Newest(sceneId, stop) is not { } arrival)
            return;
        var used = (await scenes.Scene(arrival.Id, stop))
            .Files.Select(f => f.Edited)
            .OfType<string>()
            .Select(Path.GetDirectoryName)
            .ToHashSet();
        foreach (var folder in Directory.GetDirectories(places.Edited(sceneId)))
            if (!used.Contains(folder) && clock.GetUtcNow() - Directory.GetLastWriteTimeUtc(folder) > Unused)
                Directory.Delete(folder, recursive: true);
    }

    /// <summary>Copies that are younger may be those of a search that runs.</summary>
    private static readonly TimeSpan Unused = TimeSpan.FromMinutes(10);
}
