using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Options;
using RootCall.Core.Crossing;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Jobs;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Core.Viewing;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Audit;
using RootCall.Web.Features.Ledger;
using RootCall.Web.Features.Pictures;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Crossing;

/// <summary>Stage five: what survives in another shading model, and how far looks move.</summary>
internal static class CrossingEndpoints
{
    public static void MapCrossing(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/crossing").WithTags("Crossing");
        group.MapGet(string.Empty, Overview);
        group.MapGet("/{material}", Material);
        group.MapGet("/{material}/swatch", Swatch).ExcludeFromDescription();
        group.MapGet("/{material}/apart", Apart).ExcludeFromDescription();
        group.MapPost("/measure", async (Guid id, MeasureThese these, CrossedScenes crossed, WorkDispatcher work, CancellationToken stop) =>
        {
            var (state, looks) = await crossed.Get(id, these.To, these.Route, stop);
            var what = these.Fit ? "Fit" : "Measure";
            var title = $"{what} {these.Materials?.Count ?? looks.Length} materials of {Path.GetFileName(state.Arrival.Path)}";
            var request = new MeasureCrossing(id, these.To, these.Route, these.Materials, these.Fit);
            return TypedResults.Ok(await work.Begin(request, title, id, stop));
        });
        group.MapPost(string.Empty, Take);
        group.MapPost("/wear", async (Guid id, WearLook wear, CurrentScenes current, LedgerStore ledgers, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            if (!Enum.TryParse<WornLook>(wear.Look, ignoreCase: true, out var look))
                throw new CannotUseException($"A look is “arrived” or “crossed”, not “{wear.Look}”.");
            var pairs = CrossingEntries.Pairs(state.Report.Scene, state.Ledger);
            var entry = CrossingEntries.Show(state.Report.Scene, pairs, look, DateTimeOffset.UtcNow);
            return TypedResults.Ok(await Put(entry, state, ledgers, stop));
        });
        group.MapPost("/sweep", async (Guid id, CurrentScenes current, LedgerStore ledgers, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            var pairs = CrossingEntries.Pairs(state.Report.Scene, state.Ledger);
            var entry = CrossingEntries.Sweep(state.Report.Scene, pairs, DateTimeOffset.UtcNow);
            return TypedResults.Ok(await Put(entry, state, ledgers, stop));
        });
    }

    private static async Task<LedgerView> Put(LedgerEntry entry, CurrentState state, LedgerStore ledgers, CancellationToken stop) =>
        LedgerEndpoints.View(await ledgers.Change(state.Arrival.SceneId, l => l.Put(entry), stop), state);

    /// <summary>Few that need no images are an entry at once; a worker makes all others one.</summary>
    private static async Task<Ok<TakenOver>> Take(
        Guid id,
        TakeOver over,
        CrossedScenes crossed,
        LedgerStore ledgers,
        WorkDispatcher work,
        CancellationToken stop
    )
    {
        var (state, looks) = await crossed.Get(id, over.To, over.Route, stop);
        var scene = state.Report.Scene;
        var picked = over.Materials.Select(m => Of(looks, m)).ToList();
        var sets = Sets(over.Set);
        var note = over.Note?.Trim() ?? string.Empty;
        if (note.Length > MostNote)
            throw new CannotUseException($"A note has {MostNote} letters at most.");
        if (over.Fit)
            foreach (var row in picked)
                if (crossed.Moved(row)?.Better is { } best)
                    sets = sets.SetItem(row.Look.Material.Name, best.Set.Under(sets.GetValueOrDefault(row.Look.Material.Name, [])));
        if (picked.Count > AtOnce || picked.Exists(p => p.Bakes.Count > 0))
        {
            if (CrossingEntries.WhyNot(SceneFormats.Of(scene.Path).Capabilities, over.To) is { } why)
                throw new CannotUseException(why);
            var title = $"Carry {picked.Count} materials of {Path.GetFileName(state.Arrival.Path)}";
            return TypedResults.Ok(
                new TakenOver(null, await work.Begin(new Cross(id, over.To, over.Route, over.Materials, sets, note), title, id, stop))
            );
        }

        var changes = over
            .Materials.Distinct()
            .ToDictionary(m => m, m => CrossChange.None with { Set = sets.GetValueOrDefault(m, []), Route = over.Route });
        var materials = picked.Select(p => p.Look.Material).ToList();
        var entry = CrossingEntries.TakeOver(scene, materials, over.To, changes, DateTimeOffset.UtcNow, note);
        return TypedResults.Ok(new TakenOver(await Put(entry, state, ledgers, stop), null));
    }

    private const int AtOnce = 60,
        MostNote = 300;

    private static ImmutableDictionary<string, ImmutableArray<SetInput>> Sets(IReadOnlyList<SetValueOf>? set) =>
        (set ?? [])
            .GroupBy(s => s.Material)
            .ToImmutableDictionary(
                g => g.Key,
                g => g.Select(s => new SetInput(s.Input, new ShaderValue([.. s.Numbers]))).ToImmutableArray()
            );

