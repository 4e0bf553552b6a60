using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using RootCall.Core.Jobs;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Web;

/// <summary>Opens the scenes and roots that the settings name, once, when the database is new.</summary>
internal sealed class FirstStart(
    IDbContextFactory<RootCallDb> databases,
    RootStore roots,
    WorkDispatcher work,
    IOptions<DataOptions> options
) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await using var db = await databases.CreateDbContextAsync(stoppingToken);
        if (await db.Work.AnyAsync(stoppingToken) || await db.Scenes.AnyAsync(stoppingToken))
            return;
        foreach (var root in DataOptions.Split(options.Value.FirstRoots))
            await roots.Add(root, DateTimeOffset.UtcNow, stoppingToken);
        foreach (var scene in DataOptions.Split(options.Value.FirstScenes))
        {
            var folder = Path.GetDirectoryName(scene);
            var title = $"{Path.GetFileName(Path.GetDirectoryName(folder))}/{Path.GetFileName(folder)}";
            await work.Start(new Arrive(scene, null, title), $"Open {Path.GetFileName(scene)}", null, stoppingToken);
        }
    }
}
