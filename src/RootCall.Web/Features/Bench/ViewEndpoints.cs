using System.Globalization;
using System.Runtime.InteropServices;
using RootCall.Core.Bench;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Audit;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Bench;

/// <summary>A scene to be walked around: where its geometry lies, and what each part of it wears as the scene stands.</summary>
/// <param name="Made">Null before a worker has made it of the scene's geometry as it stands.</param>
/// <param name="Variants">Of the scene: parts say what they wear in each.</param>
internal sealed record SceneViewed(
    ViewMade? Made,
    IEnumerable<ViewObject> Objects,
    IEnumerable<ViewedLook> Materials,
    IEnumerable<string> Variants
);

/// <param name="Print">What it was made of; the files' address says it.</param>
/// <param name="Told">What it does not show, in sentences.</param>
internal sealed record ViewMade(string Print, long Triangles, IEnumerable<ViewedFile> Files, IEnumerable<string> Told);

/// <summary>An object at its place.</summary>
/// <param name="Node">As the extras of its nodes in the files say.</param>
internal sealed record ViewObject(int Node, string Name, IEnumerable<ViewPart> Parts);

/// <param name="Part">As the extras of its nodes in the files say.</param>
/// <param name="Material">What edits call it by; empty for none.</param>
/// <param name="Uv">Which UV set of the files the base colour's picture lies on, from 0.</param>
/// <param name="Texel">How large a texel of that picture is on it, in metres; null where there is none, or it is not known.</param>
/// <param name="ByVariant">The material that each variant gives it; empty where none changes it.</param>
internal sealed record ViewPart(
    int Part,
    string Name,
    string Material,
    long Triangles,
    int Uv,
    double? Texel,
    IReadOnlyDictionary<string, string> ByVariant
);

/// <summary>The scene in space.</summary>
internal static class ViewEndpoints
{
    public static void MapView(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/view").WithTags("Bench");
        group.MapGet(string.Empty, async (Guid id, Audits audits, Views views, CancellationToken stop) =>
            TypedResults.Ok(View(await audits.Get(id, stop), views))
        );
        group.MapPost(string.Empty, async (Guid id, CurrentScenes current, WorkDispatcher work, CancellationToken stop) =>
        {
            var title = $"Make {Path.GetFileName((await current.Get(id, stop)).Arrival.Path)} ready to be walked around";
            return TypedResults.Ok(await work.Begin(new MakeView(id), title, id, stop));
        });
        group.MapGet("/uvs", Uvs).ExcludeFromDescription();
        group
            .MapGet("/{print}/{file:int}", (Guid id, string print, int file, HttpResponse response, DiskStore disk) =>
            {
                var path = ViewedScene.Place(disk.View(id, Print(print)), file);
                if (!File.Exists(path))
                    throw new CannotUseException("The scene's geometry has changed since; look at it anew.");
                // Its address names what it was made of.
                response.Headers.CacheControl = "private, max-age=604800, immutable";
                return Results.File(path, "model/gltf-binary");
            })
            .ExcludeFromDescription();
    }

    /// <summary>How many edges are more than are shown.</summary>
    private const string UvsLeft = "Uvs-Left";

    /// <summary>
    /// The edges of what wears a material where one of its images lies on it, as little-endian floats, four to an edge: 204 before the
    /// geometry was made ready.
    /// </summary>
    private static async Task<IResult> Uvs(
        Guid id,
        string material,
        int number,
        HttpResponse response,
        Audits audits,
        Views views,
        SceneMemory memory,
        Bounds bounds,
        CancellationToken stop
    )
    {
        var state = await audits.Get(id, stop);
        var report = state.Current.Report;
        if (views.Of(state.Current) is not (var folder, { } view))
            return Results.NoContent();
        var held = state.Scene.Called(material) ?? throw new CannotUseException($"The scene has no material {material}.");
        var map = held.Maps.FirstOrDefault(m => m.Answer?.Number == number)
            ?? throw new CannotUseException($"{material} does not read reference {number}.");
        var worn = held.Users.Select(u => u.Part).ToHashSet(ReferenceEqualityComparer.Instance);
        int? SetOf(ViewedPiece piece)
        {
            var mesh = report.Scene.Meshes[report.Scene.Nodes[piece.Node].Mesh];
            return mesh.Parts.ElementAtOrDefault(piece.Part) is { } part && worn.Contains(part)
                ? Math.Max(0, mesh.UvSets.IndexOf(map.Use.UvSet))
                : null;
        }

        using var making = await memory.Making(stop);
        var layout = UvLayout.Of(folder, view, SetOf, ViewedMap.Of(map, held.IsGltf).Matrix, bounds, stop);
        response.Headers[UvsLeft] = layout.Left.ToString(CultureInfo.InvariantCulture);
        return Results.Bytes(MemoryMarshal.AsBytes(layout.Edges.AsSpan()).ToArray(), "application/octet-stream");
    }

    private static string Print(string print) =>
        print.Length == 32 && print.All(char.IsAsciiHexDigitLower) ? print : throw new CannotUseException("That is no view of a scene.");

    private static SceneViewed View(AuditState state, Views views)
    {
        var report = state.Current.Report;
        var looks = state.Scene.Materials.Where(m => !m.Material.IsTemplate).Select(ViewedLook.Of).ToList();
        var byName = looks.DistinctBy(l => l.Name).ToDictionary(l => l.Name, StringComparer.Ordinal);
        var made = views.Of(state.Current).View;
        var objects = made is null ? [] : made.Pieces.GroupBy(p => p.Node).Select(o => Object(state, o, byName)).ToList();
        return new(
            made is null ? null : new(made.Print, made.Files.Sum(f => f.Triangles), made.Files, made.Told),
            objects,
            looks,
            report.Scene.Meshes.SelectMany(m => m.Parts).SelectMany(p => p.ByVariant.Keys).Distinct().Order(StringComparer.Ordinal)
        );
    }

    private static ViewObject Object(AuditState state, IGrouping<int, ViewedPiece> pieces, Dictionary<string, ViewedLook> looks)
    {
        var scene = state.Current.Report.Scene;
        var node = scene.Nodes[pieces.Key];
        var mesh = scene.Meshes[node.Mesh];
        return new(pieces.Key, node.Name.Length > 0 ? node.Name : mesh.Name, pieces.GroupBy(p => p.Part).Select(Part));

        ViewPart Part(IGrouping<int, ViewedPiece> piece)
        {
            var part = mesh.Parts.ElementAtOrDefault(piece.Key) ?? new MeshPart(string.Empty, string.Empty, 0);
            var worn = part.MaterialId.Length > 0 ? part.MaterialId : part.Material;
            var name = worn.Length == 0 ? string.Empty : state.Scene.Called(worn)?.Name ?? string.Empty;
            var map = looks.GetValueOrDefault(name)?.Map;
            return new(
                piece.Key,
                part.Name,
                name,
                piece.Sum(p => p.Triangles),
                map is null ? 0 : Math.Max(0, mesh.UvSets.IndexOf(map.UvSet)),
                map?.Texel(piece.First().PerUv),
                part.ByVariant.ToDictionary(v => v.Key, v => state.Scene.Called(v.Value)?.Name ?? v.Value)
            );
        }
    }
}
