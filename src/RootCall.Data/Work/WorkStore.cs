using Microsoft.EntityFrameworkCore;
using Npgsql;
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
public sealed class WorkStore(IDbContextFactory<RootCallDb> databases, NpgsqlDataSource source)
{
    public const string Channel = "rootcall_work";

    public async Task<WorkRow> Add<T>(T request, string title, Guid? sceneId, CancellationToken stop)
        where T : WorkRequest
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var row = new WorkRow
        {
            Id = Guid.CreateVersion7(),
            Kind = WorkRequest.KindOf(typeof(T)),
            Title = title,
            SceneId = sceneId,
            State = WorkStates.Queued,
            CreatedAt = DateTimeOffset.UtcNow,
            Request = Json.Document(request),
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

    /// <summary>Tasks that go on, and those that ended lately, newest first.</summary>
    public async Task<List<WorkRow>> Recent(CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var lately = DateTimeOffset.UtcNow.AddHours(-12);
        return await db
            .Work.AsNoTracking()
            .Where(w => w.EndedAt == null || w.EndedAt > lately)
            .OrderByDescending(w => w.CreatedAt)
            .Take(50)
            .ToListAsync(stop);
    }

    /// <summary>Whether a task of that kind waits or runs for a scene.</summary>
    public async Task<bool> IsOpen<T>(Guid sceneId, CancellationToken stop)
        where T : WorkRequest
    {
        var kind = WorkRequest.KindOf(typeof(T));
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Work.AnyAsync(
            w => w.SceneId == sceneId && w.Kind == kind && (w.State == WorkStates.Queued || w.State == WorkStates.Running),
            stop
        );
    }

    public static T Request<T>(WorkRow row) => Json.Read<T>(row.Request);

    /// <summary>Changes a task that has not ended and announces it.</summary>
    /// <returns>False when it had ended before, for example because it was cancelled.</returns>
    public async Task<bool> Update(Guid id, Action<WorkRow> change, CancellationToken stop = default)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var row = await db.Work.FirstOrDefaultAsync(w => w.Id == id && w.EndedAt == null, stop);
        if (row is null)
            return false;
        change(row);
        if (WorkStates.IsEnded(row.State))
            row.EndedAt = DateTimeOffset.UtcNow;
        await db.SaveChangesAsync(stop);
        await using var notify = source.CreateCommand("SELECT pg_notify($1, $2)");
        notify.Parameters.AddWithValue(Channel);
        notify.Parameters.AddWithValue(id.ToString());
        await notify.ExecuteNonQueryAsync(stop);
        return true;
    }
}
