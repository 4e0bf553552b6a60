using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker;

/// <summary>Puts stranded tasks back into the queue every few seconds, and clears what the dead left now and then.</summary>
public sealed partial class Upkeep(WorkDispatcher work, Leftovers leftovers, ILogger<Upkeep> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(3);
    private const int ClearEvery = 20;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every);
        var turn = 0;
        do
        {
            try
            {
                await work.Sweep(stoppingToken);
                if (turn++ % ClearEvery == 0)
                    await leftovers.Sweep(noUploads: false, stoppingToken);
            }
            catch (Exception e) when (!stoppingToken.IsCancellationRequested)
            {
                LogLater(e.Message);
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    [LoggerMessage(LogLevel.Warning, "The queue could not be looked after and will be again soon: {Reason}")]
    private partial void LogLater(string reason);
}
