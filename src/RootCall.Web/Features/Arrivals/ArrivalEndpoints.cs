using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Net.Http.Headers;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Jobs;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Arrivals;

/// <param name="Path">Absolute path of a scene inside a server folder.</param>
internal sealed record OpenScene(string Path);

/// <summary>The ways in: a scene opened in place, and a dropped folder or zip.</summary>
internal static class ArrivalEndpoints
{
    public static void MapArrivals(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/arrivals").WithTags("Arrivals");
        group.MapPost("/open", async (OpenScene open, RootStore roots, WorkDispatcher work, CancellationToken stop) =>
        {
            var real = new RootScope(roots.ServerFolders.Select(f => f.Path)).Enter(open.Path);
            if (real is null || !File.Exists(real))
                throw new CannotUseException($"“{open.Path}” is no file inside the folders the settings list.");
            SceneFormats.Of(real);
            return TypedResults.Ok(await work.Begin(new Arrive(real, null, Source(real)), $"Open {Path.GetFileName(real)}", null, stop));
        });
        group.MapPost("/upload", Upload).WithMetadata(new Microsoft.AspNetCore.Mvc.DisableRequestSizeLimitAttribute());
    }

    private static string Source(string path) =>
        $"{Path.GetFileName(Path.GetDirectoryName(Path.GetDirectoryName(path)))}/{Path.GetFileName(Path.GetDirectoryName(path))}";

    /// <summary>
    /// Receives the parts of a form, each named by its path below the dropped folder, straight to disk. When anything is
    /// wrong the received folder is removed and nothing else has happened.
    /// </summary>
    /// <param name="of">The scene of which the file called <paramref name="file"/> is another version.</param>
    /// <param name="picked">The scene that textures without any scene are for.</param>
    private static async Task<IResult> Upload(
        HttpRequest request,
        Guid? of,
        string? file,
        Guid? picked,
        DiskStore disk,
        WorkDispatcher work,
        Bounds bounds,
        CancellationToken stop
    )
    {
        if (
            !MediaTypeHeaderValue.TryParse(request.ContentType, out var type)
            || HeaderUtilities.RemoveQuotes(type.Boundary).Value is not { Length: > 0 } boundary
        )
            throw new CannotUseException("The upload is no form with files; nothing was kept.");
        if (request.ContentLength > bounds.UploadBytes)
            throw new CannotUseException($"The upload is larger than {bounds.UploadBytes:N0} bytes. Nothing was kept.");
        var id = Guid.CreateVersion7();
        var folder = disk.Incoming(id);
        Directory.CreateDirectory(folder);
        try
        {
            var names = await Receive(new(boundary, request.Body), folder, bounds, stop);
            if (names.Count == 0)
                throw new CannotUseException("The upload holds no file.");
            var name = names.Count == 1 ? Path.GetFileName(names[0]) : names[0].Split('/')[0];
            return TypedResults.Ok(await work.Begin(new Arrive(null, id, name, of, file, picked), $"Bring in {name}", null, stop));
        }
        catch (Exception e)
        {
            Directory.Delete(folder, recursive: true);
            // A full disk is told as such.
            if (e is InvalidDataException || (e is IOException && (e.HResult & 0xFFFF) != DiskFull))
                throw new CannotUseException(
                    "The upload is no whole form with files: it ends early, or a part of it is broken. Nothing was kept.",
                    e
                );
            throw;
        }
    }

    private const int DiskFull = 28; // ENOSPC

    private static async Task<List<string>> Receive(MultipartReader reader, string folder, Bounds bounds, CancellationToken stop)
    {
        var names = new List<string>();
        var delivered = new DeliveredNames("upload");
        var left = bounds.UploadBytes;
        while (await reader.ReadNextSectionAsync(stop) is { } section)
        {
            if (
                !ContentDispositionHeaderValue.TryParse(section.ContentDisposition, out var disposition) || !disposition.IsFileDisposition()
            )
                continue;
            if (names.Count == bounds.Entries)
                throw new CannotUseException($"The upload holds more than {bounds.Entries:N0} files. Nothing was kept.");
            var name = delivered.Add(Uri.UnescapeDataString(HeaderUtilities.RemoveQuotes(disposition.Name).ToString()));
            var target = Path.Combine(folder, name);
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            await using var file = File.Create(target);
            var buffer = new byte[1 << 17];
            int read;
            while ((read = await section.Body.ReadAsync(buffer, stop)) > 0)
            {
                left -= read;
                if (left < 0)
                    throw new CannotUseException($"The upload is larger than {bounds.UploadBytes:N0} bytes. Nothing was kept.");
                await file.WriteAsync(buffer.AsMemory(0, read), stop);
            }

            names.Add(name);
        }

        return names;
    }
}
