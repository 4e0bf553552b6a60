using RootCall.Core.Jobs;
using RootCall.Data.Work;

namespace RootCall.Worker;

/// <summary>
/// Takes progress as often as it comes, writes it a few times a second, and holds the task's lease meanwhile. When the lease is
/// lost, or the task was cancelled, the work is stopped.
/// </summary>
public sealed class WorkProgress : IAttempt, IAsyncDisposable
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(250);
    private readonly WorkStore work;
    private readonly WorkLease lease;
    private readonly CancellationTokenSource hold;
    private readonly CancellationTokenSource end = new();
    private readonly Task writing;
    private volatile WorkStep? latest;

    /// <param name="hold">Cancelled when the task is not this worker's any more.</param>
    public WorkProgress(WorkStore work, WorkLease lease, CancellationTokenSource hold)
    {
        (this.work, this.lease, this.hold) = (work, lease, hold);
        writing = Task.Run(Write);
    }

    public Guid Job => lease.Task;

    public Guid Token => lease.Token;

    /// <summary>When something was last reported.</summary>
    public DateTime LastReport { get; private set; } = DateTime.UtcNow;

    /// <inheritdoc/>
    public void Report(string phase, string detail = "", long done = 0, long total = 0)
    {
        LastReport = DateTime.UtcNow;
        latest = new(phase, detail, done, total);
    }

    /// <inheritdoc/>
    public Task Held(Action act, CancellationToken stop) => work.While(lease, act, stop);

    public async ValueTask DisposeAsync()
    {
        if (end.IsCancellationRequested)
            return;
        await end.CancelAsync();
        await writing;
        end.Dispose();
    }

    private async Task Write()
    {
        WorkStep? written = null;
        var renewed = DateTime.UtcNow;
        while (true)
        {
            var step = latest;
            try
            {
                if (step != written || DateTime.UtcNow - renewed > work.Lease / 5)
                {
                    if (!await work.Renew(lease, step == written ? null : step))
                        await hold.CancelAsync();
                    (written, renewed) = (step, DateTime.UtcNow);
                }
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                // The database is away. When it stays away the lease is lost, and whoever takes the task up starts anew.
                if (DateTime.UtcNow - renewed > work.Lease)
                    await hold.CancelAsync();
            }

            if (end.IsCancellationRequested)
                return;
            await Task.Delay(Pause, end.Token).ContinueWith(_ => { }, TaskScheduler.Default);
        }
    }
}
