using Microsoft.EntityFrameworkCore;

namespace RootCall.Data.Stores;

/// <summary>Lets those who change one scene take turns: a lock of the database that ends with the transaction.</summary>
internal static class Turns
{
    public static Task Take(RootCallDb db, Guid sceneId, CancellationToken stop) =>
        db.Database.ExecuteSqlAsync($"SELECT pg_advisory_xact_lock(hashtextextended({sceneId.ToString()}, 0))", stop);
}
