using Microsoft.EntityFrameworkCore;

namespace RootCall.Data.Work;

/// <summary>A worker's hold on a task. It may be lost while the worker sleeps; what others must rely on is asked for it first.</summary>
/// <param name="Task">Id of the task.</param>
/// <param name="Token">Names what this attempt writes, too, so that no other attempt touches it.</param>
public sealed record WorkLease(Guid Task, Guid Token)
{
    /// <summary>Keeps the hold until the transaction of that context ends, so that what is published in it is published once.</summary>
    /// <exception cref="LeaseLostException">Another worker has taken the task up, or it has ended.</exception>
    public async Task Demand(RootCallDb db, CancellationToken stop)
    {
        var held = await db
            .Work.FromSql($"SELECT * FROM work WHERE id = {Task} AND token = {Token} AND ended_at IS NULL FOR UPDATE")
            .AsNoTracking()
            .AnyAsync(stop);
        if (!held)
            throw new LeaseLostException();
    }
}

/// <summary>How far a task is.</summary>
/// <param name="Phase">What is being done: <c>unpacking</c>, <c>reading</c>, <c>looking in the roots</c>.</param>
/// <param name="Detail">What is in hand, usually a file name.</param>
public sealed record WorkStep(string Phase, string Detail, long Done, long Total);

/// <summary>Another worker has the task now: whoever meets this stops, and leaves everything that is not its own.</summary>
public sealed class LeaseLostException() : OperationCanceledException("Another worker has taken this task up.");
