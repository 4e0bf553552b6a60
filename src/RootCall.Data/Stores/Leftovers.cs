using Microsoft.EntityFrameworkCore;
using RootCall.Core.Jobs;
using RootCall.Data.Work;

namespace RootCall.Data.Stores;

/// <summary>
/// Removes from the store what was begun by those who died: folders of attempts at tasks that nobody has in hand, packages that
/// were never published, uploads that no task waits for, parts of pictures and swatches that nobody waits for.
/// </summary>
public sealed class Leftovers(DiskStore disk, WorkStore work, IDbContextFactory<RootCallDb> databases)
{
    /// <summary>What a living process may still be writing without a task of its own.</summary>
    private static readonly TimeSpan Young = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan Uploading = TimeSpan.FromHours(12);

    /// <param name="noUploads">Nobody is receiving anything now: the process that receives is just starting.</param>
    public async Task Sweep(bool noUploads, CancellationToken stop)
    {
        // Listed before it is asked who has what in hand: what comes into being meanwhile is not touched. What is published is
        // asked for last, since a package is published while its task is still held.
        var attempts = Folders("work");
        var packages = Folders("packages");
        var incoming = Folders("incoming");
        await using var db = await databases.CreateDbContextAsync(stop);
        var requests = await db.Work.Where(w => w.Kind == "arrive" && w.EndedAt == null).Select(w => w.Request).ToListAsync(stop);
        var awaited = requests.Select(r => Json.Read<Arrive>(r).Incoming).OfType<Guid>().ToHashSet();
        var held = await work.Held(stop);
        var published = (await db.Packages.Select(p => p.Path).ToListAsync(stop)).Select(p => Path.GetDirectoryName(p)!).ToHashSet();
        foreach (var folder in attempts)
            if (Guid.TryParse(Path.GetFileName(folder), out var token) ? !held.Contains(token) : IsOlder(folder, Young))
                Delete(folder);
        foreach (var folder in packages)
            if (!published.Contains(folder) && !(Guid.TryParse(Path.GetFileName(folder), out var token) && held.Contains(token)))
                Delete(folder);
        foreach (var folder in incoming)
            if (!(Guid.TryParse(Path.GetFileName(folder), out var id) && awaited.Contains(id)) && (noUploads || IsOlder(folder, Uploading)))
                Delete(folder);
        foreach (
            var (folder, pattern) in (ReadOnlySpan<(string, string)>)
                [("pictures", "*.part"), ("swatches", "*.part"), ("crossings", "*.part"), ("swatches", "*.json")]
        )
        foreach (var part in Directory.EnumerateFiles(Path.Combine(disk.Folder, folder), pattern, SearchOption.AllDirectories))
            if (IsOlder(part, Young))
                File.Delete(part);
    }

    private string[] Folders(string name) => Directory.GetDirectories(Path.Combine(disk.Folder, name));

    private static bool IsOlder(string path, TimeSpan age) => DateTime.UtcNow - File.GetLastWriteTimeUtc(path) > age;

    private static void Delete(string folder)
    {
        try
        {
            Directory.Delete(folder, recursive: true);
        }
        catch (IOException)
        {
            // Whoever it belongs to is removing it, or writes into it still; the next time is soon.
        }
    }
}
