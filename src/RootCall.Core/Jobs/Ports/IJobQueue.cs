namespace RootCall.Core.Jobs;

/// <summary>Where jobs wait until a host takes them up.</summary>
public interface IJobQueue
{
    /// <param name="title">What people read.</param>
    Task Put(JobRequest request, string title, Guid? sceneId, CancellationToken stop);
}
