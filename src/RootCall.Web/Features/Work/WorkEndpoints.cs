using Hangfire;
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

/// <summary>Puts tasks into the queue and takes them out again.</summary>
internal sealed class WorkDispatcher(WorkStore work, IBackgroundJobClient queue)
{
    public async Task<WorkItem> Start<T>(T request, string title, Guid? sceneId, CancellationToken stop)
        where T : WorkRequest
    {
        var row = await work.Add(request, title, sceneId, stop);
        var job = queue.Enqueue<IWorkRunner>(r => r.Run(row.Id, CancellationToken.None));
        await work.Update(row.Id, w => w.JobId = job, stop);
        return WorkItem.Of(row);
    }

    /// <summary>Says so in the row first, then tells the queue, which stops the worker's token within a second.</summary>
    public async Task<bool> Cancel(Guid id, CancellationToken stop)
    {
        string? job = null;
        var was = await work.Update(id, w => (job, w.State) = (w.JobId, WorkStates.Cancelled), stop);
        if (was && job is not null)
            queue.Delete(job);
        return was;
    }
}

internal static class WorkEndpoints
{
    public static void MapWork(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/work").WithTags("Work");
        group.MapGet(string.Empty, async (WorkStore work, CancellationToken stop) =>
            TypedResults.Ok((await work.Recent(stop)).Select(WorkItem.Of))
        );
        group.MapPost("/{id:guid}/cancel", async (Guid id, WorkDispatcher work, CancellationToken stop) =>
            TypedResults.Ok(await work.Cancel(id, stop))
        );
    }
}
