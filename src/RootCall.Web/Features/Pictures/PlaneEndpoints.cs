using System.Numerics;
using RootCall.Core.Bench;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Shading;
using RootCall.Data.Stores;
using RootCall.Web.Features.Audit;

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
        var group = api.MapGroup("/scenes/{id:guid}/references/{number:int}").WithTags("Pictures");
        group.MapGet("/others", async (Guid id, int number, OtherImages images, CancellationToken stop) =>
            TypedResults.Ok(await images.All(id, number, stop))
        );
        group
            .MapGet(
                "/plane",
                async (
                    Guid id,
                    int number,
                    string? of,
                    HttpResponse response,
                    OtherImages images,
                    DiskStore disk,
                    PictureRequests pictures,
                    CancellationToken stop
                ) =>
                {
                    var source = await images.Find(id, number, of, stop);
                    if (source.Path is not { } path)
                        return Results.NoContent();
                    var output = Place(source, path, disk);
                    if (!File.Exists(output))
                    {
                        pictures.AskPlane(path, source.IsCarried ? id : null, source.IsCarried ? number : null, output);
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
                "/plane/window",
                async (
                    Guid id,
                    int number,
                    int x,
                    int y,
                    int side,
                    int? step,
                    string? channel,
                    string? of,
                    HttpResponse response,
                    OtherImages images,
                    DiskStore disk,
                    CancellationToken stop
                ) =>
                {
                    using var plane = Open(await images.Find(id, number, of, stop), disk);
                    response.Headers.CacheControl = "private, max-age=60";
                    return Results.Bytes(
                        Png(plane.Window(x, y, side, side, step ?? 1), ChannelWords.Of(channel ?? "rgb"), plane.Depth),
                        "image/png"
                    );
                }
            )
            .ExcludeFromDescription();
        group.MapGet(
            "/plane/pixel",
            async (
                Guid id,
                int number,
                int x,
                int y,
                string material,
                string? of,
                Audits audits,
                OtherImages images,
                DiskStore disk,
                CancellationToken stop
            ) =>
            {
                var state = await audits.Get(id, stop);
                using var plane = Open(await images.Find(id, number, of, stop), disk);
                if (x < 0 || y < 0 || x >= plane.Width || y >= plane.Height)
                    throw new CannotUseException($"The image has {plane.Width} x {plane.Height} pixels, and none at {x}, {y}.");
                var held = state.Scene.Called(material) ?? throw new CannotUseException($"The scene has no material {material}.");
                var map = held.Maps.FirstOrDefault(m => m.Answer?.Number == number)
                    ?? throw new CannotUseException($"{material} does not read reference {number}.");
                return TypedResults.Ok(UnderPointer.Of(held, map, plane.Window(x, y, 1, 1).Values));
            }
        );
    }

    private static PixelPlane Open(ImageSource source, DiskStore disk) =>
        source.Path is { } path && Place(source, path, disk) is var output && File.Exists(output) && PixelPlane.Open(output) is { } plane
            ? plane
            : throw new CannotUseException("The image is not open pixel by pixel.");

    /// <summary>Where the opened image lies or belongs.</summary>
    private static string Place(ImageSource source, string path, DiskStore disk) =>
        disk.Plane(source.IsCarried ? PictureEndpoints.KeyOf(path, source.Reference) : path, source.Stamp);

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
