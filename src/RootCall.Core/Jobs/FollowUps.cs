namespace RootCall.Core.Jobs;

/// <summary>Jobs that a job leaves behind, so that its own result is not kept waiting for them.</summary>
public sealed class FollowUps(IJobQueue queue)
{
    /// <summary>Has the files that answer looked at for the first time, and recipes for the scene's source act.</summary>
    public Task Arrived(Guid sceneId, CancellationToken stop) =>
        queue.Put(new Remember(sceneId, HasArrived: true), "Remember the files", sceneId, stop);

    /// <summary>Has the files that answer looked at, when some are new.</summary>
    public async Task Remember(Guid sceneId, SceneRead read, CancellationToken stop)
    {
        if (RememberJob.New(read.Report, read.Context.LastSeen).Any() || !read.Report.Beside.IsEmpty)
            await queue.Put(new Remember(sceneId), "Remember the files", sceneId, stop);
    }

    /// <summary>Has the scene mustered again, among files that were added to it.</summary>
    public Task Added(Guid sceneId, CancellationToken stop) => queue.Put(new Search(sceneId), "Look among the added files", sceneId, stop);

    /// <summary>Has the scene mustered again, since something was learned about its files.</summary>
    public Task Search(Guid sceneId, CancellationToken stop) =>
        queue.Put(new Search(sceneId), "Muster with what the images hold", sceneId, stop);
}
