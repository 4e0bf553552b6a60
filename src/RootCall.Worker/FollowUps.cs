using Hangfire;
using RootCall.Core.Muster;
using RootCall.Data.Work;
using RootCall.Worker.Tasks;

namespace RootCall.Worker;

/// <summary>Tasks that a task leaves behind, so that its own result is not kept waiting for them.</summary>
public sealed class FollowUps(WorkStore work, IBackgroundJobClient queue)
{
    /// <summary>Has the files that answer looked at, when some are new.</summary>
    public async Task Remember(Guid sceneId, SceneRead read, CancellationToken stop)
    {
        if (
            !read.Report.References.Any(r =>
                r.Resolved is not null && !r.Flags.HasFlag(ReferenceFlags.StandIn) && RememberTask.IsNew(r, read.Context.LastSeen)
            ) && read.Report.Beside.IsEmpty
        )
            return;
        var row = await work.Add(new Remember(sceneId), "Remember the files", sceneId, stop);
        var job = queue.Enqueue<IWorkRunner>(r => r.Run(row.Id, CancellationToken.None));
        await work.Update(row.Id, w => w.JobId = job, stop);
    }
}
