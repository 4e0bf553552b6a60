using Hangfire;
using RootCall.Core.Files;
using RootCall.Data.Rows;
using RootCall.Data.Work;
using RootCall.Worker.Tasks;

namespace RootCall.Worker;

/// <summary>Runs the task of a row and writes down how it ended.</summary>
[AutomaticRetry(Attempts = 0)]
public sealed partial class WorkRunner(
    WorkStore work,
    ArriveTask arrive,
    SearchTask search,
    ExtractTask extract,
    PackTask pack,
    ListRootTask list,
    RememberTask remember,
    WriteCopyTask copy,
    PictureTask picture,
    ILogger<WorkRunner> log
) : IWorkRunner
{
    public async Task Run(Guid id, CancellationToken stop)
    {
        // A row that is running already belonged to a worker that died: its task is done again from the start.
        if (!await work.Update(id, w => w.State = WorkStates.Running, CancellationToken.None))
            return;
        var row = (await work.Find(id, CancellationToken.None))!;
        await using var progress = new WorkProgress(work, id);
        try
        {
            await Do(row, progress, stop);
            await progress.DisposeAsync();
            await work.Update(id, w => w.State = WorkStates.Done, CancellationToken.None);
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            // Cancelled by the artist: the row says so already. Shut down: the queue gives the job to another worker.
            throw;
        }
        catch (Exception e)
        {
            await progress.DisposeAsync();
            var expected = e is CannotUseException or IOException or UnauthorizedAccessException;
            if (!expected)
                LogFailure(e, row.Kind, id);
            await work.Update(
                id,
                w =>
                    (w.State, w.Error) = (
                        WorkStates.Failed,
                        expected
                            ? e.Message
                            : $"The task stopped on a fault of Root Call ({e.GetType().Name}); nothing was half-written. The "
                                + $"worker's log has the details."
                    ),
                CancellationToken.None
            );
        }
    }

    public Task MakePicture(string path, Guid? sceneId, int? number, string output, int side, CancellationToken stop) =>
        picture.Run(path, sceneId, number, output, side, stop);

    private Task Do(WorkRow row, WorkProgress progress, CancellationToken stop) =>
        row.Kind switch
        {
            "arrive" => arrive.Run(row.Id, WorkStore.Request<Arrive>(row), progress, stop),
            "search" => search.Run(row.Id, WorkStore.Request<Search>(row), progress, stop),
            "extract" => extract.Run(row.Id, WorkStore.Request<Extract>(row), progress, stop),
            "listroot" => list.Run(WorkStore.Request<ListRoot>(row), progress, stop),
            "remember" => remember.Run(WorkStore.Request<Remember>(row), progress, stop),
            "writecopy" => copy.Run(WorkStore.Request<WriteCopy>(row), progress, stop),
            "pack" => pack.Run(row.Id, WorkStore.Request<Pack>(row), progress, stop),
            _ => throw new CannotUseException($"This worker knows no task called {row.Kind}; it may be older than the application."),
        };

    [LoggerMessage(LogLevel.Error, "Task {Kind} {Id} failed")]
    private partial void LogFailure(Exception e, string kind, Guid id);
}
