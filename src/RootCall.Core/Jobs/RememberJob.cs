using System.Collections.Concurrent;
using RootCall.Core.Audit;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Jobs;

/// <summary>
/// Remembers what the files that answer hold and look like, each once: a file that is renamed later is found by its
/// contents, and one that is written over shows how it looked before. What is remembered stays until somebody says that
/// they have seen the new state.
/// </summary>
public sealed class RememberJob(
    ISceneShelf scenes,
    ILedgers ledgers,
    IRoots roots,
    ArrivalRecipes arrivals,
    ISeenFiles seen,
    IKnownFiles known,
    FileFacts facts,
    FollowUps followUps
)
{
    private const int AtOnce = 64;

    public async Task Run(IAttempt attempt, Remember request, CancellationToken stop)
    {
        var arrival = await scenes.Demand(request.SceneId, stop);
        var report = await scenes.Report(arrival.Id, stop);
        var ledger = await ledgers.Read(request.SceneId, stop);
        var scope = await roots.ScopeOf(arrival.Path, request.SceneId, stop);
        // What the ledger relinked is the scene's own file from then on: it may be written over like all others.
        var relinks = ledger.Relinks();
        var decided = Mustering.Relink(report, relinks, scope, facts);
        var files = New(decided, await seen.Read(request.SceneId, stop)).ToList();
        await known.Load(facts, files.Select(f => f.Resolved!), stop);
        var done = 0;
        foreach (var some in files.Chunk(AtOnce))
        {
            var made = new ConcurrentDictionary<ReferenceKey, LastSeen>();
            Parallel.ForEach(
                some,
                new ParallelOptions { CancellationToken = stop, MaxDegreeOfParallelism = Environment.ProcessorCount },
                file =>
                {
                    attempt.Report("remembering", Path.GetFileName(file.Resolved!), Interlocked.Increment(ref done), files.Count);
                    if (Look(file, stop) is { } now)
                        made[file.Reference.Key] = now with { Relinked = relinks.ContainsKey(file.Reference.Key) };
                }
            );
            await seen.Put(request.SceneId, made, stop);
        }

        // What is broken is told now, not when all is measured.
        await known.Save(facts, stop);
        // The audit looks into the scene as it stands: with what the ledger relinked.
        var current = Mustering.Relink(report, ledger.Relinks(withPending: true), scope, facts);
        await known.Load(facts, ImageMeasures.Wanted(current).Select(w => w.Path), stop);
        var measures = ImageMeasures.Read(
            current,
            facts,
            (n, total, path) => attempt.Report("measuring images", Path.GetFileName(path), n, total),
            stop
        );
        await known.Save(facts, stop);
        if (request.HasArrived)
            await arrivals.Apply(arrival, Mustering.Judge(current, facts), measures.Pixels, ledger, stop);
        // What decoding found broken does not answer: the scene is mustered once more with that.
        if (current.References.Any(r => r.Damage is null && r.Resolved is { } path && measures.Broken.Contains(path)))
            await followUps.Search(request.SceneId, stop);
    }

    /// <summary>References whose files are to be looked at.</summary>
    public static IEnumerable<MusteredReference> New(MusterReport report, IReadOnlyDictionary<ReferenceKey, LastSeen> there) =>
        report.References.Where(r =>
            r.Resolved is not null && r.Stamp is not null && !r.Flags.HasFlag(ReferenceFlags.StandIn) && IsNew(r, there)
        );

    /// <summary>Nothing is remembered of it, or not yet what it holds, or it answers from another place now.</summary>
    private static bool IsNew(MusteredReference file, IReadOnlyDictionary<ReferenceKey, LastSeen> there) =>
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
