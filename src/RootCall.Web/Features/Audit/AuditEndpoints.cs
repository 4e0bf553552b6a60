using Microsoft.AspNetCore.Http.HttpResults;
using RootCall.Core.Audit;
using RootCall.Core.Files;
using RootCall.Data.Stores;
using RootCall.Web.Features.Pictures;

namespace RootCall.Web.Features.Audit;

/// <summary>What is wrong, why, and what would mend it.</summary>
internal static class AuditEndpoints
{
    /// <summary>Nothing for a cause that is gone: it may just have been mended, and a window that still shows it asks once more.</summary>
    private static async Task<Results<Ok<CauseView>, NoContent>> Cause(
        Guid id,
        string key,
        string? member,
        Audits audits,
        CancellationToken stop
    )
    {
        var state = await audits.Get(id, stop);
        return state.Report.Causes.FirstOrDefault(c => c.Cause.Key == key) is { } cause
            ? TypedResults.Ok(AuditShapes.Cause(id, state, cause, member))
            : TypedResults.NoContent();
    }

    public static void MapAudit(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/audit").WithTags("Audit");
        group.MapGet(string.Empty, async (Guid id, Audits audits, CancellationToken stop) =>
            TypedResults.Ok(AuditShapes.View(await audits.Get(id, stop)))
        );
        group.MapGet("/cause", Cause);
        group
            .MapGet("/file", (Guid id, string? format, AuditFiles files, CancellationToken stop) => files.Get(id, format, stop))
            .ExcludeFromDescription();
        group
            .MapGet(
                "/swatch",
                async (
                    Guid id,
                    string finding,
                    string? light,
                    int? side,
                    HttpResponse response,
                    Audits audits,
                    DiskStore disk,
                    SwatchRequests swatches,
                    CancellationToken stop
                ) =>
                {
                    var state = await audits.Get(id, stop);
                    var found = state.Report.Findings.FirstOrDefault(f => f.Key == finding);
                    return
                        found is not null
                        && FixedLook.Of(state.Scene, found, SwatchEndpoints.Lit(light), SwatchEndpoints.Side(side)) is { } order
                        ? SwatchEndpoints.Answer(order, response, disk, swatches)
                        : Results.NoContent();
                }
            )
            .ExcludeFromDescription();
        group.MapPost("/preview", async (Guid id, FixRequest request, Audits audits, CancellationToken stop) =>
            TypedResults.Ok(AuditShapes.Fix(FixPlan.Make(Audits.Picked(await audits.Get(id, stop), request))))
        );
        group.MapPost("/fix", async (Guid id, FixRequest request, Audits audits, CancellationToken stop) =>
            TypedResults.Ok(await audits.Fix(id, request, stop))
        );
        group.MapPost("/waive", async (Guid id, WaiveRequest request, Audits audits, WaiverStore waivers, CancellationToken stop) =>
        {
            if (string.IsNullOrWhiteSpace(request.Reason))
                throw new CannotUseException("A waiver needs a reason.");
            await waivers.Put(id, new(request.Cause, request.Reason.Trim(), DateTimeOffset.UtcNow), stop);
            return TypedResults.Ok(AuditShapes.View(await audits.Get(id, stop)));
        });
        group.MapPost("/unwaive", async (Guid id, CauseKey request, Audits audits, WaiverStore waivers, CancellationToken stop) =>
        {
            await waivers.Remove(id, request.Cause, stop);
            return TypedResults.Ok(AuditShapes.View(await audits.Get(id, stop)));
        });
        group.MapGet("/destinations", async (Guid id, Audits audits, HouseStore house, CancellationToken stop) =>
        {
            var state = await audits.Get(id, stop);
            var now = state.Report.Causes.ToDictionary(c => c.Cause.Key, c => c.Cause.Sentence(c.Findings.Length));
            var changes = new List<DestinationChange>();
            foreach (var destination in await house.Destinations(stop))
            {
                var chosen = destination.Equals(state.Scene.Destination);
                var report = chosen ? state.Report : AuditRun.For(state.Scene, state.Report, destination, threads: 1, stop);
                var then = report.Causes.ToDictionary(c => c.Cause.Key, c => c.Cause.Sentence(c.Findings.Length));
                changes.Add(
                    new(
                        AuditShapes.Destination(destination),
                        chosen,
                        report.Count(Severity.Blocker),
                        report.Count(Severity.Warning),
                        report.Count(Severity.Note),
                        then.Where(t => !now.ContainsKey(t.Key)).Select(t => t.Value),
                        now.Where(n => !then.ContainsKey(n.Key)).Select(n => n.Value)
                    )
                );
            }

            return TypedResults.Ok(changes);
        });
        group.MapPut(
            "/destination",
            async (Guid id, ChooseDestination choose, Audits audits, HouseStore house, SceneStore scenes, CancellationToken stop) =>
            {
                if (!(await house.Destinations(stop)).Any(d => d.Id == choose.Id))
                    throw new CannotUseException($"There is no destination “{choose.Id}”.");
                await scenes.SetDestination(id, choose.Id, stop);
                return TypedResults.Ok(AuditShapes.View(await audits.Get(id, stop)));
            }
        );
        api.MapGet(
                "/scenes/{id:guid}/beside/{at:int}/picture",
                (
                    Guid id,
                    int at,
                    HttpResponse response,
                    CurrentScenes current,
                    DiskStore disk,
                    PictureRequests pictures,
                    CancellationToken stop
                ) => PictureEndpoints.Beside(id, at, response, current, disk, pictures, stop)
            )
            .WithTags("Pictures")
            .ExcludeFromDescription();
    }
}
