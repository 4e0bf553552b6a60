using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Pictures;

/// <summary>A frame of a scene: what there is, and by which cameras it can be drawn.</summary>
/// <param name="Cameras">Of the scene, by name.</param>
/// <param name="Lamps">Lights of the scene that it can be drawn by.</param>
/// <param name="Made">Null before the first was drawn.</param>
/// <param name="IsCurrent">It shows the scene as it stands.</param>
internal sealed record FrameState(IEnumerable<string> Cameras, int Lamps, FrameItem? Made, bool IsCurrent);

/// <param name="Camera">The scene's camera it was seen by; null for one that frames it.</param>
/// <param name="Samples">Paths that were followed for each pixel so far, of <paramref name="Wanted"/>.</param>
/// <param name="Told">What it does not show, in sentences.</param>
internal sealed record FrameItem(
    DateTimeOffset At,
    int Samples,
    int Wanted,
    bool IsDone,
    string? Camera,
    int Triangles,
    IEnumerable<string> Told,
    string Picture
);

/// <param name="Light"><c>studio</c>, <c>dusk</c>, or <c>scene</c> for the lights of the scene.</param>
/// <param name="Camera">By name; null for the first, or one that frames the scene.</param>
internal sealed record DrawFrame(string Light, string? Camera);

/// <summary>Frames of whole scenes.</summary>
internal static class FrameEndpoints
{
    public static void MapFrames(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/frame").WithTags("Pictures");
        group.MapGet(
            string.Empty,
            async (Guid id, string? light, string? camera, CurrentScenes current, DiskStore disk, CancellationToken stop) =>
            {
                var state = await current.Get(id, stop);
                var lit = Lit(light);
                var made = DrawnFrame.Of(disk.Frame(id, lit, camera));
                return TypedResults.Ok(
                    new FrameState(
                        state.Report.Scene.Cameras.Select(c => c.Name).Distinct(),
                        state.Report.Scene.Lamps.Length,
                        made is null ? null : Item(id, light, camera, made),
                        made is not null && made.Print == state.FramePrintOf(lit, camera, disk.ColourPrint)
                    )
                );
            }
        );
        group.MapPost(string.Empty, async (Guid id, DrawFrame draw, CurrentScenes current, WorkDispatcher work, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            var name = Path.GetFileName(state.Arrival.Path);
            return TypedResults.Ok(await work.Begin(new Draw(id, Lit(draw.Light), draw.Camera), $"Draw {name}", id, stop));
        });
        group
            .MapGet("/picture", (Guid id, string? light, string? camera, DiskStore disk) =>
                disk.Frame(id, Lit(light), camera) is var path && File.Exists(path)
                    ? Results.File(path, "image/png")
                    : throw new CannotUseException("No frame of this scene was drawn yet.")
            )
            .ExcludeFromDescription();
    }

    public static FrameLighting Lit(string? word) =>
        Enum.TryParse<FrameLighting>(word, ignoreCase: true, out var light) ? light : FrameLighting.Studio;

    /// <summary>Each state of the picture has an address of its own, so that a browser shows the newest.</summary>
    private static FrameItem Item(Guid id, string? light, string? camera, DrawnFrame made) =>
        new(
            made.At,
            made.Samples,
            made.Wanted,
            made.IsDone,
            made.Camera,
            made.Triangles,
            made.Told,
            $"/api/scenes/{id}/frame/picture?light={Lit(light)}&at={made.At.UtcTicks}"
                + (camera is null ? string.Empty : $"&camera={Uri.EscapeDataString(camera)}")
        );
}
