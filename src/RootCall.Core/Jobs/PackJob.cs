using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>Builds a package of the current scene, proves it, and publishes it.</summary>
public sealed class PackJob(
    IPackages packages,
    IHouse house,
    SceneReading reading,
    SceneCrossing crossing,
    IStorePlaces places,
    FrameTools tools,
    Bounds bounds,
    TimeProvider clock
)
{
    /// <summary>What a frame of a proof may take.</summary>
    private static readonly TimeSpan MostTime = TimeSpan.FromSeconds(20);

    /// <summary>Of the pictures of a proof, beside the package.</summary>
    public const string FramesFolder = "proof";

    public async Task Run(IAttempt attempt, Pack request, CancellationToken stop)
    {
        if (await packages.Has(attempt.Job, stop))
            return; // Taken up again after it was done.
        using var work = Folders.Temporary(places.Work(attempt.Token));
        var (read, report, behind) = request.Into is { } into
            ? await Crossed(request, into, work.Path, attempt, stop)
            : await Own(request.SceneId, work.Path, attempt, stop);
        var plan = PackagePlan.Make(report, read.Context.Facts, read.Session.Current.Answers) with
        {
            Behind = behind,
            Waived = [.. (await house.Waivers(request.SceneId, stop)).Values.OrderBy(w => w.Cause, StringComparer.Ordinal)],
        };
        plan.Demand(request.AllowMissing, request.AllowStandIns);
        var target = places.Package(attempt.Token, request.Zip ? request.Name + ".zip" : request.Name);
        var folder = Path.GetDirectoryName(target)!;
        try
        {
            attempt.Report("drawing it as it is", Path.GetFileName(read.Session.Current.Path));
            var painter = new ProofPainter(tools, MostTime);
            var before = painter.Before(new(read.Report, read.Session.Edited.Basis, read.Session.Edited.Reading), stop);
            var built = PackageBuilder.Build(
                plan,
                target,
                clock.GetLocalNow(),
                (done, total, name) => attempt.Report("packing", name, done, total),
                stop
            );
            attempt.Report("proving", Path.GetFileName(target));
            var proof = PackageProof.Prove(built.Written, bounds, work.Path, (painter, before), stop);
            if (proof.Frames is { Before: { } drawn, After: { } again })
                new FramePair(drawn, again).Keep(Path.Combine(folder, FramesFolder), tools.House);
            await packages.Publish(attempt, request.SceneId, built, proof, stop);
        }
        catch
        {
            if (Directory.Exists(folder))
                Directory.Delete(folder, recursive: true);
            throw;
        }
    }

    private async Task<(SceneRead Read, MusterReport Report, ImmutableArray<string> Behind)> Own(
        Guid sceneId,
        string work,
        IAttempt attempt,
        CancellationToken stop
    )
    {
        var (read, report) = await reading.Written(sceneId, work, attempt, stop);
        return (read, report, []);
    }

    /// <summary>The scene in another format, mustered where it was written.</summary>
    private async Task<(SceneRead Read, MusterReport Report, ImmutableArray<string> Behind)> Crossed(
        Pack request,
        CrossInto into,
        string work,
        IAttempt attempt,
        CancellationToken stop
    )
    {
        var folder = Directory.CreateDirectory(Path.Combine(work, "crossed")).FullName;
        var (read, file) = await crossing.Write(request.SceneId, into, folder, work, attempt, stop);
        // Asked of the scene as it is: a picture that stands in is a file like all others in the new one.
        PackagePlan
            .Make(read.Report, read.Context.Facts, read.Session.Current.Answers)
            .Demand(request.AllowMissing, request.AllowStandIns);
        return (read, WritableScene.Arrived(file.Path, read.Context, bounds), [.. file.Behind]);
    }
}
