using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using RootCall.Core.Files;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>The roots the artist added, and the server folders they must lie in.</summary>
public sealed class RootStore(IDbContextFactory<RootCallDb> databases, IOptions<DataOptions> options, DiskStore disk)
{
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
            throw new CannotUseException($"“{folder}” is no folder inside those the settings list ({string.Join(", ", ServerFolders.Select(f => f.Name))}).");
        await using var db = await databases.CreateDbContextAsync(stop);
        if (await db.Roots.FirstOrDefaultAsync(r => r.Folder == real, stop) is { } known) return known;
        var root = new RootRow { Id = Guid.CreateVersion7(), Name = Path.GetFileName(real), Folder = real, AddedAt = at, Position = await db.Roots.CountAsync(stop) + 1 };
        db.Roots.Add(root);
        await db.SaveChangesAsync(stop);
        return root;
    }

    public async Task Remove(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.Roots.Where(r => r.Id == id).ExecuteDeleteAsync(stop);
    }

    /// <summary>What a scene may read: its own folder, the roots, and what was taken out of it.</summary>
    /// <param name="sceneId">Null for a scene that has not arrived yet.</param>
    public async Task<RootScope> ScopeOf(string scenePath, Guid? sceneId, CancellationToken stop)
    {
        var folders = (await All(stop)).Select(r => r.Folder);
        if (sceneId is { } id) folders = folders.Append(disk.Extracted(id));
        return Core.Muster.CurrentScene.Scope(scenePath, folders.Where(Directory.Exists));
    }
}
