using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>Indexes of trees, a row a folder: bringing one up to date writes only the folders that changed.</summary>
public sealed class IndexStore(IDbContextFactory<RootCallDb> databases) : ITreeStore
{
    /// <summary>The stored index of a folder; null when there is none.</summary>
    public async Task<TreeIndex?> Load(string folder, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        if (await db.IndexTrees.AsNoTracking().FirstOrDefaultAsync(t => t.Folder == folder, stop) is not { } tree)
            return null;
        var rows = await db.IndexFolders.AsNoTracking().Where(f => f.TreeId == tree.Id).ToListAsync(stop);
        return new(folder, rows.Select(Listing), [.. tree.Notes], tree.IndexedAt);
    }

    /// <summary>Single folders of whatever index has them.</summary>
    public async Task<Dictionary<string, FolderListing>> Folders(IReadOnlyCollection<string> paths, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var rows = await db.IndexFolders.AsNoTracking().Where(f => paths.Contains(f.Path)).ToListAsync(stop);
        return rows.DistinctBy(r => r.Path).ToDictionary(r => r.Path, Listing, StringComparer.Ordinal);
    }

    /// <summary>A folder and all below it, of the index that has it.</summary>
    public async Task<List<FolderListing>> Below(string folder, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var rows = await db.IndexFolders.AsNoTracking().Where(f => f.Path == folder || f.Path.StartsWith(folder + "/")).ToListAsync(stop);
        return [.. rows.DistinctBy(r => r.Path).Select(Listing)];
    }

    public async Task<List<IndexTreeRow>> Trees(CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.IndexTrees.AsNoTracking().ToListAsync(stop);
    }

    /// <summary>Keeps an index.</summary>
    /// <param name="changed">Listings that the stored index does not have yet.</param>
    public async Task Save(TreeIndex index, ImmutableArray<FolderListing> changed, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        var tree = await db.IndexTrees.FirstOrDefaultAsync(t => t.Folder == index.Folder, stop);
        var isNew = tree is null;
        if (tree is null)
            db.IndexTrees.Add(tree = new() { Id = Guid.CreateVersion7(), Folder = index.Folder });
        (tree.Files, tree.Folders, tree.IndexedAt, tree.Notes) = (index.Count, index.Listings.Length, index.At, [.. index.Notes]);
        await db.SaveChangesAsync(stop);
        if (!isNew)
        {
            var kept = index.Listings.Select(l => l.Path).ToHashSet(StringComparer.Ordinal);
            var stored = await db.IndexFolders.Where(f => f.TreeId == tree.Id).Select(f => f.Path).ToListAsync(stop);
            var old = stored.Where(p => !kept.Contains(p)).Concat(changed.Select(c => c.Path)).ToList();
            await db.IndexFolders.Where(f => f.TreeId == tree.Id && old.Contains(f.Path)).ExecuteDeleteAsync(stop);
            var there = stored.ToHashSet(StringComparer.Ordinal);
            there.ExceptWith(old);
            changed = [.. index.Listings.Where(l => !there.Contains(l.Path))];
        }

        await Copy(db, tree.Id, isNew ? index.Listings : changed, stop);
        await transaction.CommitAsync(stop);
    }

    private static async Task Copy(RootCallDb db, Guid tree, ImmutableArray<FolderListing> listings, CancellationToken stop)
    {
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await using var copy = await connection.BeginBinaryImportAsync(
            "COPY index_folders (tree_id, path, modified, names, sizes, times, folders) FROM STDIN (FORMAT BINARY)",
            stop
        );
        foreach (var listing in listings)
        {
            await copy.StartRowAsync(stop);
            await copy.WriteAsync(tree, NpgsqlDbType.Uuid, stop);
            await copy.WriteAsync(listing.Path, NpgsqlDbType.Text, stop);
            await copy.WriteAsync(listing.ModifiedUtc.Ticks, NpgsqlDbType.Bigint, stop);
            await copy.WriteAsync(listing.Names, NpgsqlDbType.Array | NpgsqlDbType.Text, stop);
            await copy.WriteAsync(listing.Sizes, NpgsqlDbType.Array | NpgsqlDbType.Bigint, stop);
            await copy.WriteAsync(listing.Times, NpgsqlDbType.Array | NpgsqlDbType.Bigint, stop);
            await copy.WriteAsync(listing.Folders, NpgsqlDbType.Array | NpgsqlDbType.Text, stop);
        }

        await copy.CompleteAsync(stop);
    }

    private static FolderListing Listing(IndexFolderRow r) =>
        new(r.Path, new(r.Modified, DateTimeKind.Utc), r.Names, r.Sizes, r.Times, r.Folders);
}
