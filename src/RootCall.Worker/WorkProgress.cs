using RootCall.Data.Work;

namespace RootCall.Worker;

/// <summary>Takes progress as often as it comes and writes it a few times a second.</summary>
public sealed class WorkProgress : IAsyncDisposable
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(250);
    private readonly WorkStore work;
    private readonly Guid id;
    private readonly CancellationTokenSource end = new();
    private readonly Task writing;
    private volatile Step? latest;

    public WorkProgress(WorkStore work, Guid id)
    {
        this.work = work;
        this.id = id;
        writing = Write();
    }

    /// <param name="phase">What is being done: <c>unpacking</c>, <c>reading</c>, <c>looking in the roots</c>.</param>
    /// <param name="detail">What is in hand, usually a file name.</param>
    public void Report(string phase, string detail = "", long done = 0, long total = 0) => latest = new(phase, detail, done, total);

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
        while (true)
        {
            var step = latest;
            if (step is not null && step != written)
            {
                await work.Update(id, w => (w.Phase, w.Detail, w.Done, w.Total) = (step.Phase, step.Detail, step.Done, step.Total));
                written = step;
            }

            if (end.IsCancellationRequested)
                return;
            await Task.Delay(Pause, end.Token).ContinueWith(_ => { }, TaskScheduler.Default);
        }
    }

    private sealed record Step(string Phase, string Detail, long Done, long Total);
}
