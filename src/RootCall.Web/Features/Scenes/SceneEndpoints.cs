using Microsoft.EntityFrameworkCore;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Transfer;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Web.Features.Audit;

namespace RootCall.Web.Features.Scenes;

/// <summary>A row of Arrivals.</summary>
/// <param name="Title">What people call it; its file's name until somebody says otherwise.</param>
/// <param name="Blockers">Open findings of its last audit; null until there is one.</param>
internal sealed record SceneSummary(
    Guid Id,
    string Name,
    string Format,
    string FormatId,
    int Version,
    string Source,
    DateTimeOffset ArrivedAt,
    long Bytes,
    int References,
    int Unanswered,
    int Applied,
    int Pending,
    string Title,
    string Path,
    int? Blockers,
    int? Warnings
);

/// <summary>What came with a scene.</summary>
/// <param name="MaterialList">The first ones: a large scene has thousands, and nobody reads them here.</param>
/// <param name="MoreMaterials">How many more there are.</param>
internal sealed record SceneDetail(
    Guid Id,
    string Name,
    string Format,
    int Version,
    string Source,
    string Path,
    bool Uploaded,
    DateTimeOffset ArrivedAt,
    long Bytes,
    int Nodes,
    int Meshes,
    int Materials,
    int Images,
    long Triangles,
    int CarriedImages,
    int Buffers,
    int Libraries,
    IEnumerable<MaterialItem> MaterialList,
    int MoreMaterials,
    IEnumerable<NoteItem> Notes,
    IEnumerable<CarriedItem> Carried,
    IEnumerable<VariantItem> Variants,
    IEnumerable<VersionItem> Versions,
    CarryItem? Carry,
    string? ReadOnlyBecause,
    bool LacksLibrary,
    string? Unit,
    string? UpAxis,
    int Layers,
    DateTimeOffset MusteredAt,
    int FilesIndexed,
    string Title
);

/// <param name="Model">The surface shader's type, as the file writes it; null when there is none.</param>
/// <param name="Template">What it is an instance of.</param>
/// <param name="Instances">Materials that are instances of it: an edit of it reaches them all.</param>
/// <param name="Locked">Defined in a file that is not written: an edit goes to an overriding layer.</param>
internal sealed record MaterialItem(string Name, string? Model, int Images, string? Template, int Instances, bool IsTemplate, bool Locked);

/// <summary>What can be taken into the focus.</summary>
internal sealed record FocusView(IEnumerable<FocusMaterial> Materials, IEnumerable<FocusObject> Objects);

/// <param name="Files">References that it calls for.</param>
internal sealed record FocusMaterial(string Name, int Files);

/// <param name="Materials">Those that it wears.</param>
internal sealed record FocusObject(string Name, IEnumerable<string> Materials);

internal sealed record VariantItem(string Place, string Set, IEnumerable<string> Options, string Selected);

internal sealed record VersionItem(int Version, DateTimeOffset ArrivedAt);

/// <summary>Images that could be carried inside, and the scene's bytes before and after.</summary>
internal sealed record CarryItem(IEnumerable<int> Numbers, long BytesBefore, long BytesAfter);

internal sealed record NoteItem(string Message, string Place);

internal sealed record CarriedItem(int Number, string Name, long Bytes, int? Width, int? Height, string State);

internal static class SceneEndpoints
{
    private const int MaterialsShown = 40;

    public static void MapScenes(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes").WithTags("Scenes");
        group.MapGet(string.Empty, async (CurrentScenes current, Audits audits, CancellationToken stop) =>
        {
            var list = await current.List(stop);
            audits.CountSoon([.. list.Where(s => !s.IsAudited).Select(s => s.Id)]);
            return TypedResults.Ok(
                list.Select(s => new SceneSummary(
                    s.Id,
                    Path.GetFileName(s.Path),
                    s.Format,
                    s.FormatId,
                    s.Version,
                    s.Source,
                    s.ArrivedAt,
                    s.Bytes,
                    s.References,
                    s.Unanswered,
                    s.Applied,
                    s.Pending,
                    s.Title,
                    s.Path,
                    s.Blockers,
                    s.Warnings
                ))
            );
        });
        group.MapGet(
            "/{id:guid}",
            async (Guid id, CurrentScenes current, SceneStore scenes, IDbContextFactory<RootCallDb> databases, CancellationToken stop) =>
            {
                var state = await current.Get(id, stop);
                await using var db = await databases.CreateDbContextAsync(stop);
                var versions = await db
                    .Arrivals.AsNoTracking()
                    .Where(a => a.SceneId == id)
                    .OrderBy(a => a.Version)
                    .Select(a => new VersionItem(a.Version, a.ArrivedAt))
                    .ToListAsync(stop);
                return TypedResults.Ok(Detail(id, state, versions, await scenes.Title(id, stop)));
            }
        );
        group.MapGet("/{id:guid}/focus", async (Guid id, CurrentScenes current, CancellationToken stop) =>
            TypedResults.Ok(Focus((await current.Get(id, stop)).Report))
        );
        group.MapGet("/{id:guid}/materials", async (Guid id, CurrentScenes current, CancellationToken stop) =>
            TypedResults.Ok(Materials((await current.Get(id, stop)).Report.Scene, int.MaxValue))
        );
    }

