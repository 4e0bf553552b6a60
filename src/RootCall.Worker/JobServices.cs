using RootCall.Core.Jobs;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Native;

namespace RootCall.Worker;

/// <summary>The jobs, and the stores behind their ports.</summary>
internal static class JobServices
{
    public static IServiceCollection AddJobs(this IServiceCollection services) =>
        services
            .AddPort<ISceneShelf, SceneStore>()
            .AddPort<ILedgers, LedgerStore>()
            .AddPort<IRoots, RootStore>()
            .AddPort<ITreeStore, IndexStore>()
            .AddPort<ISeenFiles, SeenStore>()
            .AddPort<IKnownFiles, KnownFileStore>()
            .AddPort<IHouse, HouseChoices>()
            .AddPort<IPackages, PackageStore>()
            .AddPort<IStorePlaces, DiskStore>()
            .AddPort<IJobQueue, WorkDispatcher>()
            .AddSingleton<IFileLinks, HardLink>()
            .AddSingleton(TimeProvider.System)
            .AddSingleton<Indexes>()
            .AddSingleton<FollowUps>()
            .AddSingleton<ArrivalRecipes>()
            .AddSingleton<SceneReading>()
            .AddSingleton<Intake>()
            .AddSingleton<ArriveJob>()
            .AddSingleton<SearchJob>()
            .AddSingleton<ExtractJob>()
            .AddSingleton<PackJob>()
            .AddSingleton<ListRootJob>()
            .AddSingleton<RememberJob>()
            .AddSingleton<WriteCopyJob>()
            .AddSingleton<PictureJob>();

    private static IServiceCollection AddPort<TPort, TStore>(this IServiceCollection services)
        where TPort : class
        where TStore : class, TPort => services.AddSingleton<TPort>(p => p.GetRequiredService<TStore>());
}
