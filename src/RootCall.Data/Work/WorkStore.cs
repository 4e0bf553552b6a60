using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using RootCall.Core.Jobs;
using RootCall.Data.Rows;
using RootCall.Data.Stores;

namespace RootCall.Data.Work;

public static class WorkStates
{
    public const string Queued = "queued";
    public const string Running = "running";
    public const string Done = "done";
    public const string Failed = "failed";
    public const string Cancelled = "cancelled";

    public static bool IsEnded(string state) => state is Done or Failed or Cancelled;
}

/// <summary>
/// The rows of long tasks. Each change is announced on a PostgreSQL channel, on which the web process listens to tell
/// the open browser windows.
/// </summary>
public sealed class WorkStore(IDbContextFactory<RootCallDb> databases, NpgsqlDataSource source, IOptions<DataOptions> options)
{
    /// <summary>How long a worker holds a task without a sign of life.</summary>
    public TimeSpan Lease => options.Value.Lease;

    public const string Channel = "rootcall_work";

    /// <summary>A task that so many workers were lost over is given up.</summary>
    public const int MostAttempts = 3;

    public async Task<WorkRow> Add(JobRequest request, string title, Guid? sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var row = new WorkRow
        {
            Id = Guid.CreateVersion7(),
            Kind = JobRequest.KindOf(request.GetType()),
            Title = title,
            SceneId = sceneId,
            State = WorkStates.Queued,
            CreatedAt = DateTimeOffset.UtcNow,
            Request = Json.Document<object>(request),
        };
        db.Work.Add(row);
        await db.SaveChangesAsync(stop);
        return row;
    }

    public async Task<WorkRow?> Find(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Work.AsNoTracking().FirstOrDefaultAsync(w => w.Id == id, stop);
    }

    /// <summary>Tasks that wait, run or ended lately, newest first: the last 50, and what runs however old it is.</summary>
    public async Task<List<WorkRow>> Recent(CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var lately = DateTimeOffset.UtcNow.AddHours(-12);
        var recent = await db
            .Work.AsNoTracking()
            .Where(w => w.EndedAt == null || w.EndedAt > lately)
            .OrderByDescending(w => w.CreatedAt)
            .Take(50)
            .ToListAsync(stop);
        var running = await db
            .Work.AsNoTracking()
            .Where(w => w.State == WorkStates.Running)
            .OrderByDescending(w => w.CreatedAt)
            .ToListAsync(stop);
        return [.. recent.UnionBy(running, w => w.Id)];
    }

    /// <summary>Whether a task of that kind waits or runs for a scene.</summary>
    public async Task<bool> IsOpen<T>(Guid sceneId, CancellationToken stop)
        where T : JobRequest
    {
        var kind = JobRequest.KindOf(typeof(T));
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Work.AnyAsync(
            w => w.SceneId == sceneId && w.Kind == kind && (w.State == WorkStates.Queued || w.State == WorkStates.Running),
            stop
        );
    }

    public static T Request<T>(WorkRow row) => Json.Read<T>(row.Request);

    /// <summary>Takes a task up.</summary>
    /// <returns>Null when it has ended, or another worker has it in hand.</returns>
    public async Task<(WorkRow Row, WorkLease Lease)?> Claim(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var token = Guid.NewGuid();
        var claimed = await db.Database.ExecuteSqlAsync(
            $"""
            UPDATE work SET state = {WorkStates.Running}, token = {token}, attempts = attempts + 1, lease_until = now() + {Lease}
            WHERE id = {id} AND ended_at IS NULL AND (state = {WorkStates.Queued} OR lease_until IS NULL OR lease_until < now())
            """,
            stop
        );
        if (claimed == 0)
            return null;
        await Announce(id, stop);
        return ((await Find(id, stop))!, new(id, token));
    }

    /// <summary>Writes down how far a task is, and holds it for longer.</summary>
    /// <returns>False when the worker does not have it any more: it was cancelled, or another one has taken it up.</returns>
    /// <param name="step">Null when it is where it was.</param>
    public async Task<bool> Renew(WorkLease lease, WorkStep? step)
    {
        await using var db = await databases.CreateDbContextAsync();
        var held = await db.Database.ExecuteSqlAsync(
            $"""
            UPDATE work SET lease_until = now() + {Lease},
              phase = COALESCE({step?.Phase}, phase), detail = COALESCE({step?.Detail}, detail),
              done = COALESCE({step?.Done}, done), total = COALESCE({step?.Total}, total)
            WHERE id = {lease.Task} AND token = {lease.Token} AND ended_at IS NULL
            """
        );
        if (held > 0 && step is not null)
            await Announce(lease.Task, CancellationToken.None);
        return held > 0;
    }

