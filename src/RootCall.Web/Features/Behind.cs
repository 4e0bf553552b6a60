namespace RootCall.Web.Features;

/// <summary>Does something for several scenes behind whoever asked: one scene after the other, and one round at a time.</summary>
/// <param name="what">What is done, for the log: “counted for the list”.</param>
internal sealed partial class Behind(ILogger log, string what)
{
    private int running;

    public void Start(IReadOnlyList<Guid> scenes, Func<Guid, Task> act)
    {
        if (scenes.Count > 0 && Interlocked.Exchange(ref running, 1) == 0)
            _ = Task.Run(() => Run(scenes, act), CancellationToken.None);
    }

    private async Task Run(IReadOnlyList<Guid> scenes, Func<Guid, Task> act)
    {
        foreach (var id in scenes)
            try
            {
                await act(id);
            }
            catch (Exception e)
            {
                LogLeft(id, what, e.Message); // The next who asks has it tried again.
            }

        Interlocked.Exchange(ref running, 0);
    }

    [LoggerMessage(LogLevel.Warning, "Scene {Id} could not be {What}: {Reason}")]
    private partial void LogLeft(Guid id, string what, string reason);
}
