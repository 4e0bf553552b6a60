using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.SendOff;
using RootCall.Core.Viewing;
using RootCall.Data.Rows;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.SendOff;

/// <summary>What a package of the current scene would hold, and those that were built.</summary>
internal sealed record SendOffView(
    IEnumerable<PlanFile> Files,
    long BytesBefore,
    long BytesAfter,
    IEnumerable<ClashItem> Clashes,
    IEnumerable<UnresolvedItem> Unresolved,
    int References,
    int PendingEntries,
    IEnumerable<PackageItem> Packages,
    IEnumerable<UnresolvedItem> StandIns
);

internal sealed record PlanFile(string Name, string Role, long Bytes, int References);

internal sealed record ClashItem(string Name, bool SameContents, IEnumerable<string> Names);

internal sealed record UnresolvedItem(int Number, string State, string Written, string Name, IEnumerable<string> UsedBy);

/// <param name="Path">Absolute path of a folder; null for a zip, which is downloaded.</param>
internal sealed record PackageItem(
    Guid Id,
    string Name,
    DateTimeOffset BuiltAt,
    int Files,
    long BytesBefore,
    long BytesAfter,
    int Resolved,
    IEnumerable<string> Unresolved,
    IEnumerable<string> BrokenFiles,
    bool Zip,
    FrameDifference? Frames,
    string? NoFrames,
    string? Path
)
{
    public static PackageItem Of(PackageRow p) =>
        new(
            p.Id,
            p.Name,
            p.BuiltAt,
            p.Files,
            p.BytesBefore,
            p.BytesAfter,
            p.Resolved,
            p.Unresolved,
            p.BrokenFiles,
            p.Name.EndsWith(".zip", StringComparison.OrdinalIgnoreCase),
            p is { DeltaEMean: { } mean, DeltaEMost: { } most }
                ? new(mean, most, LookDifference.IsSeenAt(most), DifferencePicture.Top)
                : null,
            p.NoFrames,
            p.Name.EndsWith(".zip", StringComparison.OrdinalIgnoreCase) ? null : p.Path
        );
}

/// <summary>How far the frame from the package lies from the one from before, CIEDE2000.</summary>
/// <param name="Top">What is as far apart, or farther, has the lightest colour of the picture.</param>
internal sealed record FrameDifference(double Mean, double Most, bool IsSeen, double Top);

/// <param name="Zip">A zip, or a folder in the store.</param>
/// <param name="AllowMissing">Build although references stay unanswered; the package's report names them.</param>
/// <param name="AllowStandIns">Build although neutral pictures stand in for missing ones.</param>
/// <param name="Into">The format that it is written in; null for its own.</param>
internal sealed record BuildPackage(bool Zip, bool AllowMissing, bool AllowStandIns = false, IntoForm? Into = null);

internal static class SendOffEndpoints
{
    public static void MapSendOff(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}").WithTags("Send-off");
        group.MapGet("/send-off", async (Guid id, CurrentScenes current, FileFacts facts, PackageStore packages, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            var plan = PackagePlan.Make(state.Report, facts, state.Edited.Current.Answers);
            return TypedResults.Ok(View(plan, state, await packages.Of(id, stop)));
        });
        group.MapPost(
            "/packages",
            async (Guid id, BuildPackage build, CurrentScenes current, WorkDispatcher work, CancellationToken stop) =>
            {
                var state = await current.Get(id, stop);
                var form = build.Into is { } into ? $"_{into.Form}" : string.Empty;
                var name = PortableName.Make($"{Path.GetFileNameWithoutExtension(state.Arrival.Path)}_v{state.Arrival.Version}{form}");
                return TypedResults.Ok(
                    await work.Begin(
                        new Pack(id, name, build.Zip, build.AllowMissing, build.AllowStandIns, build.Into?.Asked),
                        $"Build and prove {name}",
                        id,
                        stop
                    )
                );
            }
        );
        api.MapGet(
                "/packages/{id:guid}/pictures/{picture}",
                async (Guid id, string picture, PackageStore packages, CancellationToken stop) =>
                {
                    var package = await packages.Find(id, stop);
                    return
                        package is not null
                        && Enum.TryParse<FramePicture>(picture, ignoreCase: true, out var which)
                        && FramePair.Place(Path.Combine(Path.GetDirectoryName(package.Path)!, PackJob.FramesFolder), which) is var path
                        && File.Exists(path)
                        ? Results.File(path, "image/png")
                        : throw new CannotUseException("There is no such picture of a package.");
                }
            )
            .WithTags("Send-off")
            .ExcludeFromDescription();
        api.MapGet("/packages/{id:guid}/download", async (Guid id, PackageStore packages, CancellationToken stop) =>
            {
                if (await packages.Find(id, stop) is not { } package || !File.Exists(package.Path))
                    throw new CannotUseException("There is no such package to download.");
                return Results.File(package.Path, "application/zip", package.Name);
            })
            .WithTags("Send-off")
            .ExcludeFromDescription();
    }

    private static SendOffView View(PackagePlan plan, CurrentState state, IEnumerable<PackageRow> packages)
    {
        var own = plan.Report.Scene.Files.Select((f, i) => new PlanFile(plan.OwnNames[i], "scene", f.Bytes, 0));
        return new(
            [.. own, .. plan.Files.Select(f => new PlanFile(f.Name, f.Role, f.Bytes, f.References.Length))],
            plan.BytesBefore,
            plan.BytesAfter,
            plan.Clashes.Select(c => new ClashItem(c.Name, c.SameContents, c.Names)),
            plan.Unresolved.Select(Item),
            plan.Report.References.Length,
            state.Ledger.Pending.Count(),
            packages.Select(PackageItem.Of),
            plan.StandIns.Select(Item)
        );
    }

    private static UnresolvedItem Item(MusteredReference u) =>
        new(
            u.Number,
            u.State.Word(),
            u.Reference.Written,
            WrittenPath.Parse(u.Reference.Written).FileName,
            u.Reference.UsedBy.Select(x => x.Material).Where(m => m.Length > 0).Distinct()
        );
}
