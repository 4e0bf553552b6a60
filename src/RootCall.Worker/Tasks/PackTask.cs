using Microsoft.EntityFrameworkCore;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker.Tasks;

/// <summary>Builds a package of the current scene, proves it, and keeps the result.</summary>
public sealed class PackTask(
    WaiverStore waivers,
    SceneReading reading,
    DiskStore disk,
    Bounds bounds,
    IDbContextFactory<RootCallDb> databases
)
{
    public async Task Run(WorkLease lease, Pack request, WorkProgress progress, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        if (await db.Packages.AnyAsync(p => p.Id == lease.Task, stop))
            return; // Taken up again after it was done.
        using var work = Folders.Temporary(disk.Work(lease.Token));
        var (read, report) = await reading.Written(request.SceneId, work.Path, progress, stop);
        var plan = PackagePlan.Make(report, read.Context.Facts, read.Session.Current.Answers) with
        {
            Waived = [.. (await waivers.Read(request.SceneId, stop)).Values.OrderBy(w => w.Cause, StringComparer.Ordinal)],
        };
        if (!plan.Unresolved.IsEmpty && !request.AllowMissing)
            throw new CannotUseException(
                $"{plan.Unresolved.Length} references stay unanswered, the first is {plan.Unresolved[0].State.Word()} "
                    + $"“{plan.Unresolved[0].Reference.Written}”. Nothing was built."
            );

        var standIns = plan.StandIns.ToList();
        if (standIns.Count > 0 && !request.AllowStandIns)
            throw new CannotUseException(
                $"A neutral picture stands in for {standIns.Count} missing ones, the first is "
                    + $"“{standIns[0].Reference.Written}”. Nothing was built."
            );

        var target = disk.Package(lease.Token, request.Zip ? request.Name + ".zip" : request.Name);
        var folder = Path.GetDirectoryName(target)!;
        try
        {
            var built = PackageBuilder.Build(
                plan,
                target,
                DateTimeOffset.Now,
                (done, total, name) => progress.Report("packing", name, done, total),
                stop
            );
            progress.Report("proving", Path.GetFileName(target));
            var proof = PackageProof.Prove(built.Written, bounds, work.Path, stop);
            // Published once: by the worker that still has the task.
            await using var transaction = await db.Database.BeginTransactionAsync(stop);
            await lease.Demand(db, stop);
            db.Packages.Add(
                new()
                {
                    Id = lease.Task,
                    SceneId = request.SceneId,
                    Name = Path.GetFileName(target),
                    Path = target,
                    BuiltAt = DateTimeOffset.UtcNow,
                    Files = built.Files,
                    BytesBefore = built.BytesBefore,
                    BytesAfter = built.BytesAfter,
                    Resolved = proof.Resolved,
                    Unresolved = [.. proof.Unresolved.Select(u => $"{u.State.Word()} {u.Reference.Written}")],
                    BrokenFiles = [.. proof.BrokenFiles],
                }
            );
            await db.SaveChangesAsync(stop);
            await transaction.CommitAsync(stop);
        }
        catch
        {
            if (Directory.Exists(folder))
                Directory.Delete(folder, recursive: true);
            throw;
        }
    }
}
