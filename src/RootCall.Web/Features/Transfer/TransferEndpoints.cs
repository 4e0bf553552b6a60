using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Transfer;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Ledger;
using RootCall.Web.Features.Pictures;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Transfer;

/// <summary>What did not survive between the compared scene and this one.</summary>
/// <param name="With">The compared scene; null when there is none.</param>
internal sealed record TransferView(ComparedScene? With, int Lost, IEnumerable<FamilyItem> Families);

internal sealed record ComparedScene(
    Guid Id,
    string Name,
    int Version,
    string Source,
    bool Older,
    int Nodes,
    int Meshes,
    int Materials,
    int Images,
    long Triangles
);

/// <param name="Edits">Edits that restore the family; 0 when nothing can.</param>
internal sealed record FamilyItem(string Key, string Sentence, string What, string? Input, int Edits, IEnumerable<RowItem> Rows);

/// <param name="ImageA">Number of the image's reference in the compared scene.</param>
internal sealed record RowItem(
    int Number,
    string Kind,
    string Name,
    string What,
    string? Input,
    string? A,
    string? B,
    int Edits,
    string? WhyNot,
    int? ImageA,
    int? ImageB
);

/// <summary>Rows to restore from the compared scene.</summary>
internal sealed record Restore(Guid With, int Version, IReadOnlyList<int> Rows);

/// <summary>Carried images to take out, or images to carry inside.</summary>
internal sealed record PickedImages(IReadOnlyList<int> Numbers);

internal sealed record ChooseVariant(string Place, string Set, string Option);

internal static class TransferEndpoints
{
    public static void MapTransfer(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}").WithTags("Transfer");
        group.MapGet("/transfer", async (Guid id, Guid? with, int? version, Comparisons comparisons, CancellationToken stop) =>
            TypedResults.Ok(await comparisons.View(id, with, version, stop))
        );
        group.MapGet("/transfer/swatch", Swatch).ExcludeFromDescription();
        group.MapPost(
            "/transfer/restore",
            async (Guid id, Restore restore, Comparisons comparisons, Changes changes, CancellationToken stop) =>
            {
                var entry = await comparisons.Entry(id, restore, stop);
                return TypedResults.Ok(await changes.Make(id, l => l.Put(entry), stop));
            }
        );
        group.MapPost("/carried/extract", async (Guid id, PickedImages picked, WorkDispatcher work, CancellationToken stop) =>
            TypedResults.Ok(await work.Begin(new Extract(id, picked.Numbers), $"Extract {picked.Numbers.Count} images", id, stop))
        );
        group.MapPost(
            "/carried/carry",
            async (Guid id, PickedImages picked, CurrentScenes current, Changes changes, CancellationToken stop) =>
            {
                var entry = CarryPlan.Entry((await current.Get(id, stop)).Report, picked.Numbers, DateTimeOffset.UtcNow);
                return TypedResults.Ok(await changes.Make(id, l => l.Put(entry), stop));
            }
        );
        group.MapPost("/library", async (Guid id, CurrentScenes current, Changes changes, CancellationToken stop) =>
        {
            var entry = SceneDecisions.MakeLibrary((await current.Get(id, stop)).Report.Scene, DateTimeOffset.UtcNow);
            return TypedResults.Ok(await changes.Make(id, l => l.Put(entry), stop));
        });
        group.MapPost("/variants", async (Guid id, ChooseVariant choose, CurrentScenes current, Changes changes, CancellationToken stop) =>
        {
            var scene = (await current.Get(id, stop)).Report.Scene;
            var entry = SceneDecisions.Choose(scene, choose.Place, choose.Set, choose.Option, DateTimeOffset.UtcNow);
            return TypedResults.Ok(await changes.Make(id, l => l.Put(entry), stop));
        });
    }

    /// <summary>A material of the compared scene.</summary>
    private static async Task<IResult> Swatch(
        Guid id,
        Guid? with,
        int? version,
        string material,
        string? light,
        int? side,
        HttpResponse response,
        Comparisons comparisons,
        DiskStore disk,
        SwatchRequests swatches,
        CancellationToken stop
    ) =>
        await comparisons.Report(id, with, version, stop) is { } report
            ? SwatchEndpoints.Answer(SwatchEndpoints.Order(report, material, light, side), response, disk, swatches)
            : Results.NoContent();
}

