using System.Globalization;
using Microsoft.EntityFrameworkCore;
using RootCall.Core.Jobs;

namespace RootCall.Data.Stores;

/// <summary>
/// Removes from the store what nothing uses: contents that no delivery holds any more, what was kept for scenes that are gone, and
/// pictures that nobody has asked for in a month, which are made again when they are.
/// </summary>
public sealed class StoreSweep(DiskStore disk, IFileLinks links, Leftovers leftovers, IDbContextFactory<RootCallDb> databases)
{
    /// <summary>Somebody may be about to use what is younger.</summary>
    private static readonly TimeSpan Young = TimeSpan.FromHours(1);
    private static readonly TimeSpan Forgotten = TimeSpan.FromDays(30);

    /// <summary>Its last report says how much was freed.</summary>
    public async Task Run(IAttempt attempt, CancellationToken stop)
    {
        await leftovers.Sweep(noUploads: false, stop);
        // Listed before it is asked what is used, so that what arrives meanwhile is not touched.
        var trees = Old("arrivals");
        var kept = new[] { "added", "edited", "extracted", "frames", "copies" }.SelectMany(Old).ToList();
        await using var db = await databases.CreateDbContextAsync(stop);
        var arrived = (await db.Arrivals.Where(a => a.Uploaded).Select(a => a.Path).ToListAsync(stop))
            .Select(disk.TreeOf)
            .OfType<string>()
            .ToHashSet(StringComparer.Ordinal);
        var arriving = (await db.Work.Where(w => w.Kind == "arrive" && w.EndedAt == null).Select(w => w.Request).ToListAsync(stop))
            .Select(r => Json.Read<Arrive>(r).Incoming)
            .OfType<Guid>()
            .Select(disk.Arrival);
        arrived.UnionWith(arriving);
        var scenes = (await db.Scenes.Select(s => s.Id).ToListAsync(stop)).Select(id => id.ToString("N")).ToHashSet(StringComparer.Ordinal);
        var freed = new Freed(attempt);
        foreach (var folder in trees.Where(t => !arrived.Contains(t)).Concat(kept.Where(k => !scenes.Contains(Path.GetFileName(k)))))
        {
            stop.ThrowIfCancellationRequested();
            foreach (var file in new DirectoryInfo(folder).EnumerateFiles("*", SearchOption.AllDirectories))
                // A second name frees nothing: its contents are counted when the last name goes.
                freed.Add(file, links.Count(file.FullName) > 1);
            Directory.Delete(folder, recursive: true);
        }

        foreach (var blob in Files("blobs").Where(f => IsOlder(f.LastWriteTimeUtc, Young) && links.Count(f.FullName) == 1))
            Remove(blob, freed, stop);
        foreach (
            var made in new[] { "pictures", "planes", "swatches", "looks", "crossings" }
                .SelectMany(Files)
                .Where(f => IsOlder(Asked(f), Forgotten))
        )
            Remove(made, freed, stop);
        freed.Tell();
    }

    private static void Remove(FileInfo file, Freed freed, CancellationToken stop)
    {
        stop.ThrowIfCancellationRequested();
        freed.Add(file, false);
        file.Delete();
    }

    private static DateTime Asked(FileInfo file) =>
        file.LastAccessTimeUtc > file.LastWriteTimeUtc ? file.LastAccessTimeUtc : file.LastWriteTimeUtc;

    private List<string> Old(string name) =>
        [.. Directory.GetDirectories(Path.Combine(disk.Folder, name)).Where(f => IsOlder(Directory.GetCreationTimeUtc(f), Young))];

    private IEnumerable<FileInfo> Files(string name) =>
        new DirectoryInfo(Path.Combine(disk.Folder, name)).EnumerateFiles("*", SearchOption.AllDirectories);

    private static bool IsOlder(DateTime time, TimeSpan age) => DateTime.UtcNow - time > age;

    /// <summary>Counts, and tells so that the task is known to live.</summary>
    private sealed class Freed(IAttempt attempt)
    {
        public int Files { get; private set; }

        public long Bytes { get; private set; }

        public void Add(FileInfo file, bool shared)
        {
            (Files, Bytes) = (Files + 1, Bytes + (shared ? 0 : file.Length));
            attempt.Report("sweeping", file.Name, Files);
        }

        public void Tell() =>
            attempt.Report(
                "swept",
                Files == 0
                    ? "Nothing in the store is unused."
                    : string.Create(
                        CultureInfo.InvariantCulture,
                        $"{Files:N0} unused {(Files == 1 ? "file is gone; it" : "files are gone; they")} held {Bytes / 1e6:N1} MB."
                    )
            );
    }
}
