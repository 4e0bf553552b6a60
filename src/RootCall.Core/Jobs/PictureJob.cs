using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>Makes a thumbnail. One that cannot be made leaves an empty file, so that nobody asks for it again and again.</summary>
public sealed class PictureJob(
    IImageDecoder decoder,
    FileFacts facts,
    IKnownFiles known,
    ISceneShelf scenes,
    IRoots roots,
    IStorePlaces places
)
{
    /// <param name="path">Absolute path of the image, or of the scene that carries it.</param>
    /// <param name="number">The carried image's reference; null when <paramref name="path"/> is the image.</param>
    /// <returns>Why there is no picture; null when there is one.</returns>
    public async Task<string?> Run(string path, Guid? sceneId, int? number, string output, int side, CancellationToken stop)
    {
        if (File.Exists(output))
            return null;
        try
        {
            if (sceneId is { } id && number is { } n)
                await CarriedFile.Use(
                    scenes,
                    places,
                    id,
                    n,
                    file => WholeOrNothing.Cached(output, decoder.Reduce(file, side, stop).Picture),
                    stop
                );
            else
                Outside(path, output, side, stop);
            return null;
        }
        catch (Exception e) when (e is CannotUseException or UndecodedException or IOException)
        {
            WholeOrNothing.Cached(output, default);
            // Whoever musters the scene is to know that it is broken.
            await known.Save(facts, stop);
            return e.Message;
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
}
