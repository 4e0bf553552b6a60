using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using Npgsql;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Data;

public static class DataServices
{
    /// <summary>Database, stores and shared caches, for the web process and the workers alike.</summary>
    public static IServiceCollection AddRootCallData(this IServiceCollection services, IConfiguration configuration)
    {
        services.Configure<DataOptions>(configuration.GetSection(DataOptions.Section));
        services.AddSingleton(p => new NpgsqlDataSourceBuilder(p.GetRequiredService<IOptions<DataOptions>>().Value.Database).Build());
        services.AddDbContextFactory<RootCallDb>(
            (p, o) => o.UseNpgsql(p.GetRequiredService<NpgsqlDataSource>()).UseSnakeCaseNamingConvention()
        );
        services.AddSingleton(Bounds.Default);
        services.AddSingleton(p => new FileFacts(p.GetService<IImageDecoder>(), p.GetService<IPictureStore>()));
        services.AddSingleton<DiskStore>();
        services.AddSingleton<SceneStore>();
        services.AddSingleton<SceneRemoval>();
        services.AddSingleton<SceneSearch>();
        services.AddSingleton<LedgerStore>();
        services.AddSingleton<RootStore>();
        services.AddSingleton<IndexStore>();
        services.AddSingleton<KnownFileStore>();
        services.AddSingleton<SeenStore>();
        services.AddSingleton<RuleStore>();
        services.AddSingleton<NameStore>();
        services.AddSingleton<HouseStore>();
        services.AddSingleton<WaiverStore>();
        services.AddSingleton<MarkStore>();
        services.AddSingleton<HouseChoices>();
        services.AddSingleton<PackageStore>();
        services.AddSingleton<WorkStore>();
        services.AddSingleton<WorkDispatcher>();
        services.AddSingleton<Leftovers>();
        return services;
    }
}
