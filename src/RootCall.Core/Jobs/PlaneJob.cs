using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Pixels;

namespace RootCall.Core.Jobs;

/// <summary>Opens an image pixel by pixel. One that cannot be leaves an empty file, so that nobody asks for it again and again.</summary>
public sealed class PlaneJob(IImageDecoder decoder, ISceneShelf scenes, IRoots roots, IStorePlaces places)
{
    /// <summary>Bytes of all that are kept.</summary>
    private const long Kept = 4L << 30;

    /// <param name="path">Absolute path of the image, or of the scene that carries it.</param>
    /// <param name="number">The carried image's reference; null when <paramref name="path"/> is the image.</param>
    /// <returns>Why there is none; null when there is one.</returns>
    public async Task<string?> Run(string path, Guid? sceneId, int? number, string output, CancellationToken stop)
    {
        if (File.Exists(output))
            return null;
        try
        {
            if (sceneId is { } id && number is { } n)
                await CarriedFile.Use(scenes, places, id, n, file => Make(file, output, stop), stop);
            else
                Make(roots.Everything.Enter(path) ?? throw new CannotUseException($"“{path}” lies outside the roots."), output, stop);
            return null;
        }
        catch (Exception e) when (e is CannotUseException or UndecodedException or IOException)
        {
            WholeOrNothing.Cached(output, default);
            return e.Message;
        }
    }

    private void Make(string file, string output, CancellationToken stop)
    {
        WholeOrNothing.CachedPieces(output, to => PixelPlane.Write(to, file, ImageProbe.File(file).Facts, decoder, stop));
        MakeRoom(new FileInfo(output).Directory!);
    }

    /// <summary>What was looked into least lately goes first; it is opened again when somebody wants it.</summary>
    private static void MakeRoom(DirectoryInfo folder)
    {
        var all = 0L;
        foreach (
            var plane in folder
                .EnumerateFiles()
                .OrderByDescending(f => f.LastAccessTimeUtc > f.LastWriteTimeUtc ? f.LastAccessTimeUtc : f.LastWriteTimeUtc)
        )
            if ((all += plane.Length) > Kept)
                plane.Delete();
    }
}