    /// <summary>Gives tasks back that are not to blame: they wait again, as if they had not been taken up.</summary>
    public async Task Release(IReadOnlyCollection<Guid> tokens)
    {
        await using var db = await databases.CreateDbContextAsync();
        await db
            .Work.Where(w => w.Token != null && tokens.Contains(w.Token.Value) && w.EndedAt == null)
            .ExecuteUpdateAsync(s =>
                s.SetProperty(w => w.State, WorkStates.Queued)
                    .SetProperty(w => w.Token, (Guid?)null)
                    .SetProperty(w => w.JobId, (string?)null)
                    .SetProperty(w => w.LeaseUntil, (DateTimeOffset?)null)
                    .SetProperty(w => w.Attempts, w => w.Attempts - 1)
            );
    }

    /// <summary>Tasks that nobody will take up unless they are put into the queue (again), oldest first.</summary>
    /// <param name="settled">A task that was added later than that ago may be on its way into the queue.</param>
    public async Task<List<WorkRow>> Stranded(TimeSpan settled, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db
            .Work.FromSql(
                $"""
                SELECT * FROM work WHERE ended_at IS NULL AND created_at < now() - {settled}
                  AND ((state = {WorkStates.Queued} AND job_id IS NULL) OR (state = {WorkStates.Running} AND lease_until < now())
                    OR (state = {WorkStates.Queued} AND created_at < now() - {settled * 2}))
                ORDER BY created_at LIMIT 100
                """
            )
            .AsNoTracking()
            .ToListAsync(stop);
    }

    /// <summary>Does what others would feel while no other worker can take the task up.</summary>
    /// <exception cref="LeaseLostException">Another worker has, or the task has ended.</exception>
    public async Task While(WorkLease lease, Action act, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        await lease.Demand(db, stop);
        act();
        await transaction.CommitAsync(stop);
    }

    /// <summary>Tokens of tasks that a worker has in hand.</summary>
    public async Task<HashSet<Guid>> Held(CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return [.. await db.Work.Where(w => w.EndedAt == null && w.Token != null).Select(w => w.Token!.Value).ToListAsync(stop)];
    }

    /// <summary>Changes a task that has not ended and announces it.</summary>
    /// <returns>False when it had ended before, for example because it was cancelled.</returns>
    public Task<bool> Update(Guid id, Action<WorkRow> change, CancellationToken stop = default) => Update(id, _ => true, change, stop);

    /// <summary>Changes a task that this worker has in hand.</summary>
    /// <returns>False when it has not any more.</returns>
    public Task<bool> Update(WorkLease lease, Action<WorkRow> change) =>
        Update(lease.Task, w => w.Token == lease.Token, change, CancellationToken.None);

    /// <summary>Puts a task back that was seen stranded, unless somebody has taken it up since.</summary>
    /// <summary>Forgets a task that has ended.</summary>
    public async Task Forget(Guid id, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.Work.Where(w => w.Id == id && w.EndedAt != null).ExecuteDeleteAsync(stop);
    }

    public Task<bool> Strand(WorkRow seen, CancellationToken stop) =>
        Update(seen.Id, w => w.Token == seen.Token, w => (w.State, w.JobId) = (WorkStates.Queued, null), stop);

    private async Task<bool> Update(Guid id, Func<WorkRow, bool> when, Action<WorkRow> change, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        var row = await db.Work.FromSql($"SELECT * FROM work WHERE id = {id} AND ended_at IS NULL FOR UPDATE").FirstOrDefaultAsync(stop);
        if (row is null || !when(row))
            return false;
        change(row);
        if (WorkStates.IsEnded(row.State))
            row.EndedAt = DateTimeOffset.UtcNow;
        await db.SaveChangesAsync(stop);
        await transaction.CommitAsync(stop);
        await Announce(id, stop);
        return true;
    }

    private async Task Announce(Guid id, CancellationToken stop)
    {
        await using var notify = source.CreateCommand("SELECT pg_notify($1, $2)");
        notify.Parameters.AddWithValue(Channel);
        notify.Parameters.AddWithValue(id.ToString());
        await notify.ExecuteNonQueryAsync(stop);
    }
}