    /// <summary>The scene's objects: meshes, and nodes with meshes, each with what it wears.</summary>
    private static FocusView Focus(MusterReport report)
    {
        var files = report
            .References.SelectMany(r => r.Reference.UsedBy.Select(u => u.Material).Distinct())
            .Where(m => m.Length > 0)
            .CountBy(m => m)
            .ToDictionary();
        return new(
            report.Scene.Materials.Select(m => new FocusMaterial(m.Name, files.GetValueOrDefault(m.Name))).DistinctBy(m => m.Name),
            report
                .Scene.Meshes.GroupBy(m => m.Name)
                .Select(g => new FocusObject(g.Key, g.SelectMany(m => m.Parts.Select(p => p.Material)).Where(m => m.Length > 0).Distinct()))
                .Where(o => o.Materials.Any())
        );
    }

    private static SceneDetail Detail(Guid id, CurrentState state, IReadOnlyList<VersionItem> versions, string title)
    {
        var a = state.Arrival;
        var report = state.Report;
        var carried = report.References.Where(r => r.Reference.Carried is not null).ToList();
        return new(
            id,
            Path.GetFileName(a.Path),
            a.FormatName,
            a.Version,
            a.Source,
            a.Path,
            a.Uploaded,
            a.ArrivedAt,
            a.Bytes,
            a.Nodes,
            a.Meshes,
            a.Materials,
            a.Images,
            a.Triangles,
            carried.Count,
            report.References.Count(r => r.Reference.Kind == ReferenceKind.Buffer),
            report.References.Count(r => r.Reference.Kind == ReferenceKind.MaterialLibrary),
            Materials(report.Scene, MaterialsShown),
            Math.Max(0, report.Scene.Materials.Length - MaterialsShown),
            report.Scene.Notes.Select(n => new NoteItem(n.Message, n.Place)).Concat(report.Notes.Select(n => new NoteItem(n, "roots"))),
            carried.Select(c => new CarriedItem(
                c.Number,
                c.Reference.Written,
                c.Stamp?.Bytes ?? 0,
                c.Facts?.Width,
                c.Facts?.Height,
                c.State.Word()
            )),
            report.Scene.Variants.Select(v => new VariantItem(v.Place, v.Set, v.Options, v.Selected)),
            versions,
            Carry(report),
            SceneFormats.Of(a.Path).Capabilities.ReadOnlyBecause,
            a.FormatId == "obj"
                && report.Scene.Materials.Length > 0
                && !report.References.Any(r => r.Reference.Kind == ReferenceKind.MaterialLibrary),
            report.Scene.MetresPerUnit is { } metres
                ? metres switch
                {
                    1 => "metres",
                    0.01 => "centimetres",
                    0.001 => "millimetres",
                    _ => string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{metres:0.######} m"),
                }
                : null,
            report.Scene.UpAxis,
            report.References.Count(r => r.Reference.Kind is ReferenceKind.Layer or ReferenceKind.Document),
            a.MusteredAt,
            a.FilesIndexed,
            title
        );
    }

    private static IEnumerable<MaterialItem> Materials(Scene scene, int most)
    {
        var instances = scene.Materials.Where(m => m.Template is not null).ToLookup(m => m.Template!);
        return scene
            .Materials.Take(most)
            .Select(m => new MaterialItem(
                m.Name,
                m.Graph.SurfaceNode?.Type,
                m.Graph.Nodes.Select(n => n.Image?.Reference).OfType<ReferenceKey>().Distinct().Count(),
                m.Template,
                instances[m.Id].Count(),
                m.IsTemplate,
                m.Locked
            ));
    }

    private static CarryItem? Carry(MusterReport report) =>
        CarryPlan.Of(report) is { } plan ? new(plan.Numbers, plan.BytesBefore, plan.BytesAfter) : null;
}
