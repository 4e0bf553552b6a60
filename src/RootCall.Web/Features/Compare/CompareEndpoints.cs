using Microsoft.AspNetCore.Http.HttpResults;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Pictures;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Compare;

/// <summary>A moment that can be held beside another.</summary>
/// <param name="Word">As addresses write it.</param>
/// <param name="Title">"now", "as it arrived", "after entry 3".</param>
/// <param name="Note">What tells it from others like it.</param>
internal sealed record MomentItem(string Word, string Title, string Note);

/// <summary>Two moments, as words.</summary>
internal sealed record DrawTheseMoments(string Before, string After, string? Light);

/// <summary>Which material is looked at in which two moments.</summary>
internal sealed record MomentPicture(
    Guid Id,
    string Material,
    string Before,
    string After,
    string? Light = null,
    int? Side = null,
    string? Shape = null
);

/// <summary>Any two moments of a scene, or of two scenes, held beside each other.</summary>
internal static class CompareEndpoints
{
    public static void MapCompare(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/compare").WithTags("Compare");
        group.MapGet("/moments", async (Guid id, string? material, Moments moments, CancellationToken stop) =>
            TypedResults.Ok(await moments.All(id, material, stop))
        );
        group.MapGet("/swatch", Swatch).ExcludeFromDescription();
        group.MapGet("/apart", Apart).ExcludeFromDescription();
        group.MapGet("/frames", Frames);
        group.MapPost(
            "/frames",
            async (Guid id, DrawTheseMoments these, CurrentScenes current, WorkDispatcher work, CancellationToken stop) =>
            {
                var request = Request(id, these);
                var title = $"Draw {Path.GetFileName((await current.Get(id, stop)).Arrival.Path)} at two moments";
                return TypedResults.Ok(await work.Begin(request, title, id, stop));
            }
        );
        group
            .MapGet("/frames/{picture}", (Guid id, string picture, string before, string after, string? light, DiskStore disk) =>
                Enum.TryParse<FramePicture>(picture, ignoreCase: true, out var which)
                && FramePair.Place(disk.MomentFrames(Request(id, new(before, after, light))), which) is var path
                && File.Exists(path)
                    ? Results.File(path, "image/png")
                    : throw new CannotUseException("These frames were not drawn yet.")
            )
            .ExcludeFromDescription();
    }

    private static DrawMoments Request(Guid id, DrawTheseMoments these) =>
        new(id, SceneMoment.Of(these.Before, id), SceneMoment.Of(these.After, id), FrameEndpoints.Lit(these.Light));

    /// <summary>The material at the second moment, held beside the first; with <c>look=before</c> at the first.</summary>
    private static async Task<IResult> Swatch(
        [AsParameters] MomentPicture asked,
        string? look,
        HttpResponse response,
        Moments moments,
        DiskStore disk,
        SwatchRequests swatches,
        CancellationToken stop
    )
    {
        var order = look == "before" ? await moments.Look(asked, asked.Before, stop) : await moments.Pair(asked, stop);
        return SwatchEndpoints.Answer(order, response, disk, swatches);
    }

    private static async Task<IResult> Apart([AsParameters] MomentPicture asked, Moments moments, DiskStore disk, CancellationToken stop) =>
        SwatchEndpoints.Apart(await moments.Pair(asked, stop), disk);

    private static async Task<Results<Ok<FramePairView>, NoContent>> Frames(
        Guid id,
        string before,
        string after,
        string? light,
        CurrentScenes current,
        DiskStore disk,
        CancellationToken stop
    )
    {
        var asked = Request(id, new(before, after, light));
        if (DrawnPair.Of(disk.MomentFrames(asked)) is not { } made)
            return TypedResults.NoContent();
        string At(FramePicture picture) =>
            $"/api/scenes/{id}/compare/frames/{picture.ToString().ToLowerInvariant()}"
            + $"?before={before}&after={after}&light={asked.Light}&at={made.At.UtcTicks}";
        async Task<string> Print(SceneMoment moment) => FramePrint.Of(await current.At(moment, stop), asked.Light, null, disk.ColourPrint);
        var isCurrent = made.Print == MomentFramesJob.Print(await Print(asked.Before), await Print(asked.After));
        return TypedResults.Ok(FramePairView.Of(made, isCurrent, At));
    }
}
