using RootCall.Core.Audit;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker.Tasks;

/// <summary>
/// Remembers what the files that answer hold and look like, each once: a file that is renamed later is found by its
/// contents, and one that is written over shows how it looked before. What is remembered stays until somebody says that
/// they have seen the new state.
/// </summary>
public sealed class RememberTask(
    SceneStore scenes,
    LedgerStore ledgers,
    RootStore roots,
    ArrivalRecipes arrivals,
    SeenStore seen,
    KnownFileStore known,
    FileFacts facts,
    FollowUps followUps
)
{
    private const int AtOnce = 64;

    public async Task Run(Remember request, WorkProgress progress, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(request.SceneId, stop) ?? throw new CannotUseException("The scene is no longer there.");
        var report = await scenes.Report(arrival, stop);
        var there = await seen.Read(request.SceneId, stop);
        var files = report
            .References.Where(r =>
                r.Resolved is not null && r.Stamp is not null && !r.Flags.HasFlag(ReferenceFlags.StandIn) && IsNew(r, there)
            )
            .ToList();
        await known.Load(facts, files.Select(f => f.Resolved!), stop);
        var done = 0;
        foreach (var some in files.Chunk(AtOnce))
        {
            var made = new System.Collections.Concurrent.ConcurrentDictionary<ReferenceKey, LastSeen>();
            Parallel.ForEach(
                some,
                new ParallelOptions { CancellationToken = stop, MaxDegreeOfParallelism = Environment.ProcessorCount },
                file =>
                {
                    progress.Report("remembering", Path.GetFileName(file.Resolved!), Interlocked.Increment(ref done), files.Count);
                    if (Look(file, stop) is { } now)
                        made[file.Reference.Key] = now;
                }
            );
            await seen.Put(request.SceneId, made, stop);
        }

        // The audit looks into the scene as it stands: with what the ledger relinked.
        var ledger = await ledgers.Read(request.SceneId, stop);
        var current = Mustering.Relink(
            report,
            ledger.Relinks(withPending: true),
            await roots.ScopeOf(arrival.Path, request.SceneId, stop),
            facts
        );
        await known.Load(facts, ImageMeasures.Wanted(current).Select(w => w.Path), stop);
        var measures = ImageMeasures.Read(
            current,
            facts,
            (n, total, path) => progress.Report("measuring images", Path.GetFileName(path), n, total),
            stop
        );
        await known.Save(facts, stop);
        await arrivals.Apply(arrival, Mustering.Judge(current, facts), measures.Pixels, ledger, stop);
        // What decoding found broken does not answer: the scene is mustered once more with that.
        if (current.References.Any(r => r.Damage is null && r.Resolved is { } path && measures.Broken.Contains(path)))
            await followUps.Search(request.SceneId, stop);
    }

    /// <summary>Nothing is remembered of it, or not yet what it holds, or it answers from another place now.</summary>
    public static bool IsNew(MusteredReference file, IReadOnlyDictionary<ReferenceKey, LastSeen> there) =>
        !there.TryGetValue(file.Reference.Key, out var known)
        || known.Path != file.Resolved
        || (known.Hash is null && known.Stamp == file.Stamp);

    private LastSeen? Look(MusteredReference file, CancellationToken stop)
    {
        var (path, stamp) = (file.Resolved!, file.Stamp!.Value);
        try
        {
            // Hashed first: of files that hold the same bytes only one is decoded.
            var hash = facts.Hash(path, stamp);
            var look = file.Reference.Kind == ReferenceKind.Image && file.Damage is null ? facts.Look(path, stamp, stop) : null;
            return new(path, stamp, file.Facts?.Width ?? 0, file.Facts?.Height ?? 0, hash, look);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return null; // It went away; the next muster says so.
        }
    }
}
