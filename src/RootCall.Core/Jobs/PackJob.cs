using RootCall.Core.Files;
using RootCall.Core.SendOff;

namespace RootCall.Core.Jobs;

/// <summary>Builds a package of the current scene, proves it, and publishes it.</summary>
public sealed class PackJob(IPackages packages, IHouse house, SceneReading reading, IStorePlaces places, Bounds bounds, TimeProvider clock)
{
    public async Task Run(IAttempt attempt, Pack request, CancellationToken stop)
    {
        if (await packages.Has(attempt.Job, stop))
            return; // Taken up again after it was done.
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var (read, report) = await reading.Written(request.SceneId, work.Path, attempt, stop);
        var plan = PackagePlan.Make(report, read.Context.Facts, read.Session.Current.Answers) with
        {
            Waived = [.. (await house.Waivers(request.SceneId, stop)).Values.OrderBy(w => w.Cause, StringComparer.Ordinal)],
        };
        plan.Demand(request.AllowMissing, request.AllowStandIns);
        var target = places.Package(attempt.Token, request.Zip ? request.Name + ".zip" : request.Name);
        var folder = Path.GetDirectoryName(target)!;
        try
        {
            var built = PackageBuilder.Build(
                plan,
                target,
                clock.GetLocalNow(),
                (done, total, name) => attempt.Report("packing", name, done, total),
                stop
            );
            attempt.Report("proving", Path.GetFileName(target));
            var proof = PackageProof.Prove(built.Written, bounds, work.Path, stop);
            await packages.Publish(attempt, request.SceneId, built, proof, stop);
        }
        catch
        {
            if (Directory.Exists(folder))
                Directory.Delete(folder, recursive: true);
            throw;
        }
    }
}
