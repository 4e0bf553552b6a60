using Hangfire;

namespace RootCall.Data.Work;

/// <summary>What the queue calls in a worker process. The web process only names it.</summary>
public interface IWorkRunner
{
    const string Swatches = "swatches";

    /// <summary>Does the task of that row; safe to call again after a worker died in the middle.</summary>
    Task Run(Guid id, CancellationToken stop);

    /// <summary>Makes a thumbnail; too small a task for a row of its own.</summary>
    Task MakePicture(string path, Guid? sceneId, int? number, string output, int side, CancellationToken stop);

    /// <summary>Opens an image pixel by pixel.</summary>
    [Queue(Swatches)]
    Task OpenPlane(string path, Guid? sceneId, int? number, string output, CancellationToken stop);

    /// <summary>
    /// Makes a swatch whose order lies beside its place. In a queue of its own, so that no task waits behind a sheet of them.
    /// </summary>
    [Queue(Swatches)]
    Task MakeSwatch(string output, CancellationToken stop);
}
