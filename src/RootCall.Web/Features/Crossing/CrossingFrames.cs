using Microsoft.AspNetCore.Http.HttpResults;
using RootCall.Core.Crossing;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Crossing;

/// <summary>A whole scene before and after a crossing.</summary>
/// <param name="Mean">Mean ΔE of the frames' pixels, <paramref name="High"/> its 95th percentile.</param>
/// <param name="IsSeen">Somebody could tell the two apart.</param>
/// <param name="Told">What the frames do not show, in sentences.</param>
/// <param name="IsCurrent">They show the scene as it stands.</param>
/// <param name="Pictures">Address of the picture of each name.</param>
internal sealed record CrossingFrameView(
    DateTimeOffset At,
    double Mean,
    double High,
    double Most,
    bool IsSeen,
    IEnumerable<string> Told,
    bool IsCurrent,
    FramePairPictures Pictures
);

internal sealed record FramePairPictures(string Before, string After, string Difference);

/// <summary>Which crossing is drawn.</summary>
internal sealed record DrawTheseLooks(string To, CrossingRoute Route, bool Fit)
{
    public WholeCrossing Crossing => new(To, Route, Fit);
}

/// <summary>The whole scene in the looks that arrived and in those of another shading model.</summary>
internal static class CrossingFrames
{
    public static void MapCrossingFrames(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/crossed-frames").WithTags("Crossing");
        group.MapGet(string.Empty, Of);
        group.MapPost(
            string.Empty,
            async (Guid id, DrawTheseLooks these, CrossedScenes crossed, WorkDispatcher work, CancellationToken stop) =>
            {
                var (state, _) = await crossed.Get(id, these.To, these.Route, stop);
                var title = $"Draw {Path.GetFileName(state.Arrival.Path)} before and after";
                return TypedResults.Ok(await work.Begin(new DrawCrossing(id, these.Crossing), title, id, stop));
            }
        );
        group
            .MapGet("/{picture}", (Guid id, string picture, string to, string? route, bool fit, DiskStore disk) =>
                Crossings.Carries(to)
                && Enum.TryParse<FramePicture>(picture, ignoreCase: true, out var which)
                && FramePair.Place(disk.CrossingFrame(id, new(to, CrossingEndpoints.Routed(route), fit)), which) is var path
                && File.Exists(path)
                    ? Results.File(path, "image/png")
                    : throw new CannotUseException("These frames were not drawn yet.")
            )
            .ExcludeFromDescription();
    }

    private static async Task<Results<Ok<CrossingFrameView>, NoContent>> Of(
        Guid id,
        string to,
        string? route,
        bool fit,
        CrossedScenes crossed,
        DiskStore disk,
        CancellationToken stop
    )
    {
        var asked = new WholeCrossing(to, CrossingEndpoints.Routed(route), fit);
        var (state, _) = await crossed.Get(id, to, asked.Route, stop);
        if (DrawnPair.Of(disk.CrossingFrame(id, asked)) is not { } made)
            return TypedResults.NoContent();
        // Each pair has addresses of its own, so that a browser shows the newest.
        string At(FramePicture picture) =>
            $"/api/scenes/{id}/crossed-frames/{picture}?to={to}&route={asked.Route}&fit={fit}&at={made.At.UtcTicks}".ToLowerInvariant();
        return TypedResults.Ok(
            new CrossingFrameView(
                made.At,
                made.Moved.Mean,
                made.Moved.High,
                made.Moved.Most,
                made.Moved.IsSeen,
                made.Told,
                made.Print == asked.Print(state.FramePrintOf(FrameLighting.Studio, null, disk.ColourPrint)),
                new(At(FramePicture.Before), At(FramePicture.After), At(FramePicture.Difference))
            )
        );
    }
}
