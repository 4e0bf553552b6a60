using System.Collections.Concurrent;
using System.Diagnostics;
using Hangfire;
using Microsoft.Extensions.Options;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Jobs;
using RootCall.Data;
using RootCall.Data.Rows;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker;

/// <summary>Takes a task up, watches over it, and writes down how it ended.</summary>
[AutomaticRetry(Attempts = 0)]
public sealed partial class WorkRunner(
    WorkStore work,
    ArriveJob arrive,
    SearchJob search,
    ExtractJob extract,
    PackJob pack,
    ListRootJob list,
    RememberJob remember,
    WriteCopyJob copy,
    FrameJob frame,
    MeasureCrossingJob crossing,
    MeasureLooksJob looks,
    MomentFramesJob momentFrames,
    ViewJob view,
    CrossingFrameJob crossingFrame,
    CrossJob cross,
    PictureJob picture,
    PlaneJob plane,
    SwatchJob swatch,
    DiskStore disk,
    Leftovers leftovers,
    StoreSweep sweep,
    IOptions<DataOptions> options,
    ILogger<WorkRunner> log
) : IWorkRunner
{
    /// <summary>What a task that was told to stop may still take, before its process is ended.</summary>
    private static readonly TimeSpan ToStop = TimeSpan.FromSeconds(5);
    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(500);
    private readonly ConcurrentDictionary<Guid, byte> inHand = new();

    public async Task Run(Guid id, CancellationToken stop)
    {
        if (await work.Claim(id, CancellationToken.None) is not var (row, lease))
            return;
        if (row.Attempts > WorkStore.MostAttempts)
        {
            var last = row.Detail.Length > 0 ? $"{row.Phase} {row.Detail}" : row.Phase;
            await Fail(
                lease,
                $"{WorkStore.MostAttempts} workers were lost over this task, so it was given up"
                    + (last.Length > 0 ? $"; the last was at “{last}”." : ".")
            );
            return;
        }

        inHand[lease.Token] = 0;
        try
        {
            using var hold = CancellationTokenSource.CreateLinkedTokenSource(stop);
            await using var progress = new WorkProgress(work, lease, hold);
            var job = Task.Run(
                async () =>
                {
                    if (row.Attempts > 1)
                        await leftovers.Sweep(noUploads: false, hold.Token);
                    await Do(row, progress, hold.Token);
                },
                CancellationToken.None
            );
            await Watch(job, lease, progress, hold);
            await End(job, row, lease, progress, stop);
        }
        finally
        {
            inHand.TryRemove(lease.Token, out _);
        }
    }

    public async Task MakePicture(string path, Guid? sceneId, int? number, string output, int side, CancellationToken stop)
    {
        if (await picture.Run(path, sceneId, number, output, side, stop) is { } why)
            LogNoPicture(path, why);
    }

    public async Task OpenPlane(string path, Guid? sceneId, int? number, string output, CancellationToken stop)
    {
        if (await plane.Run(path, sceneId, number, output, stop) is { } why)
            LogNoPicture(path, why);
    }

    public Task MakeSwatch(string output, CancellationToken stop)
    {
        if (swatch.Run(output, stop) is { } why)
            LogNoPicture(output, why);
        return Task.CompletedTask;
    }

    /// <summary>Waits for a task, and for no task longer than it reports something, or longer than it takes to stop.</summary>
    private async Task Watch(Task job, WorkLease lease, WorkProgress progress, CancellationTokenSource hold)
    {
        DateTime? told = null;
        while (await Task.WhenAny(job, Task.Delay(Look)) != job)
        {
            if (hold.IsCancellationRequested)
                told ??= DateTime.UtcNow;
            else if (DateTime.UtcNow - progress.LastReport > options.Value.MostSilence)
            {
                // Told to stop first: the database may be what is silent.
                await hold.CancelAsync();
                await Fail(lease, $"The task reported nothing for {Words(options.Value.MostSilence)} and was ended.");
            }

            if (DateTime.UtcNow - told > ToStop)
                await Quit(lease);
        }
    }

    private async Task End(Task job, WorkRow row, WorkLease lease, WorkProgress progress, CancellationToken stop)
    {
        try
        {
            await job;
            await progress.DisposeAsync();
            await work.Update(lease, w => w.State = WorkStates.Done);
        }
        catch (OperationCanceledException)
        {
            // Cancelled, or another worker's: the row says so. Shut down: the next worker starts anew, and nobody is to blame.
            await progress.DisposeAsync();
            if (stop.IsCancellationRequested)
                await work.Release([lease.Token]);
        }
        catch (Exception e)
        {
            await progress.DisposeAsync();
            var expected = e is CannotUseException or IOException or UnauthorizedAccessException or UndecodedException;
            if (!expected)
                LogFailure(e, row.Kind, row.Id);
            await Fail(
                lease,
                expected
                    ? disk.Unnamed(e.Message)
                    : $"The task stopped on a fault of Root Call ({e.GetType().Name}); nothing was half-written. The worker's log has "
                        + "the details."
            );
        }
    }

    private static string Words(TimeSpan time) =>
        time.TotalMinutes >= 1 ? $"{time.TotalMinutes:0.#} minutes" : $"{time.TotalSeconds:0} seconds";

    private Task<bool> Fail(WorkLease lease, string why) => work.Update(lease, w => (w.State, w.Error) = (WorkStates.Failed, why));

    /// <summary>
    /// Ends this process, since a thread that does not stop cannot be ended. Whoever started the worker starts another; the other
    /// tasks in hand are given back first.
    /// </summary>
    private async Task Quit(WorkLease lease)
    {
        LogStuck(lease.Task);
        try
        {
            await work.Release([.. inHand.Keys.Where(t => t != lease.Token)]);
        }
        finally
        {
            Process.GetCurrentProcess().Kill();
        }
    }

    private Task Do(WorkRow row, WorkProgress progress, CancellationToken stop) =>
        row.Kind switch
        {
            "arrive" => arrive.Run(progress, WorkStore.Request<Arrive>(row), stop),
            "search" => search.Run(progress, WorkStore.Request<Search>(row), stop),
            "extract" => extract.Run(progress, WorkStore.Request<Extract>(row), stop),
            "listroot" => list.Run(progress, WorkStore.Request<ListRoot>(row), stop),
            "remember" => remember.Run(progress, WorkStore.Request<Remember>(row), stop),
            "writecopy" => copy.Run(progress, WorkStore.Request<WriteCopy>(row), stop),
            "draw" => frame.Run(progress, WorkStore.Request<Draw>(row), stop),
            "measurecrossing" => crossing.Run(progress, WorkStore.Request<MeasureCrossing>(row), stop),
            "measurelooks" => looks.Run(progress, WorkStore.Request<MeasureLooks>(row), stop),
            "drawmoments" => momentFrames.Run(progress, WorkStore.Request<DrawMoments>(row), stop),
            "makeview" => view.Run(progress, WorkStore.Request<MakeView>(row), stop),
            "drawcrossing" => crossingFrame.Run(progress, WorkStore.Request<DrawCrossing>(row), stop),
            "cross" => cross.Run(progress, WorkStore.Request<Cross>(row), stop),
            "sweepstore" => sweep.Run(progress, stop),
            "pack" => pack.Run(progress, WorkStore.Request<Pack>(row), stop),
            _ => throw new CannotUseException($"This worker knows no task called {row.Kind}; it may be older than the application."),
        };

    [LoggerMessage(LogLevel.Error, "Task {Kind} {Id} failed")]
    private partial void LogFailure(Exception e, string kind, Guid id);

    [LoggerMessage(LogLevel.Information, "No picture of {Path}: {Reason}")]
    private partial void LogNoPicture(string path, string reason);

    [LoggerMessage(LogLevel.Error, "Task {Id} does not stop; this worker ends")]
    private partial void LogStuck(Guid id);
}
