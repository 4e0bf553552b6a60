using Microsoft.EntityFrameworkCore;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Data.Rows;
using RootCall.Data.Work;

namespace RootCall.Data.Stores;

/// <summary>Packages that were published. One has the id of the job that built it.</summary>
public sealed class PackageStore(IDbContextFactory<RootCallDb> databases) : IPackages
{
    public async Task<bool> Has(Guid job, CancellationToken stop) => await Find(job, stop) is not null;

    public async Task<PackageRow?> Find(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Packages.AsNoTracking().FirstOrDefaultAsync(p => p.Id == id, stop);
    }

    /// <summary>Those of a scene, the last that was built first.</summary>
    public async Task<List<PackageRow>> Of(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Packages.AsNoTracking().Where(p => p.SceneId == sceneId).OrderByDescending(p => p.BuiltAt).ToListAsync(stop);
    }

    public async Task Publish(IAttempt attempt, Guid sceneId, BuiltPackage built, Proof proof, CancellationToken stop)
    {
        var difference = proof.Frames?.Difference;
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        await new WorkLease(attempt.Job, attempt.Token).Demand(db, stop);
        db.Packages.Add(
            new()
            {
                Id = attempt.Job,
                SceneId = sceneId,
                Name = Path.GetFileName(built.Written),
                Path = built.Written,
                BuiltAt = DateTimeOffset.UtcNow,
                Files = built.Files,
                BytesBefore = built.BytesBefore,
                BytesAfter = built.BytesAfter,
                Resolved = proof.Resolved,
                Unresolved = [.. proof.Unresolved.Select(u => $"{u.State.Word()} {u.Reference.Written}")],
                BrokenFiles = [.. proof.BrokenFiles],
                DeltaEMean = difference?.Mean,
                DeltaEMost = difference?.Most,
                NoFrames = proof.Frames?.WhyNot,
            }
        );
        await db.SaveChangesAsync(stop);
        await transaction.CommitAsync(stop);
    }
}
