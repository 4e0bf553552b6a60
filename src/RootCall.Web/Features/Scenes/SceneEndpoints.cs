using Microsoft.EntityFrameworkCore;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data;

namespace RootCall.Web.Features.Scenes;

/// <summary>A row of Arrivals.</summary>
internal sealed record SceneSummary(
    Guid Id, string Name, string Format, string FormatId, int Version, string Source, DateTimeOffset ArrivedAt, long Bytes, int References, int Unanswered, int Applied, int Pending);

/// <summary>What came with a scene.</summary>
internal sealed record SceneDetail(
    Guid Id, string Name, string Format, int Version, string Source, string Path, bool Uploaded, DateTimeOffset ArrivedAt, long Bytes,
    int Nodes, int Meshes, int Materials, int Images, long Triangles, int CarriedImages, int Buffers, int Libraries,
    IEnumerable<string> MaterialNames, IEnumerable<NoteItem> Notes, IEnumerable<CarriedItem> Carried, DateTimeOffset MusteredAt, int FilesIndexed);

internal sealed record NoteItem(string Message, string Place);

internal sealed record CarriedItem(int Number, string Name, long Bytes, int? Width, int? Height, string State);

internal static class SceneEndpoints
{
    public static void MapScenes(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes").WithTags("Scenes");
        group.MapGet(string.Empty, async (IDbContextFactory<RootCallDb> databases, CurrentScenes current, CancellationToken stop) =>
        {
            await using var db = await databases.CreateDbContextAsync(stop);
            var ids = await db.Scenes.AsNoTracking().OrderByDescending(s => s.Arrivals.Max(a => a.ArrivedAt)).Select(s => s.Id).ToListAsync(stop);
            var summaries = new List<SceneSummary>();
            foreach (var id in ids)
            {
                var (a, ledger, references, unanswered) = await current.Summary(id, stop);
                summaries.Add(new(
                    id, Path.GetFileName(a.Path), a.FormatName, a.FormatId, a.Version, a.Source, a.ArrivedAt, a.Bytes,
                    references, unanswered, ledger.Applied.Count(), ledger.Pending.Count()));
            }

            return TypedResults.Ok(summaries);
        });
        group.MapGet("/{id:guid}", async (Guid id, CurrentScenes current, CancellationToken stop) => TypedResults.Ok(Detail(id, await current.Get(id, stop))));
    }

    private static SceneDetail Detail(Guid id, CurrentState state)
    {
        var a = state.Arrival;
        var report = state.Report;
        var carried = report.References.Where(r => r.Reference.Carried is not null).ToList();
        return new(
            id, Path.GetFileName(a.Path), a.FormatName, a.Version, a.Source, a.Path, a.Uploaded, a.ArrivedAt, a.Bytes,
            a.Nodes, a.Meshes, a.Materials, a.Images, a.Triangles, carried.Count,
            report.References.Count(r => r.Reference.Kind == ReferenceKind.Buffer), report.References.Count(r => r.Reference.Kind == ReferenceKind.MaterialLibrary),
            report.Scene.Materials.Select(m => m.Name),
            report.Scene.Notes.Select(n => new NoteItem(n.Message, n.Place)).Concat(report.Notes.Select(n => new NoteItem(n, "roots"))),
            carried.Select(c => new CarriedItem(c.Number, c.Reference.Written, c.Stamp?.Bytes ?? 0, c.Facts?.Width, c.Facts?.Height, c.State.Word())),
            a.MusteredAt, a.FilesIndexed);
    }
}
