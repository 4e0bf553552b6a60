using Hangfire;
using Hangfire.States;
using Microsoft.Extensions.Logging;
using RootCall.Core.Jobs;
using RootCall.Data.Rows;

namespace RootCall.Data.Work;

/// <summary>
/// Puts tasks into the queue and takes them out again. The row is the truth and the queue only wakes a worker: a task that did
/// not get into the queue, or fell out of it, is put in again by <see cref="Sweep"/>.
/// </summary>
public sealed partial class WorkDispatcher(WorkStore work, IBackgroundJobClient queue, JobStorage storage, ILogger<WorkDispatcher> log)
    : IJobQueue
{
    private static readonly TimeSpan Settled = TimeSpan.FromSeconds(5);
    private static readonly TimeSpan Stuck = TimeSpan.FromMinutes(1);

    public Task Put(JobRequest request, string title, Guid? sceneId, CancellationToken stop) => Start(request, title, sceneId, stop);

    public async Task<WorkRow> Start(JobRequest request, string title, Guid? sceneId, CancellationToken stop)
    {
        var row = await work.Add(request, title, sceneId, stop);
        try
        {
            await Enqueue(row.Id, CancellationToken.None);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            // It is written down, and whoever asked may rely on that: the next sweep puts it into the queue.
            LogNotYet(row.Id, e.Message);
        }

        return row;
    }

    /// <summary>Says so in the row first, then tells the queue; the worker stops within seconds.</summary>
    public async Task<bool> Cancel(Guid id, CancellationToken stop)
    {
        string? job = null;
        var was = await work.Update(id, w => (job, w.State) = (w.JobId, WorkStates.Cancelled), stop);
        if (was && job is not null)
            queue.Delete(job);
        return was;
    }

    /// <summary>Puts in again what waits in no queue, and what a lost worker had in hand.</summary>
    public async Task Sweep(CancellationToken stop)
    {
        foreach (var row in await work.Stranded(Settled, stop))
            if (row.State == WorkStates.Running || row.JobId is null || !Waits(row.JobId))
                if (await work.Strand(row, stop))
                    await Enqueue(row.Id, stop);
    }

    private bool Waits(string job)
    {
        using var connection = storage.GetConnection();
        if (connection.GetJobData(job) is not { State: { } state } data)
            return false;
        // Taken up, it is claimed at once, unless the worker died on the way; and the queue keeps the locks of the dead for a while.
        var age = DateTime.UtcNow - data.CreatedAt;
        if (age > (state == ProcessingState.StateName ? Settled : Stuck))
            return false;
        return state != SucceededState.StateName && state != DeletedState.StateName && state != FailedState.StateName;
    }

    private async Task Enqueue(Guid id, CancellationToken stop)
    {
        var job = queue.Enqueue<IWorkRunner>(r => r.Run(id, CancellationToken.None));
        await work.Update(id, w => w.JobId = job, stop);
    }

    [LoggerMessage(LogLevel.Warning, "Task {Id} is not in the queue yet: {Reason}")]
    private partial void LogNotYet(Guid id, string reason);
}
