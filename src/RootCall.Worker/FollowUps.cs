using RootCall.Core.Muster;
using RootCall.Data.Work;
using RootCall.Worker.Tasks;

namespace RootCall.Worker;

/// <summary>Tasks that a task leaves behind, so that its own result is not kept waiting for them.</summary>
public sealed class FollowUps(WorkDispatcher work)
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
        await work.Start(new Remember(sceneId), "Remember the files", sceneId, stop);
    }

    /// <summary>Has the scene mustered again, since something was learned about its files.</summary>
    public Task Search(Guid sceneId, CancellationToken stop) =>
        work.Start(new Search(sceneId), "Muster with what the images hold", sceneId, stop);
}
