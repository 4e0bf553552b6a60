using Microsoft.EntityFrameworkCore;

namespace RootCall.Data.Stores;

/// <summary>Lets those who change one scene take turns: a lock of the database that ends with the transaction.</summary>
internal static class Turns
{
    /// <summary>The scene is another from here on; whoever shows it hears so when the transaction is committed.</summary>
    public static async Task End(RootCallDb db, Guid sceneId, SceneChange change, CancellationToken stop)
    {
        await db
            .Scenes.Where(s => s.Id == sceneId)
            .ExecuteUpdateAsync(
                s =>
                    s.SetProperty(x => x.Revision, x => x.Revision + 1)
                        .SetProperty(x => x.ShownReferences, (int?)null)
                        .SetProperty(x => x.ShownUnanswered, (int?)null),
                stop
            );
        await db.Database.ExecuteSqlAsync($"SELECT pg_notify({SceneEvent.Channel}, {new SceneEvent(sceneId, change).Text})", stop);
    }

    public static Task Take(RootCallDb db, Guid sceneId, CancellationToken stop) =>
        db.Database.ExecuteSqlAsync($"SELECT pg_advisory_xact_lock(hashtextextended({sceneId.ToString()}, 0))", stop);
}
