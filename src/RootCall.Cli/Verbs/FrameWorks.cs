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

    public FrameWorks(IImageDecoder decoder) =>
        Tools = new(decoder, meshes, new RayTracers(Bounds.Default, Environment.ProcessorCount), TextureBytes, moment.Path);

    public FrameTools Tools { get; }

    public void Dispose()
    {
        meshes.Dispose();
        moment.Dispose();
    }
}
