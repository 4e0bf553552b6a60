using System.Collections.Immutable;
using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>What each reference's file was when it was last looked at: the scene's memory of its files.</summary>
public sealed class SeenStore(IDbContextFactory<RootCallDb> databases) : ISeenFiles
{
    public Task<ImmutableDictionary<ReferenceKey, LastSeen>> Read(Guid sceneId, CancellationToken stop) =>
        Read(s => s.SceneId == sceneId, stop);

    /// <summary>The same for some references.</summary>
    public Task<ImmutableDictionary<ReferenceKey, LastSeen>> Read(
        Guid sceneId,
        IEnumerable<ReferenceKey> references,
        CancellationToken stop
    )
    {
        var keys = references.Select(Key).ToList();
        return keys.Count == 0
            ? Task.FromResult(ImmutableDictionary<ReferenceKey, LastSeen>.Empty)
            : Read(s => s.SceneId == sceneId && keys.Contains(s.Reference), stop);
    }

    /// <summary>The same for one reference; null when its file was never looked at.</summary>
    public async Task<LastSeen?> Of(Guid sceneId, ReferenceKey reference, CancellationToken stop) =>
        (await Read(sceneId, [reference], stop)).Values.FirstOrDefault();

    private async Task<ImmutableDictionary<ReferenceKey, LastSeen>> Read(Expression<Func<SeenFileRow, bool>> which, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var rows = await db.SeenFiles.AsNoTracking().Where(which).ToListAsync(stop);
        return rows.ToImmutableDictionary(r => Json.Parse<ReferenceKey>(r.Reference), r => Json.Read<LastSeen>(r.Body));
    }

    /// <summary>Remembers these in place of what was remembered of the same references.</summary>
    public async Task Put(Guid sceneId, IReadOnlyDictionary<ReferenceKey, LastSeen> seen, CancellationToken stop)
    {
        if (seen.Count == 0)
            return;
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        // One writer at a time for a scene: two tasks may have looked at the same files.
        var turn = BitConverter.ToInt64(sceneId.ToByteArray(), 8);
        await db.Database.ExecuteSqlAsync($"SELECT pg_advisory_xact_lock({turn})", stop);
        var keys = seen.Keys.Select(Key).ToList();
        await db.SeenFiles.Where(s => s.SceneId == sceneId && keys.Contains(s.Reference)).ExecuteDeleteAsync(stop);
        db.SeenFiles.AddRange(
            seen.Select(s => new SeenFileRow
            {
                SceneId = sceneId,
                Reference = Key(s.Key),
                Body = Json.Document(s.Value),
            })
        );
        await db.SaveChangesAsync(stop);
        await transaction.CommitAsync(stop);
    }

    // PostgreSQL's text holds no zero character.
    private static string Key(ReferenceKey key) => Json.Text(key).Replace("\\u0000", "\\uFFFD", StringComparison.Ordinal);
}
