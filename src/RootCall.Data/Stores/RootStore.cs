using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>The roots the artist added, and the server folders they must lie in.</summary>
public sealed class RootStore(IDbContextFactory<RootCallDb> databases, IOptions<DataOptions> options, DiskStore disk) : IRoots
{
    public const string Output = "output";

    /// <summary>The folders the settings list.</summary>
    public IReadOnlyList<ServerFolder> ServerFolders => options.Value.ServerFolders;

    /// <summary>All that a request may ever reach: the server folders and the store.</summary>
    public RootScope Everything => new([.. ServerFolders.Select(f => f.Path), disk.Folder]);

    public async Task<List<RootRow>> All(CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Roots.AsNoTracking().OrderBy(r => r.Position).ToListAsync(stop);
    }

    /// <summary>Adds a root; one that is there already stays as it is.</summary>
    /// <exception cref="CannotUseException">No such folder inside the server folders.</exception>
    public async Task<RootRow> Add(string folder, DateTimeOffset at, CancellationToken stop)
    {
        var real = new RootScope(ServerFolders.Select(f => f.Path)).Enter(folder);
        if (real is null || !Directory.Exists(real))
            throw new CannotUseException(
                $"“{folder}” is no folder inside those the settings list ({string.Join(", ", ServerFolders.Select(f => f.Name))})."
            );
        await using var db = await databases.CreateDbContextAsync(stop);
        if (await db.Roots.FirstOrDefaultAsync(r => r.Folder == real, stop) is { } known)
            return known;
        var root = new RootRow
        {
            Id = Guid.CreateVersion7(),
            Name = Path.GetFileName(real),
            Folder = real,
            AddedAt = at,
            Position = await db.Roots.CountAsync(stop) + 1,
        };
        db.Roots.Add(root);
        await db.SaveChangesAsync(stop);
        return root;
    }

    public async Task Remove(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.Roots.Where(r => r.Id == id).ExecuteDeleteAsync(stop);
    }

    /// <summary>Changes what is given.</summary>
    /// <exception cref="CannotUseException">There is no such root, or no such purpose.</exception>
    public async Task<RootRow> Change(Guid id, string? name, string? purpose, int? position, CancellationToken stop)
    {
        if (purpose is not (null or "search" or "library" or Output))
            throw new CannotUseException($"“{purpose}” is no purpose of a root; search, library and output are.");
        if (name is { } given && string.IsNullOrWhiteSpace(given))
            throw new CannotUseException("A root needs a name.");
        await using var db = await databases.CreateDbContextAsync(stop);
        var all = await db.Roots.OrderBy(r => r.Position).ToListAsync(stop);
        var root = all.Find(r => r.Id == id) ?? throw new CannotUseException("There is no such root any more.");
        root.Name = name?.Trim() ?? root.Name;
        root.Purpose = purpose ?? root.Purpose;
        if (position is { } place)
        {
            all.Remove(root);
            all.Insert(Math.Clamp(place - 1, 0, all.Count), root);
            for (var i = 0; i < all.Count; i++)
                all[i].Position = i + 1;
        }

        await db.SaveChangesAsync(stop);
        return root;
    }

    /// <inheritdoc/>
    public async Task<RootScope> Outputs(CancellationToken stop) =>
        new((await All(stop)).Where(r => r.Purpose == Output).Select(r => r.Folder));

    /// <summary>What a scene may read: its own folder, the roots that are searched, and what the store keeps for it.</summary>
    /// <param name="sceneId">Null for a scene that has not arrived yet.</param>
    public async Task<RootScope> ScopeOf(string scenePath, Guid? sceneId, CancellationToken stop) =>
        ScopeOf(scenePath, sceneId, await All(stop));

    public RootScope ScopeOf(string scenePath, Guid? sceneId, IEnumerable<RootRow> roots)
    {
        var folders = roots.Where(r => r.Purpose != Output).Select(r => r.Folder).Append(disk.StandIns);
        if (sceneId is { } id)
            folders = folders.Append(disk.Extracted(id)).Append(disk.Added(id));
        return Core.Muster.CurrentScene.Scope(scenePath, folders.Where(Directory.Exists));
    }
}
