using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Data.Stores;

namespace RootCall.Worker.Tasks;

/// <summary>Makes a thumbnail. One that cannot be made leaves an empty file, so that nobody asks for it again and again.</summary>
public sealed partial class PictureTask(
    IImageDecoder decoder,
    FileFacts facts,
    SceneStore scenes,
    RootStore roots,
    DiskStore disk,
    ILogger<PictureTask> log
)
{
    /// <param name="path">Absolute path of the image, or of the scene that carries it.</param>
    /// <param name="number">The carried image's reference; null when <paramref name="path"/> is the image.</param>
    public async Task Run(string path, Guid? sceneId, int? number, string output, int side, CancellationToken stop)
    {
        if (File.Exists(output))
            return;
        try
        {
            if (sceneId is { } id && number is { } n)
                await Carried(id, n, output, side, stop);
            else
                Outside(path, output, side, stop);
        }
        catch (Exception e) when (e is CannotUseException or UndecodedException or IOException)
        {
            LogNoPicture(path, e.Message);
            WholeOrNothing.Cached(output, default);
        }
    }

    private void Outside(string path, string output, int side, CancellationToken stop)
    {
        var real = roots.Everything.Enter(path) ?? throw new CannotUseException($"“{path}” lies outside the roots.");
        // What is decoded for a list is measured and known by its look as well.
        if (side == IPictureStore.Side && FileFacts.Stamp(real) is { } stamp)
        {
            if (facts.Decoded(real, stamp, stop)?.Undecoded is { } undecoded)
                throw new UndecodedException(undecoded);
            if (File.Exists(output))
                return;
        }

        WholeOrNothing.Cached(output, decoder.Reduce(real, side, stop).Picture);
    }

    private async Task Carried(Guid sceneId, int number, string output, int side, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(sceneId, stop) ?? throw new CannotUseException("The scene is no longer there.");
        var reference = (await scenes.Reference(arrival, number, stop))?.Reference
            ?? throw new CannotUseException($"The scene has no reference {number} any more.");
        using var place = Folders.Temporary(disk.Moment);
        var file = Path.Combine(place.Path, "carried");
        await using (var to = File.Create(file))
        await using (var from = SceneFormats.Of(arrival.Path).OpenCarried(reference.Carried!))
            await from.CopyToAsync(to, stop);
        WholeOrNothing.Cached(output, decoder.Reduce(file, side, stop).Picture);
    }

    [LoggerMessage(LogLevel.Information, "No picture of {Path}: {Reason}")]
    private partial void LogNoPicture(string path, string reason);
}
