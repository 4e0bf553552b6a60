using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Imaging;
using RootCall.Data.Stores;

namespace RootCall.Worker.Tasks;

/// <summary>Makes a thumbnail. One that cannot be made leaves an empty file, so that nobody asks for it again and again.</summary>
public sealed partial class PictureTask(IThumbnailMaker thumbnails, SceneStore scenes, RootStore roots, ILogger<PictureTask> log)
{
    /// <param name="path">Absolute path of the image, or of the scene that carries it.</param>
    /// <param name="number">The carried image's reference; null when <paramref name="path"/> is the image.</param>
    public async Task Run(string path, Guid? sceneId, int? number, string output, int side, CancellationToken stop)
    {
        if (File.Exists(output))
            return;
        Directory.CreateDirectory(Path.GetDirectoryName(output)!);
        // The image library chooses its writer by the ending.
        var part = Path.ChangeExtension(output, $".{Guid.NewGuid():N}.part.png");
        try
        {
            if (sceneId is { } id && number is { } n)
                await Carried(id, n, part, side, stop);
            else
                thumbnails.Make(
                    roots.Everything.Enter(path) ?? throw new CannotUseException($"“{path}” lies outside the roots."),
                    part,
                    side
                );
            File.Move(part, output, overwrite: true);
        }
        catch (Exception e) when (e is CannotUseException or IOException)
        {
            LogNoPicture(path, e.Message);
            await File.WriteAllBytesAsync(output, [], stop);
        }
        finally
        {
            File.Delete(part);
        }
    }

    private async Task Carried(Guid sceneId, int number, string part, int side, CancellationToken stop)
    {
        var arrival = await scenes.Arrival(sceneId, stop) ?? throw new CannotUseException("The scene is no longer there.");
        var reference = (await scenes.Report(arrival)).Scene.References.Single(r => r.Number == number);
        using var place = Folders.Temporary();
        var file = Path.Combine(place.Path, "carried");
        await using (var to = File.Create(file))
        await using (var from = SceneFormats.Of(arrival.Path).OpenCarried(reference.Carried!))
            await from.CopyToAsync(to, stop);
        thumbnails.Make(file, part, side);
    }

    [LoggerMessage(LogLevel.Information, "No picture of {Path}: {Reason}")]
    private partial void LogNoPicture(string path, string reason);
}
