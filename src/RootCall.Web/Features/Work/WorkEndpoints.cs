using RootCall.Core.Jobs;
using RootCall.Data.Rows;
using RootCall.Data.Work;

namespace RootCall.Web.Features.Work;

/// <summary>A long task as windows see it.</summary>
internal sealed record WorkItem(
    Guid Id,
    string Kind,
    string Title,
    Guid? SceneId,
    string State,
    string Phase,
    string Detail,
    long Done,
    long Total,
    string? Error,
    DateTimeOffset CreatedAt,
    DateTimeOffset? EndedAt
)
{
    public static WorkItem Of(WorkRow row) =>
        new(
            row.Id,
            row.Kind,
            row.Title,
            row.SceneId,
            row.State,
            row.Phase,
            row.Detail,
            row.Done,
            row.Total,
            row.Error,
            row.CreatedAt,
            row.EndedAt
        );
}

internal static class WorkEndpoints
{
    /// <summary>Puts a task into the queue, for a window to watch.</summary>
    public static async Task<WorkItem> Begin(
        this WorkDispatcher work,
        JobRequest request,
        string title,
        Guid? sceneId,
        CancellationToken stop
    ) => WorkItem.Of(await work.Start(request, title, sceneId, stop));

    public static void MapWork(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/work").WithTags("Work");
        group.MapGet(string.Empty, async (WorkStore work, CancellationToken stop) =>
            TypedResults.Ok((await work.Recent(stop)).Select(WorkItem.Of))
        );
        group.MapPost("/{id:guid}/cancel", async (Guid id, WorkDispatcher work, CancellationToken stop) =>
            TypedResults.Ok(await work.Cancel(id, stop))
        );
        group.MapDelete("/{id:guid}", async (Guid id, WorkStore work, CancellationToken stop) =>
        {
            await work.Forget(id, stop);
            return TypedResults.NoContent();
        });
    }
}
