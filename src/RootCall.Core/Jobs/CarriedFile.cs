using RootCall.Core.Files;
using RootCall.Core.Formats;

namespace RootCall.Core.Jobs;

/// <summary>An image that a scene carries, taken out into a file for as long as somebody decodes it.</summary>
public static class CarriedFile
{
    /// <param name="use">Is handed the absolute path.</param>
    /// <exception cref="CannotUseException">The scene has no such reference any more.</exception>
    public static async Task Use(
        ISceneShelf scenes,
        IStorePlaces places,
        Guid sceneId,
        int number,
        Action<string> use,
        CancellationToken stop
    )
    {
        var arrival = await scenes.Demand(sceneId, stop);
        var reference = (await scenes.Reference(arrival.Id, number, stop))?.Reference
            ?? throw new CannotUseException($"The scene has no reference {number} any more.");
        using var place = Folders.Temporary(places.Moment);
        var file = Path.Combine(place.Path, "carried");
        await using (var to = File.Create(file))
        await using (var from = SceneFormats.Of(arrival.Path).OpenCarried(reference.Carried!))
            await from.CopyToAsync(to, stop);
        use(file);
    }
}
