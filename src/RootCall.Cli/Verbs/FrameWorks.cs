using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Viewing;
using RootCall.Native;

namespace RootCall.Cli.Verbs;

/// <summary>What frames are drawn with on the command line.</summary>
internal sealed class FrameWorks : IDisposable
{
    /// <summary>Textures that one call keeps.</summary>
    public const long TextureBytes = 1L << 30;

    private readonly MeshDecoder meshes = new(Bounds.Default);
    private readonly Folders.TemporaryFolder moment = Folders.Temporary();

    private readonly ColourEngine colours = new(Bounds.Default);

    /// <param name="config">Of OpenColorIO; null for none.</param>
    /// <param name="view">One of its views; null for its own choice.</param>
    /// <exception cref="CannotUseException">The config cannot be used.</exception>
    public FrameWorks(IImageDecoder decoder, string? config, string? view)
    {
        if (view is not null && config is null)
            throw new CannotUseException("A view is one of a config: --ocio says which.");
        Tools = new(decoder, meshes, new RayTracers(Bounds.Default, Environment.ProcessorCount), TextureBytes, moment.Path)
        {
            House = config is null ? null : new(colours, Path.GetFullPath(config), view ?? string.Empty, CancellationToken.None),
        };
    }

    public FrameTools Tools { get; }

    public void Dispose()
    {
        colours.Dispose();
        meshes.Dispose();
        moment.Dispose();
    }
}
