using Microsoft.EntityFrameworkCore;
using RootCall.Core.Files;

namespace RootCall.Data.Stores;

/// <summary>What goes when a scene is removed, and what stays.</summary>
/// <param name="Bytes">On disk, in the store; contents that other deliveries share are freed with the last of them.</param>
/// <param name="Stays">The scene's own file, where it was read in place; null for an upload, which goes.</param>
public sealed record RemovalView(string Title, int Versions, int Edits, int Waivers, int Marks, int Packages, long Bytes, string? Stays);

/// <summary>
/// Removes scenes, versions and packages: rows first, so that nothing half-removed is ever shown, then what the store kept for them.
/// Files outside the store are nobody's to remove.
/// </summary>
public sealed class SceneRemoval(IDbContextFactory<RootCallDb> databases, DiskStore disk)
{
    /// <exception cref="CannotUseException">There is no such scene.</exception>
    public async Task<RemovalView> Preview(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var scene = await db.Scenes.AsNoTracking().FirstOrDefaultAsync(s => s.Id == id, stop) ?? throw NoScene();
        var arrivals = await Paths(db, id, stop);
        var packages = await db.Packages.Where(p => p.SceneId == id).Select(p => p.Path).ToListAsync(stop);
        var folders = await Folders(db, id, arrivals, packages, stop);
        return new(
            scene.Name,
            arrivals.Count,
            await db.LedgerEntries.CountAsync(l => l.SceneId == id, stop),
            await db.Waivers.CountAsync(w => w.SceneId == id, stop),
            await db.Marks.CountAsync(m => m.SceneId == id, stop),
            packages.Count,
            folders.Sum(Bytes),
            arrivals.Find(a => !a.Uploaded)?.Path
        );
    }

    /// <exception cref="CannotUseException">There is no such scene.</exception>
    public async Task Remove(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        await Turns.Take(db, id, stop);
        var arrivals = await Paths(db, id, stop);
        var packages = await db.Packages.Where(p => p.SceneId == id).Select(p => p.Path).ToListAsync(stop);
        if (arrivals.Count == 0)
            throw NoScene();
        var folders = await Folders(db, id, arrivals, packages, stop);
        await db.Scenes.Where(s => s.Id == id).ExecuteDeleteAsync(stop);
        await db.Work.Where(w => w.SceneId == id && w.EndedAt != null).ExecuteDeleteAsync(stop);
        await Turns.Tell(db, id, SceneChange.Removed, stop);
        await transaction.CommitAsync(stop);
        Delete(folders);
    }

    /// <summary>Removes one version; the newest of those that are left is the scene from then on.</summary>
    /// <exception cref="CannotUseException">There is no such version, or it is the only one.</exception>
    public async Task RemoveVersion(Guid id, int version, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        await Turns.Take(db, id, stop);
        var arrivals = await Paths(db, id, stop);
        var gone = arrivals.Find(a => a.Version == version)
            ?? throw new CannotUseException($"The scene has no version {version} any more.");
        if (arrivals.Count == 1)
            throw new CannotUseException("It is the scene's only version; remove the scene instead.");
        var folders = await Trees(db, [gone], stop);
        await db.Arrivals.Where(a => a.Id == gone.Id).ExecuteDeleteAsync(stop);
        await Turns.End(db, id, SceneChange.Muster, stop);
        await transaction.CommitAsync(stop);
        Delete(folders);
    }

    /// <exception cref="CannotUseException">There is no such package.</exception>
    public async Task RemovePackage(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var path = await db.Packages.Where(p => p.Id == id).Select(p => p.Path).FirstOrDefaultAsync(stop);
        if (path is null)
            throw new CannotUseException("The package is no longer there.");
        await db.Packages.Where(p => p.Id == id).ExecuteDeleteAsync(stop);
        Delete([Path.GetDirectoryName(path)!]);
    }

    private static CannotUseException NoScene() => new("There is no such scene any more.");

    private sealed record Came(Guid Id, int Version, string Path, bool Uploaded);

    private static Task<List<Came>> Paths(RootCallDb db, Guid id, CancellationToken stop) =>
        db
            .Arrivals.Where(a => a.SceneId == id)
            .OrderByDescending(a => a.Version)
            .Select(a => new Came(a.Id, a.Version, a.Path, a.Uploaded))
            .ToListAsync(stop);

    /// <summary>All that the store keeps for a scene alone.</summary>
    private async Task<List<string>> Folders(RootCallDb db, Guid id, List<Came> arrivals, List<string> packages, CancellationToken stop) =>
        [
            .. await Trees(db, arrivals, stop),
            .. packages.Select(p => Path.GetDirectoryName(p)!),
            disk.Edited(id),
            disk.Extracted(id),
            disk.Added(id),
            disk.Frames(id),
            disk.CopiesOf(id),
        ];

    /// <summary>Trees of uploads that no other arrival was read from: several scenes may have come in one.</summary>
    private async Task<List<string>> Trees(RootCallDb db, List<Came> arrivals, CancellationToken stop)
    {
        var trees = new List<string>();
        var mine = arrivals.Select(a => a.Id).ToList();
        foreach (var tree in arrivals.Where(a => a.Uploaded).Select(a => disk.TreeOf(a.Path)).OfType<string>().Distinct())
            if (!await db.Arrivals.AnyAsync(a => a.Path.StartsWith(tree + "/") && !mine.Contains(a.Id), stop))
                trees.Add(tree);
        return trees;
    }

    private static long Bytes(string folder) =>
        Directory.Exists(folder) ? new DirectoryInfo(folder).EnumerateFiles("*", SearchOption.AllDirectories).Sum(f => f.Length) : 0;

    private void Delete(IEnumerable<string> folders)
    {
        foreach (var folder in folders.Where(f => RootScope.IsInside(disk.Folder, f) && Directory.Exists(f)))
            Directory.Delete(folder, recursive: true);
    }
}
