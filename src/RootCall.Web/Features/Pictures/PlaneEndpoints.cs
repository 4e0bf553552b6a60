using System.Numerics;
using RootCall.Core.Bench;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Shading;
using RootCall.Data.Stores;
using RootCall.Web.Features.Audit;
using RootCall.Web.Features.Muster;

namespace RootCall.Web.Features.Pictures;

/// <summary>An image that is open pixel by pixel.</summary>
/// <param name="Bits">Of a stored value.</param>
internal sealed record PlaneView(int Width, int Height, int Channels, int Bits);

/// <summary>
/// Images pixel by pixel: 202 while a worker opens one, 204 when it cannot be opened; then windows of it and single values.
/// </summary>
internal static class PlaneEndpoints
{
    public static void MapPlanes(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/references/{number:int}/plane").WithTags("Pictures");
        group
            .MapGet(
                string.Empty,
                async (
                    Guid id,
                    int number,
                    HttpResponse response,
                    CurrentScenes current,
                    DiskStore disk,
                    PictureRequests pictures,
                    CancellationToken stop
                ) =>
                {
                    var (output, ask) = Place(id, number, await current.Get(id, stop), disk, pictures);
                    if (output is null)
                        return Results.NoContent();
                    if (!File.Exists(output))
                    {
                        ask();
                        response.Headers.RetryAfter = "1";
                        return Results.StatusCode(StatusCodes.Status202Accepted);
                    }

                    using var plane = PixelPlane.Open(output);
                    return plane is null
                        ? Results.NoContent()
                        : Results.Ok(new PlaneView(plane.Width, plane.Height, plane.Channels, (int)plane.Depth * 8));
                }
            )
            .Produces<PlaneView>();
        group
            .MapGet(
                "/window",
                async (
                    Guid id,
                    int number,
                    int x,
                    int y,
                    int side,
                    int? step,
                    string? channel,
                    HttpResponse response,
                    CurrentScenes current,
                    DiskStore disk,
                    PictureRequests pictures,
                    CancellationToken stop
                ) =>
                {
                    using var plane = Open(id, number, await current.Get(id, stop), disk, pictures);
                    response.Headers.CacheControl = "private, max-age=60";
                    return Results.Bytes(
                        Png(plane.Window(x, y, side, side, step ?? 1), ChannelWords.Of(channel ?? "rgb"), plane.Depth),
                        "image/png"
                    );
                }
            )
            .ExcludeFromDescription();
        group.MapGet(
            "/pixel",
            async (
                Guid id,
                int number,
                int x,
                int y,
                string material,
                Audits audits,
                DiskStore disk,
                PictureRequests pictures,
                CancellationToken stop
            ) =>
            {
                var state = await audits.Get(id, stop);
                using var plane = Open(id, number, state.Current, disk, pictures);
                if (x < 0 || y < 0 || x >= plane.Width || y >= plane.Height)
                    throw new CannotUseException($"The image has {plane.Width} x {plane.Height} pixels, and none at {x}, {y}.");
                var held = state.Scene.Called(material) ?? throw new CannotUseException($"The scene has no material {material}.");
                var map = held.Maps.FirstOrDefault(m => m.Answer?.Number == number)
                    ?? throw new CannotUseException($"{material} does not read reference {number}.");
                return TypedResults.Ok(UnderPointer.Of(held, map, plane.Window(x, y, 1, 1).Values));
            }
        );
    }

    private static PixelPlane Open(Guid id, int number, CurrentState state, DiskStore disk, PictureRequests pictures) =>
        Place(id, number, state, disk, pictures).Output is { } output && File.Exists(output) && PixelPlane.Open(output) is { } plane
            ? plane
            : throw new CannotUseException("The image is not open pixel by pixel.");

    /// <summary>Where the opened image lies or belongs, and how it is asked for; null when nothing answers.</summary>
    private static (string? Output, Action Ask) Place(Guid id, int number, CurrentState state, DiskStore disk, PictureRequests pictures)
    {
        var reference = MusterEndpoints.Find(state.Report, number);
        var carried = reference.Reference.Carried is not null;
        var (path, stamp) = PictureEndpoints.Source(reference, null, state);
        if (path is null)
            return (null, () => { });
        var output = disk.Plane(PictureEndpoints.KeyOf(path, reference), stamp);
        return (output, () => pictures.AskPlane(path, carried ? id : null, carried ? number : null, output));
    }

    /// <summary>Stored values as they are; floating point is encoded as a display wants it.</summary>
    private static byte[] Png(PixelSample window, Channels? channel, PlaneDepth depth)
    {
        var pixels = new Vector3[window.Width * window.Height];
        for (var i = 0; i < pixels.Length; i++)
            pixels[i] = Shown(window.Values.AsSpan(i * window.Channels, window.Channels), channel);
        return depth == PlaneDepth.Float
            ? DisplayPicture.Png(window.Width, window.Height, pixels)
            : DisplayPicture.EncodedPng(window.Width, window.Height, pixels);
    }

    private static Vector3 Shown(ReadOnlySpan<float> pixel, Channels? channel)
    {
        var (r, g, b) = pixel.Length < 3 ? (pixel[0], pixel[0], pixel[0]) : (pixel[0], pixel[1], pixel[2]);
        return channel switch
        {
            Channels.R => new(r),
            Channels.G => new(g),
            Channels.B => new(b),
            Channels.A => new(pixel.Length is 2 or 4 ? pixel[^1] : 1),
            _ => new(r, g, b),
        };
    }
}