/// <summary>Compares scenes that have arrived, and turns rows into entries of the ledger.</summary>
internal sealed class Comparisons(CurrentScenes current, SceneStore scenes, DiskStore disk)
{
    public async Task<TransferView> View(Guid id, Guid? with, int? version, CancellationToken stop)
    {
        var state = await current.Get(id, stop);
        if (await Other(id, with, version, state, stop) is not { } other)
            return new(null, 0, []);
        var report = TransferCheck.Compare(other.Report, state.Report);
        var numbers = report
            .Rows.Select((r, i) => (r, i + 1))
            .ToDictionary(r => (object)r.r, r => r.Item2, ReferenceEqualityComparer.Instance);
        var (inA, inB) = (Numbers(other.Report), Numbers(state.Report));
        int? Number(Dictionary<ReferenceKey, int> known, ReferenceKey? key) => key is { } k && known.TryGetValue(k, out var n) ? n : null;
        var a = other.Arrival;
        return new(
            new(
                a.SceneId,
                Path.GetFileName(a.Path),
                a.Version,
                a.Source,
                a.SceneId == id,
                a.Nodes,
                a.Meshes,
                a.Materials,
                a.Images,
                a.Triangles
            ),
            report.Rows.Count(r => r.What != "extra"),
            report.Families.Select(f => new FamilyItem(
                f.Key,
                f.Sentence,
                f.Rows[0].What,
                f.Rows[0].Input,
                f.Edits,
                f.Rows.Select(r => new RowItem(
                    numbers[r],
                    r.Kind,
                    r.Name,
                    r.What,
                    r.Input,
                    r.A,
                    r.B,
                    r.Restore.Length,
                    r.WhyNot,
                    Number(inA, r.ImageA),
                    Number(inB, r.ImageB)
                ))
            ))
        );
    }

    /// <exception cref="CannotUseException">Nothing in these rows can be restored.</exception>
    public async Task<LedgerEntry> Entry(Guid id, Restore restore, CancellationToken stop)
    {
        var state = await current.Get(id, stop);
        var other = await Other(id, restore.With, restore.Version, state, stop)
            ?? throw new CannotUseException("The compared scene is no longer there.");
        var restoring = Restoring.Of(
            other.Report,
            state.Report,
            restore.Rows,
            other.Arrival.SceneId == id ? $"v{other.Arrival.Version}" : other.Arrival.Source,
            state.Scope,
            disk.Extracted(id),
            DateTimeOffset.UtcNow
        );
        restoring.Keep();
        return restoring.Entry;
    }

    /// <summary>The compared scene; null when there is none.</summary>
    public async Task<MusterReport?> Report(Guid id, Guid? with, int? version, CancellationToken stop) =>
        (await Other(id, with, version, await current.Get(id, stop), stop))?.Report;

    private async Task<(Data.Rows.ArrivalRow Arrival, MusterReport Report)?> Other(
        Guid id,
        Guid? with,
        int? version,
        CurrentState state,
        CancellationToken stop
    )
    {
        if (with is { } other && (other != id || version is null or 0))
        {
            var compared = await current.Get(other, stop);
            return (compared.Arrival, compared.Report);
        }

        // An older version by default.
        var older = await scenes.Arrival(id, version ?? (state.Arrival.Version - 1), stop);
        return older is null || older.Version == state.Arrival.Version ? null : (older, await scenes.Report(older.Id, stop));
    }

    private static Dictionary<ReferenceKey, int> Numbers(MusterReport report) =>
        report.References.DistinctBy(r => r.Reference.Key).ToDictionary(r => r.Reference.Key, r => r.Number);
}
