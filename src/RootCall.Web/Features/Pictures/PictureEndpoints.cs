using System.Collections.Concurrent;
using Hangfire;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Muster;

namespace RootCall.Web.Features.Pictures;

/// <summary>Asks a worker for thumbnails, each once.</summary>
internal sealed class PictureRequests(IBackgroundJobClient queue)
{
    private readonly ConcurrentDictionary<string, DateTime> asked = new(StringComparer.Ordinal);

    public void Ask(string path, Guid? sceneId, int? number, string output, int side)
    {
        if (IsNew(output))
            queue.Enqueue<IWorkRunner>(r => r.MakePicture(path, sceneId, number, output, side, CancellationToken.None));
    }

    /// <summary>All pixels of an image.</summary>
    public void AskPlane(string path, Guid? sceneId, int? number, string output)
    {
        if (IsNew(output))
            queue.Enqueue<IWorkRunner>(r => r.OpenPlane(path, sceneId, number, output, CancellationToken.None));
    }

    /// <summary>After a minute without an answer it may be asked again: the worker may have been down.</summary>
    private bool IsNew(string output)
    {
        var now = DateTime.UtcNow;
        if (asked.TryGetValue(output, out var at) && now - at < TimeSpan.FromMinutes(1))
            return false;
        asked[output] = now;
        return true;
    }
}

/// <summary>
/// Small pictures of images: 200 with a PNG, 202 while a worker makes it, 204 when the image does not decode. Images of
/// a scene are named by their reference, never by a path, so nothing else can be asked for.
/// </summary>
internal static class PictureEndpoints
{
    private const int Side = IPictureStore.Side;
    private const int LargeSide = 1024;

    public static void MapPictures(this IEndpointRouteBuilder api) =>
        api.MapGet("/scenes/{id:guid}/references/{number:int}/picture", Picture).WithTags("Pictures").ExcludeFromDescription();

    /// <summary>The picture of a file that lies beside those in use, by its place in the muster.</summary>
    public static async Task<IResult> Beside(
        Guid id,
        int at,
        HttpResponse response,
        CurrentScenes current,
        DiskStore disk,
        PictureRequests pictures,
        CancellationToken stop
    )
    {
        var beside = (await current.Get(id, stop)).Report.Beside;
        if (at < 0 || at >= beside.Length)
            return Results.NoContent();
        return Of(beside[at].Path, beside[at].Stamp, response, disk, pictures);
    }

    /// <summary>The picture of a file; whoever asks has seen to it that it may be shown.</summary>
    public static IResult Of(string path, FileStamp stamp, HttpResponse response, DiskStore disk, PictureRequests pictures)
    {
        var output = disk.Picture(path, stamp, Side);
        return Made(output, response, () => pictures.Ask(path, null, null, output, Side));
    }

    /// <summary>The picture, nothing where none could be made, or word that it is being made.</summary>
    private static IResult Made(string output, HttpResponse response, Action ask)
    {
        var made = new FileInfo(output);
        if (!made.Exists)
        {
            ask();
            response.Headers.RetryAfter = "1";
            return Results.StatusCode(StatusCodes.Status202Accepted);
        }

        response.Headers.CacheControl = "private, max-age=60";
        return made.Length == 0 ? Results.NoContent() : Results.File(output, "image/png");
    }

    private static async Task<IResult> Picture(
        Guid id,
        int number,
        int? candidate,
        bool? large,
        bool? before,
        HttpResponse response,
        CurrentScenes current,
        SeenStore seen,
        DiskStore disk,
        PictureRequests pictures,
        CancellationToken stop
    )
    {
        var state = await current.Get(id, stop);
        var reference = MusterEndpoints.Find(state.Report, number);
        var side = large == true ? LargeSide : Side;
        // As it was when somebody last looked: its picture was made then, or there is none.
        if (before == true)
            return
                await seen.Of(id, reference.Reference.Key, stop) is { } last
                && disk.Picture(last.Path, last.Stamp, Side) is var old
                && File.Exists(old)
                ? Results.File(old, "image/png")
                : Results.NoContent();
        var carried = reference.Reference.Carried is not null;
        var (path, stamp) = Source(reference, candidate, state);
        if (path is null)
            return Results.NoContent();
        var output = disk.Picture(KeyOf(path, reference), stamp, side);
        return Made(output, response, () => pictures.Ask(path, carried ? id : null, carried ? number : null, output, side));
    }

    /// <summary>Tells an image from all others: the file that holds it, and where in it.</summary>
    public static string KeyOf(string path, MusteredReference reference) =>
        reference.Reference.Carried is { } carried ? $"{path}#{carried.Start} {carried.DataUri?.Start}" : path;

    public static (string? Path, FileStamp Stamp) Source(MusteredReference reference, int? candidate, CurrentState state)
    {
        if (candidate is { } index)
            return index >= 0 && index < reference.Candidates.Length
                ? (reference.Candidates[index].Path, reference.Candidates[index].Stamp)
                : throw new CannotUseException($"Reference {reference.Number} has no candidate {index}.");
        // The scene may have been edited since: its copy is what holds the bytes.
        if (reference.Reference.Carried is { File.Length: > 0 } carried)
            return (carried.File, FileFacts.Stamp(carried.File) ?? default);
        return (reference.Resolved ?? reference.Clear?.Path, reference.Stamp ?? reference.Clear?.Stamp ?? default);
    }
}
