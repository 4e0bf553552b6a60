using Microsoft.AspNetCore.Http.HttpResults;
using RootCall.Core.Crossing;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Pictures;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Crossing;

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

    private static async Task<Results<Ok<FramePairView>, NoContent>> Of(
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
        string At(FramePicture picture) =>
            $"/api/scenes/{id}/crossed-frames/{picture}?to={to}&route={asked.Route}&fit={fit}&at={made.At.UtcTicks}".ToLowerInvariant();
        var isCurrent = made.Print == asked.Print(state.FramePrintOf(FrameLighting.Studio, null, disk.ColourPrint));
        return TypedResults.Ok(FramePairView.Of(made, isCurrent, At));
    }
}
