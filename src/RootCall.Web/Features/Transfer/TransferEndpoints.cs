using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Transfer;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Ledger;
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
                var state = await current.Get(id, stop);
                var edits = state
                    .Report.References.Where(r => picked.Numbers.Contains(r.Number) && CarryPlan.CanCarry(r))
                    .Select(r => (Edit)new CarryImage(r.Reference.Key, r.Resolved!))
                    .ToImmutableArray();
                if (edits.IsEmpty)
                    throw new CannotUseException("None of these images can be carried inside.");
                return TypedResults.Ok(
                    await changes.Make(
                        id,
                        l =>
                            l.Put(
                                Entry(
                                    $"Carry {(edits.Length == 1 ? "1 image" : $"{edits.Length} images")} inside the scene",
                                    edits,
                                    "by hand"
                                )
                            ),
                        stop
                    )
                );
            }
        );
        group.MapPost("/library", async (Guid id, CurrentScenes current, Changes changes, CancellationToken stop) =>
        {
            var name = Path.ChangeExtension(Path.GetFileName((await current.Get(id, stop)).Arrival.Path), ".mtl");
            return TypedResults.Ok(
                await changes.Make(id, l => l.Put(Entry($"Make the material library {name}", [new MakeLibrary(name)], "by hand")), stop)
            );
        });
        group.MapPost("/variants", async (Guid id, ChooseVariant choose, CurrentScenes current, Changes changes, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            var set = state.Report.Scene.Variants.FirstOrDefault(v =>
                v.Place == choose.Place && v.Set == choose.Set && v.Options.Contains(choose.Option)
            ) ?? throw new CannotUseException($"The scene has no {choose.Set} called {choose.Option}.");
            return TypedResults.Ok(
                await changes.Make(
                    id,
                    l =>
                        l.Put(
                            Entry(
                                $"Choose {choose.Option} for {choose.Set}",
                                [new SelectVariant(set.Place, set.Set, set.Selected, choose.Option)],
                                "by hand"
                            )
                        ),
                    stop
                )
            );
        });
    }

    internal static LedgerEntry Entry(string sentence, ImmutableArray<Edit> edits, string proposedBy) =>
        new(Guid.CreateVersion7(), sentence, edits, EntryState.Pending, proposedBy, DateTimeOffset.UtcNow);
}

/// <summary>Which images a glTF file can carry, and what it would weigh then.</summary>
internal static class CarryPlan
{
    public static bool CanCarry(MusteredReference reference) =>
        reference is { Resolved: not null, State: ReferenceState.Present, Reference.Kind: ReferenceKind.Image }
        && reference.Facts is { } facts
        && ImageCodecs.Of(facts.Format).InGltf != GltfCarriage.None;

    /// <summary>Bytes of the scene with those images inside: as they are in a GLB, as base64 in glTF text.</summary>
    public static long BytesAfter(MusterReport report)
    {
        var added = report.References.Where(CanCarry).Sum(r => r.Stamp!.Value.Bytes);
        return report.Scene.Files.Sum(f => f.Bytes) + (report.Scene.Format.Id == "gltf" ? added * 4 / 3 : added);
    }
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
        var rows = TransferCheck.Compare(other.Report, state.Report).Rows.Where((_, i) => restore.Rows.Contains(i + 1)).ToList();
        var edits = rows.SelectMany(r => r.Restore).SelectMany(e => Reachable(e, state, other.Report, id)).ToImmutableArray();
        if (edits.IsEmpty)
            throw new CannotUseException(
                rows.FirstOrDefault()?.WhyNot is { } why ? $"It cannot be restored: {why}." : "Nothing in these rows can be restored."
            );
        var families = new TransferReport([.. rows], ImmutableDictionary<string, int>.Empty).Families.ToList();
        var what =
            families.Count == 1
                ? $"{char.ToLowerInvariant(families[0].Sentence[0])}{families[0].Sentence[1..]}"
                : $"{rows.Count} things that did not survive";
        return TransferEndpoints.Entry(
            $"Restore from {(other.Arrival.SceneId == id ? $"v{other.Arrival.Version}" : other.Arrival.Source)}: {what}",
            edits,
            "transfer check"
        );
    }

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
        return older is null || older.Version == state.Arrival.Version ? null : (older, await scenes.Report(older));
    }

    /// <summary>An image that lies where this scene may not look is kept in the store, and called from there.</summary>
    private IEnumerable<Edit> Reachable(Edit edit, CurrentState state, MusterReport other, Guid id)
    {
        if (edit is not SetImage { To: { } to } image || state.Report.References.Any(r => r.Reference.Key == to.Reference))
        {
            yield return edit;
            yield break;
        }

        var file = Path.GetFullPath(Path.Combine(state.Report.Scene.Folder, to.Reference.Written));
        var source = other.References.FirstOrDefault(r => r.Resolved == file)?.Resolved;
        if (source is null || state.Scope.Enter(source) is not null)
        {
            yield return edit;
            yield break;
        }

        var written = $"textures/{Path.GetFileName(source)}";
        var kept = Path.Combine(disk.Extracted(id), written);
        if (!File.Exists(kept))
            WholeOrNothing.File(kept, stream =>
            {
                using var from = File.OpenRead(source);
                from.CopyTo(stream);
            });
        var key = ExtractImage.KeyIn(state.Report.Scene, written);
        yield return image with
        {
            To = to with { Reference = key },
        };
        yield return new RelinkReference(key, null, kept);
    }

    private static Dictionary<ReferenceKey, int> Numbers(MusterReport report) =>
        report.References.DistinctBy(r => r.Reference.Key).ToDictionary(r => r.Reference.Key, r => r.Number);
}