    /// <param name="to">Id of a shading model; null for the one that the destination evaluates.</param>
    private static async Task<Ok<CrossingView>> Overview(
        Guid id,
        string? to,
        string? route,
        bool? fit,
        CrossedScenes crossed,
        Audits audits,
        IOptions<DataOptions> options,
        CancellationToken stop
    )
    {
        var audit = await audits.Get(id, stop);
        var model = to ?? CrossingGoals.Usual(audit.Current.Report.Scene, audit.Scene.Destination);
        var (_, looks) = await crossed.Get(id, model, Routed(route), stop);
        var config = options.Value.Colours.Config;
        return TypedResults.Ok(
            crossed.View(audit, looks, new(model, Routed(route), fit == true), config.Length == 0 ? null : Path.GetFileName(config))
        );
    }

    private static async Task<Results<Ok<CrossedView>, NoContent>> Material(
        Guid id,
        string material,
        string to,
        string? route,
        bool? fit,
        CrossedScenes crossed,
        CancellationToken stop
    )
    {
        var asked = new AskedCrossing(to, Routed(route), fit == true);
        var (state, looks) = await crossed.Get(id, to, asked.Route, stop);
        // It may just have been taken over: a window that still shows it asks once more.
        if (looks.FirstOrDefault(l => l.Look.Material.Name == material) is not { } row)
            return TypedResults.NoContent();
        var moved = crossed.Moved(row);
        var look = crossed.Numbers(row, asked.Fit);
        var lights = (asked.Fit ? moved?.Better?.Lights : null) ?? moved?.Lights ?? [];
        var model = ShadingModels.Find(to)!;
        return TypedResults.Ok(
            new CrossedView(
                crossed.Rows(state, [row], asked).Single(),
                ShadingModels.Find(look.Crossed.From)!.Name,
                model.Name,
                look.Crossed.Mappings.Select(m =>
                {
                    var input = model.Input(m.To);
                    return new MappingItem(
                        m.From,
                        m.To,
                        m.Kind,
                        m.Detail,
                        m.Before,
                        m.After,
                        m.IsClamped,
                        input?.Type.Numbers ?? 0,
                        input?.Min,
                        input?.Max
                    );
                }),
                MovedLook.UnderLights.Zip(lights, (l, d) => new LitItem(l.ToString().ToLowerInvariant(), d)),
                moved?.Told ?? []
            )
        );
    }

    private static CrossedRow Of(ImmutableArray<CrossedRow> looks, string material) =>
        looks.FirstOrDefault(l => l.Look.Material.Name == material) is { } found
            ? found
            : throw new CannotUseException($"No material “{material}” crosses to that model.");

    private static async Task<IResult> Swatch(
        [AsParameters] CrossedPicture asked,
        string? look,
        HttpResponse response,
        CrossedScenes crossed,
        DiskStore disk,
        SwatchRequests swatches,
        CancellationToken stop
    )
    {
        var order = await Order(asked, crossed, stop);
        return SwatchEndpoints.Answer(look == "arrived" ? order?.Before : order, response, disk, swatches);
    }

    /// <summary>The difference of each part of the picture, for whoever draws it: 204 before the swatch was made.</summary>
    private static async Task<IResult> Apart(
        [AsParameters] CrossedPicture asked,
        CrossedScenes crossed,
        DiskStore disk,
        CancellationToken stop
    ) => SwatchEndpoints.Apart(await Order(asked, crossed, stop), disk);

    private static async Task<SwatchOrder?> Order(CrossedPicture asked, CrossedScenes crossed, CancellationToken stop)
    {
        var looks = (await crossed.Get(asked.Id, asked.To, Routed(asked.Route), stop)).Looks;
        if (looks.FirstOrDefault(l => l.Look.Material.Name == asked.Material) is not { } row)
            return null;
        var found = crossed.Numbers(row, asked.Fit == true);
        if (asked.Set is { Length: > 0 } set)
            found = found with { Crossed = found.Crossed.With([.. set.Select(Said)]) };
        return found.Order(SwatchEndpoints.Lit(asked.Light), SwatchEndpoints.Side(asked.Side), WornLook.Crossed);
    }

    public static CrossingRoute Routed(string? word) =>
        Enum.TryParse<CrossingRoute>(word, ignoreCase: true, out var route) ? route : CrossingRoute.Kept;

    private static SetInput Said(string text)
    {
        var parts = text.Split('=', 2);
        var numbers =
            parts.Length < 2
                ? []
                : parts[1]
                    .Split(',')
                    .Select(n =>
                        double.TryParse(n, System.Globalization.CultureInfo.InvariantCulture, out var number)
                            ? number
                            : throw new CannotUseException($"“{text}” gives no input numbers.")
                    )
                    .ToImmutableArray();
        return new(parts[0], new ShaderValue(numbers));
    }
}
