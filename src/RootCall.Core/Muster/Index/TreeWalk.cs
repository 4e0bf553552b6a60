using System.Collections.Concurrent;
using System.Collections.Immutable;
using RootCall.Core.Files;
using static System.FormattableString;

namespace RootCall.Core.Muster;

/// <summary>How much of an index is looked at again.</summary>
public enum Refresh
{
    /// <summary>The times of folders: finds files that came, went or were renamed.</summary>
    Folders,

    /// <summary>The sizes and times of files too: finds those that were written over in place.</summary>
    Files,
}

/// <summary>
/// Makes the index of a tree, or brings one up to date. Folders are listed side by side, a level at a time: on a file
/// server most of the time is waiting for answers.
/// </summary>
public static class TreeWalk
{
    private const int MostNotes = 200;
    private const int TellEvery = 512;

    /// <param name="folder">Absolute, without links.</param>
    /// <param name="scope">What may be looked into; links out of it are noted.</param>
    /// <param name="known">The index as it was; null to list everything.</param>
    /// <param name="progress">Called now and then with the number of files so far and the folder in hand.</param>
    /// <returns>The index, and the listings that are new or differ from the known ones.</returns>
    public static (TreeIndex Index, ImmutableArray<FolderListing> Changed) Make(
        string folder,
        RootScope scope,
        TreeIndex? known = null,
        Refresh refresh = Refresh.Files,
        Action<int, string>? progress = null,
        CancellationToken stop = default
    )
    {
        var at = DateTimeOffset.UtcNow;
        var listings = new ConcurrentBag<FolderListing>();
        var changed = new ConcurrentBag<FolderListing>();
        var notes = new ConcurrentQueue<string>();
        var (files, told) = (0, 0);
        // More than the processors: a walk waits for disks and servers.
        var options = new ParallelOptions { CancellationToken = stop, MaxDegreeOfParallelism = Math.Max(4, Environment.ProcessorCount) };
        ConcurrentBag<string> level = [folder];
        while (!level.IsEmpty)
        {
            var below = new ConcurrentBag<string>();
            Parallel.ForEach(level, options, path =>
            {
                if (Current(path, scope, known?.Listing(path), refresh, notes, out var isNew) is not { } listing)
                    return;
                listings.Add(listing);
                if (isNew)
                    changed.Add(listing);
                foreach (var name in listing.Folders)
                    below.Add(Path.Join(path, name));
                var n = Interlocked.Add(ref files, listing.Names.Length);
                if (progress is null)
                    return;
                var last = Volatile.Read(ref told);
                if ((last == 0 || n - last >= TellEvery) && Interlocked.CompareExchange(ref told, n, last) == last)
                    progress(n, path);
            });
            level = below;
        }

        var kept = notes.Order(StringComparer.Ordinal).Take(MostNotes).ToList();
        if (notes.Count > MostNotes)
            kept.Add(Invariant($"and {notes.Count - MostNotes:N0} more like these."));
        return (new(folder, listings, [.. kept], at), [.. changed]);
    }

    private static FolderListing? Current(
        string path,
        RootScope scope,
        FolderListing? known,
        Refresh refresh,
        ConcurrentQueue<string> notes,
        out bool isNew
    )
    {
        isNew = false;
        if (known is not null && refresh == Refresh.Folders && Directory.GetLastWriteTimeUtc(path) == known.ModifiedUtc)
            return known;
        var listing = FolderListing.Read(path, scope, notes.Enqueue);
        if (listing is not null && known is not null && listing.Agrees(known))
            return known;
        isNew = true;
        return listing;
    }
}
