using Microsoft.EntityFrameworkCore;

namespace RootCall.Data.Stores;

/// <summary>Lets those who change one scene take turns: a lock of the database that ends with the transaction.</summary>
internal static class Turns
{
    /// <summary>The scene is another from here on; whoever shows it hears so when the transaction is committed.</summary>
    public static async Task End(RootCallDb db, Guid sceneId, SceneChange change, CancellationToken stop)
    {
        await db.Scenes.Where(s => s.Id == sceneId).ExecuteUpdateAsync(s => s.SetProperty(x => x.Revision, x => x.Revision + 1), stop);
        await Tell(db, sceneId, change, stop);
    }

    /// <summary>Has all who show the scene hear of it, when the transaction is committed.</summary>
    public static Task Tell(RootCallDb db, Guid sceneId, SceneChange change, CancellationToken stop) =>
        db.Database.ExecuteSqlAsync($"SELECT pg_notify({SceneEvent.Channel}, {new SceneEvent(sceneId, change).Text})", stop);

    public static Task Take(RootCallDb db, Guid sceneId, CancellationToken stop) =>
        db.Database.ExecuteSqlAsync($"SELECT pg_advisory_xact_lock(hashtextextended({sceneId.ToString()}, 0))", stop);
}
