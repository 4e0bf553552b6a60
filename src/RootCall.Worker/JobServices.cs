using Microsoft.Extensions.Options;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Jobs;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Viewing;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Native;

namespace RootCall.Worker;

/// <summary>The jobs, and the stores behind their ports.</summary>
internal static class JobServices
{
    /// <summary>Pixels of an image along its longer side that the largest swatch shows.</summary>
    private const int TextureSide = 512;

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
            .AddSingleton<StoreSweep>()
            .AddSingleton(TimeProvider.System)
            .AddSingleton<Indexes>()
            .AddSingleton<FollowUps>()
            .AddSingleton<ArrivalRecipes>()
            .AddSingleton<SceneReading>()
            .AddSingleton<SceneCrossing>()
            .AddSingleton<Intake>()
            .AddSingleton<ArriveJob>()
            .AddSingleton<SearchJob>()
            .AddSingleton<ExtractJob>()
            .AddSingleton<PackJob>()
            .AddSingleton<ListRootJob>()
            .AddSingleton<RememberJob>()
            .AddSingleton<WriteCopyJob>()
            .AddSingleton<PictureJob>()
            .AddSingleton<PlaneJob>()
            .AddSingleton<SwatchJob>()
            .AddSingleton<FrameJob>()
            .AddSingleton<CrossingFrameJob>()
            .AddSingleton<MomentFramesJob>()
            .AddSingleton<ViewJob>()
            .AddSingleton<MeasureCrossingJob>()
            .AddSingleton<MeasureLooksJob>()
            .AddSingleton<CrossJob>()
            .AddSingleton(Tools)
            .AddSingleton(p => new TextureCache(
                p.GetRequiredService<IImageDecoder>(),
                p.GetRequiredService<IOptions<DataOptions>>().Value.TextureMegabytes * 1_000_000L,
                TextureSide,
                p.GetRequiredService<ChosenColours>().House
            ))
            .AddSingleton(Colours);

    private static FrameTools Tools(IServiceProvider p)
    {
        var bounds = p.GetRequiredService<Bounds>();
        return new(
            p.GetRequiredService<IImageDecoder>(),
            new MeshDecoder(bounds),
            new RayTracers(bounds, Environment.ProcessorCount),
            p.GetRequiredService<IOptions<DataOptions>>().Value.TextureMegabytes * 1_000_000L,
            p.GetRequiredService<IStorePlaces>().Moment
        )
        {
            House = p.GetRequiredService<ChosenColours>().House,
        };
    }

    /// <summary>Read once: another config, or a change in it, is taken at the next start.</summary>
    private static ChosenColours Colours(IServiceProvider p) =>
        ChosenColours.Of(p.GetRequiredService<IOptions<DataOptions>>().Value.Colours, () =>
            new ColourEngine(p.GetRequiredService<Bounds>())
        );

    private static IServiceCollection AddPort<TPort, TStore>(this IServiceCollection services)
        where TPort : class
        where TStore : class, TPort => services.AddSingleton<TPort>(p => p.GetRequiredService<TStore>());
}
