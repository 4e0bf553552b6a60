using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Stores;

namespace RootCall.Worker;

/// <summary>Reads a scene and musters it against the roots, telling how far it is.</summary>
public sealed class SceneReading(RootStore roots, FileFacts facts, Bounds bounds)
{
    public async Task<(MusterReport Report, MusterContext Context)> Muster(
        string path, IReadOnlyDictionary<ReferenceKey, string>? relinked, IReadOnlyDictionary<ReferenceKey, LastSeen>? lastSeen, WorkProgress progress, CancellationToken stop)
    {
        var scope = await roots.ScopeOf(path, stop);
        progress.Report("looking in the roots");
        var index = RootIndex.Build(scope, (n, folder) => progress.Report("looking in the roots", Path.GetFileName(folder), n), stop);
        var context = new MusterContext(scope, index, facts)
        {
            Relinked = relinked ?? ImmutableDictionary<ReferenceKey, string>.Empty,
            LastSeen = lastSeen ?? ImmutableDictionary<ReferenceKey, LastSeen>.Empty,
            Progress = (done, total) => progress.Report("mustering", string.Empty, done, total),
            Stop = stop,
        };
        progress.Report("reading", Path.GetFileName(path));
        return (CurrentScene.Muster(path, context, bounds, detail => progress.Report("reading", detail)), context);
    }

    /// <summary>What the last muster knew of each reference's file.</summary>
    public static ImmutableDictionary<ReferenceKey, LastSeen> Seen(MusterReport report) => report.References
        .Where(r => r.Resolved is not null && r.Stamp is not null)
        .ToImmutableDictionary(r => r.Reference.Key, r => new LastSeen(r.Resolved!, r.Stamp!.Value, r.Facts?.Width ?? 0, r.Facts?.Height ?? 0, null));
}
