using Microsoft.AspNetCore.SignalR;
using Npgsql;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Live;

/// <summary>Listens to what workers announce in the database and passes it to the open windows.</summary>
internal sealed partial class WorkListener(
    NpgsqlDataSource source,
    WorkStore work,
    FileWatch files,
    IHubContext<WorkHub> windows,
    ILogger<WorkListener> log
) : BackgroundService
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
        var told = new Queue<NpgsqlNotificationEventArgs>();
        connection.Notification += (_, n) => told.Enqueue(n);
        await using (
            var listen = new NpgsqlCommand(
                $"LISTEN {WorkStore.Channel}; LISTEN {SceneEvent.Channel}; LISTEN {KnownFileStore.Channel}",
                connection
            )
        )
            await listen.ExecuteNonQueryAsync(stop);
        while (true)
        {
            await connection.WaitAsync(stop);
            while (told.TryDequeue(out var one))
                if (one.Channel == SceneEvent.Channel)
                    await Tell(SceneEvent.Parse(one.Payload), stop);
                else if (one.Channel == KnownFileStore.Channel)
                    await files.Broke(one.Payload, stop);
                else if (await work.Find(Guid.Parse(one.Payload), stop) is { } row)
                    await windows.Clients.All.SendAsync("work", WorkItem.Of(row), stop);
        }
    }

    private Task Tell(SceneEvent about, CancellationToken stop)
    {
        var whom = about.Scene == SceneEvent.All ? windows.Clients.All : windows.Clients.Groups(WorkHub.GroupOf(about.Scene), WorkHub.List);
        return whom.SendAsync("scene", about.Scene, about.Change.ToString().ToLowerInvariant(), stop);
    }

    [LoggerMessage(LogLevel.Warning, "The database went away while listening: {Reason}")]
    private partial void LogLost(string reason);
}
