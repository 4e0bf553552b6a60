using RootCall.Data.Work;

namespace RootCall.Worker;

/// <summary>
/// Takes progress as often as it comes, writes it a few times a second, and holds the task's lease meanwhile. When the lease is
/// lost, or the task was cancelled, the work is stopped.
/// </summary>
public sealed class WorkProgress : IAsyncDisposable
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(250);
    private readonly WorkStore work;
    private readonly WorkLease lease;
    private readonly CancellationTokenSource hold;
    private readonly CancellationTokenSource end = new();
    private readonly Task writing;
    private volatile Step? latest;

    /// <param name="hold">Cancelled when the task is not this worker's any more.</param>
    public WorkProgress(WorkStore work, WorkLease lease, CancellationTokenSource hold)
    {
        (this.work, this.lease, this.hold) = (work, lease, hold);
        writing = Task.Run(Write);
    }

    /// <summary>When something was last reported.</summary>
    public DateTime LastReport { get; private set; } = DateTime.UtcNow;

    /// <param name="phase">What is being done: <c>unpacking</c>, <c>reading</c>, <c>looking in the roots</c>.</param>
    /// <param name="detail">What is in hand, usually a file name.</param>
    public void Report(string phase, string detail = "", long done = 0, long total = 0)
    {
        LastReport = DateTime.UtcNow;
        latest = new(phase, detail, done, total);
    }

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
        Step? written = null;
        var renewed = DateTime.UtcNow;
        while (true)
        {
            var step = latest;
            try
            {
                if (step != written || DateTime.UtcNow - renewed > work.Lease / 5)
                {
                    if (!await work.Renew(lease, step == written ? null : w => step!.Put(w)))
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

    private sealed record Step(string Phase, string Detail, long Done, long Total)
    {
        public void Put(Data.Rows.WorkRow row) => (row.Phase, row.Detail, row.Done, row.Total) = (Phase, Detail, Done, Total);
    }
}
