using Microsoft.EntityFrameworkCore;
using RootCall.Core.Muster;
using RootCall.Data;
using RootCall.Data.Stores;

namespace RootCall.Bench;

/// <summary>The index in PostgreSQL; <c>./rootcall bench</c> starts one.</summary>
internal static class IndexStoreBench
{
    /// <summary>A store on a new database; null when no PostgreSQL was started for the bench.</summary>
    public static IndexStore? Open()
    {
        if (Environment.GetEnvironmentVariable("ROOTCALL_TEST_DB") is not { } cluster)
            return null;
        var options = new DbContextOptionsBuilder<RootCallDb>()
            .UseNpgsql($"{cluster};Database=bench_{Guid.NewGuid():N}")
            .UseSnakeCaseNamingConvention()
            .Options;
        using var db = new RootCallDb(options);
        db.Database.Migrate();
        return new(new Factory(options));
    }

    public static void Save(IndexStore store, TreeIndex index, IReadOnlyList<FolderListing> changed) =>
        store.Save(index, [.. changed], CancellationToken.None).GetAwaiter().GetResult();

    private sealed class Factory(DbContextOptions<RootCallDb> options) : IDbContextFactory<RootCallDb>
    {
        public RootCallDb CreateDbContext() => new(options);
    }
}
