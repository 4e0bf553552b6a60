using Microsoft.EntityFrameworkCore;
using RootCall.Core.Bench;

namespace RootCall.Data.Stores;

/// <summary>Marks of those who looked at materials, by scene.</summary>
public sealed class MarkStore(IDbContextFactory<RootCallDb> databases)
{
    public async Task<IReadOnlyDictionary<string, MaterialMark>> Read(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db
            .Marks.AsNoTracking()
            .Where(m => m.SceneId == sceneId)
            .ToDictionaryAsync(m => m.Material, m => new MaterialMark(m.Material, m.Kind, m.Word, m.Look, m.At), stop);
    }

    /// <summary>Puts marks in the place of those that the same materials had.</summary>
    public async Task Put(Guid sceneId, IReadOnlyList<MaterialMark> marks, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var all = await db.Database.BeginTransactionAsync(stop);
        await Turns.Take(db, sceneId, stop);
        var materials = marks.Select(m => m.Material).ToList();
        await db.Marks.Where(m => m.SceneId == sceneId && materials.Contains(m.Material)).ExecuteDeleteAsync(stop);
        db.Marks.AddRange(
            marks.Select(m => new Rows.MarkRow
            {
                SceneId = sceneId,
                Material = m.Material,
                Kind = m.Kind,
                Word = m.Word,
                Look = m.Look,
                At = m.At,
            })
        );
        await db.SaveChangesAsync(stop);
        await Turns.Tell(db, sceneId, SceneChange.Marks, stop);
        await all.CommitAsync(stop);
    }

    public async Task Remove(Guid sceneId, IReadOnlyList<string> materials, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.Marks.Where(m => m.SceneId == sceneId && materials.Contains(m.Material)).ExecuteDeleteAsync(stop);
        await Turns.Tell(db, sceneId, SceneChange.Marks, stop);
    }
}
