using System.Collections.Concurrent;
using Hangfire;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Bench;

namespace RootCall.Web.Features.Pictures;

/// <summary>Asks a worker for swatches, each once, and keeps an order alive while somebody waits for it.</summary>
internal sealed class SwatchRequests(IBackgroundJobClient queue)
{
    private readonly ConcurrentDictionary<string, DateTime> asked = new(StringComparer.Ordinal);

    public void Ask(string output, byte[] order)
    {
        var now = DateTime.UtcNow;
        var file = SwatchJob.OrderOf(output);
        if (File.Exists(file))
            File.SetLastWriteTimeUtc(file, now);
        else
            WholeOrNothing.Cached(file, order);
        // After a while without an answer it is asked for again: it was dropped, or the worker is down.
        if (asked.TryGetValue(output, out var at) && now - at < SwatchJob.Wanted)
            return;
        asked[output] = now;
        queue.Enqueue<IWorkRunner>(r => r.MakeSwatch(output, CancellationToken.None));
    }

    public void Answered(string output) => asked.TryRemove(output, out _);
}

/// <summary>
/// Pictures of materials: 200 with a PNG, 202 while a worker makes it, 204 when there is nothing to show. What a picture leaves out is
/// told in a header.
/// </summary>
internal static class SwatchEndpoints
{
    /// <summary>Sentences, percent-encoded, with line feeds between.</summary>
    private const string Told = "Swatch-Told";

    /// <summary>How far the picture lies from the one that it is held beside, as JSON, percent-encoded.</summary>
    private const string Difference = "Swatch-Difference";

    public static void MapSwatches(this IEndpointRouteBuilder api) =>
        api.MapGet("/scenes/{id:guid}/swatch", Swatch).WithTags("Pictures").ExcludeFromDescription();

    /// <param name="material">Its name or id.</param>
    /// <param name="light"><c>studio</c> or <c>dusk</c>.</param>
    /// <param name="shape">As <see cref="Views.On"/> takes it.</param>
    /// <param name="number">A reference that the candidate of that index would answer.</param>
    private static async Task<IResult> Swatch(
        Guid id,
        string material,
        string? light,
        int? side,
        string? shape,
        int? number,
        int? candidate,
        HttpResponse response,
        CurrentScenes current,
        DiskStore disk,
        SwatchRequests swatches,
        Views views,
        CancellationToken stop
    )
    {
        var state = await current.Get(id, stop);
        var order = Order(state.Report, material, light, side);
        if (order is not null && number is { } n && candidate is { } index)
        {
            var reference = state.Report.References.FirstOrDefault(r => r.Number == n);
            if (reference?.Candidates.ElementAtOrDefault(index) is not { } chosen)
                return Results.NoContent(); // It was answered meanwhile.
            order = order.Answered(reference.Reference.Key, new(chosen.Path, chosen.Stamp));
        }

        if (order is not null)
            order = views.On(order, shape, state, state.Report.Scene.Called(material)!);
        return Answer(order, response, disk, swatches);
    }

    /// <summary>What a swatch of a material is made of; null where it has no surface, or is not there.</summary>
    /// <param name="material">Its name or id.</param>
    public static SwatchOrder? Order(MusterReport report, string material, string? light, int? side)
    {
        var wanted = Side(side);
        return report.Scene.Called(material) is { Graph.SurfaceNode: not null } found
            ? SwatchOrder.Of(found, report, Lit(light), wanted)
            : null;
    }

    /// <summary>A picture of an order, nothing where none could be made, or word that it is being made.</summary>
    public static IResult Answer(SwatchOrder? order, HttpResponse response, DiskStore disk, SwatchRequests swatches)
    {
        if (order is null)
            return Results.NoContent();
        var (output, print, written) = Place(order, disk);
        var made = new FileInfo(output);
        if (!made.Exists)
        {
            swatches.Ask(output, written);
            response.Headers.RetryAfter = "1";
            return Results.StatusCode(StatusCodes.Status202Accepted);
        }

        swatches.Answered(output);
        // Another look of the material is another picture under the same address.
        response.Headers.CacheControl = "private, no-cache";
        if (made.Length == 0)
            return Results.NoContent();
        foreach (
            var (header, file) in (ReadOnlySpan<(string, string)>)
                [(Told, SwatchJob.ToldOf(output)), (Difference, SwatchJob.DifferenceOf(output))]
        )
            if (File.Exists(file))
                response.Headers[header] = Uri.EscapeDataString(File.ReadAllText(file));
        return Results.File(output, "image/png", entityTag: new($"\"{print}\""));
    }

    /// <summary>How far each part of the picture lies from the one before, for whoever draws it: 204 before the swatch was made.</summary>
    public static IResult Apart(SwatchOrder? order, DiskStore disk) =>
        order is not null && SwatchJob.ApartOf(Place(order, disk).Output) is var place && File.Exists(place)
            ? Results.File(place, "application/json")
            : Results.NoContent();

    /// <summary>Where the picture of an order lies or belongs, with the order's print and text.</summary>
    public static (string Output, string Print, byte[] Written) Place(SwatchOrder order, DiskStore disk)
    {
        var written = (order with { House = disk.ColourPrint }).Write();
        var print = SwatchOrder.PrintOf(written);
        return (disk.Swatch(print), print, written);
    }

    public static SwatchLight Lit(string? word) =>
        Enum.TryParse<SwatchLight>(word, ignoreCase: true, out var light) ? light : SwatchLight.Studio;

    public static int Side(int? side)
    {
        var wanted = side ?? SwatchOrder.Sides[1];
        return SwatchOrder.Sides.Contains(wanted)
            ? wanted
            : throw new CannotUseException($"Swatches have {string.Join(", ", SwatchOrder.Sides)} pixels a side, not {wanted}.");
    }
}
