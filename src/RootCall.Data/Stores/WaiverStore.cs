using Microsoft.EntityFrameworkCore;
using RootCall.Core.Audit;

namespace RootCall.Data.Stores;

/// <summary>Causes that somebody lets stand, by scene.</summary>
public sealed class WaiverStore(IDbContextFactory<RootCallDb> databases)
{
    public async Task<IReadOnlyDictionary<string, Waiver>> Read(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db
            .Waivers.AsNoTracking()
            .Where(w => w.SceneId == sceneId)
            .ToDictionaryAsync(w => w.Cause, w => new Waiver(w.Cause, w.Reason, w.At), stop);
    }

    public async Task Put(Guid sceneId, Waiver waiver, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.Waivers.Where(w => w.SceneId == sceneId && w.Cause == waiver.Cause).ExecuteDeleteAsync(stop);
        db.Waivers.Add(
            new()
            {
                SceneId = sceneId,
                Cause = waiver.Cause,
                Reason = waiver.Reason,
                At = waiver.At,
            }
        );
        await db.SaveChangesAsync(stop);
        await Turns.Tell(db, sceneId, SceneChange.Findings, stop);
    }

    public async Task Remove(Guid sceneId, string cause, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.Waivers.Where(w => w.SceneId == sceneId && w.Cause == cause).ExecuteDeleteAsync(stop);
        await Turns.Tell(db, sceneId, SceneChange.Findings, stop);
    }
}
