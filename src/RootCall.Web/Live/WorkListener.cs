using Microsoft.AspNetCore.SignalR;
using Npgsql;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Live;

/// <summary>Listens to what workers announce in the database and passes it to the open windows.</summary>
internal sealed partial class WorkListener(NpgsqlDataSource source, WorkStore work, IHubContext<WorkHub> windows, ILogger<WorkListener> log)
    : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await Listen(stoppingToken);
            }
            catch (Exception e) when (!stoppingToken.IsCancellationRequested)
            {
                LogLost(e.Message);
                await Task.Delay(TimeSpan.FromSeconds(2), stoppingToken);
            }
        }
    }

    private async Task Listen(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var changed = new Queue<Guid>();
        connection.Notification += (_, n) => changed.Enqueue(Guid.Parse(n.Payload));
        await using (var listen = new NpgsqlCommand($"LISTEN {WorkStore.Channel}", connection))
            await listen.ExecuteNonQueryAsync(stop);
        while (true)
        {
            await connection.WaitAsync(stop);
            while (changed.TryDequeue(out var id))
                if (await work.Find(id, stop) is { } row)
                    await windows.Clients.All.SendAsync("work", WorkItem.Of(row), stop);
        }
    }

    [LoggerMessage(LogLevel.Warning, "The database went away while listening: {Reason}")]
    private partial void LogLost(string reason);
}
