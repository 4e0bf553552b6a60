using System.Collections.Concurrent;
using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>
/// Indexes of trees in memory, from the database when this process is new, and brought up to date before they are used. One
/// tree is brought up to date once at a time; who comes meanwhile waits for that.
/// </summary>
public sealed class Indexes(ITreeStore store)
{
    private readonly ConcurrentDictionary<string, Tree> trees = new(StringComparer.Ordinal);

    /// <summary>The index of a scope, with folders looked at again, so that what came or went is known.</summary>
    /// <param name="progress">Called with the number of files so far and the folder in hand.</param>
    public async Task<RootIndex> Get(RootScope scope, Refresh refresh, Action<int, string> progress, CancellationToken stop)
    {
        var current = new List<TreeIndex>();
        foreach (var folder in RootIndex.Tops(scope))
            current.Add(await Update(folder, scope, refresh, progress, stop));
        return new(current);
    }

    private async Task<TreeIndex> Update(
        string folder,
        RootScope scope,
        Refresh refresh,
        Action<int, string> progress,
        CancellationToken stop
    )
    {
        var tree = trees.GetOrAdd(folder, _ => new());
        await tree.Lock.WaitAsync(stop);
        try
        {
            tree.Index ??= await store.Load(folder, stop);
            var (index, changed) = TreeWalk.Make(folder, scope, tree.Index, refresh, progress, stop);
            // Another worker may have written in between; what counts is the disk, which both have seen.
            if (tree.Index is null || refresh == Refresh.Files || Differ(tree.Index, index, changed))
                await store.Save(index, changed, stop);
            return tree.Index = index;
        }
        finally
        {
            tree.Lock.Release();
        }
    }

    private static bool Differ(TreeIndex before, TreeIndex after, ImmutableArray<FolderListing> changed) =>
        !changed.IsEmpty || before.Listings.Length != after.Listings.Length;

    private sealed class Tree
    {
        public SemaphoreSlim Lock { get; } = new(1);

        public TreeIndex? Index { get; set; }
    }
}
