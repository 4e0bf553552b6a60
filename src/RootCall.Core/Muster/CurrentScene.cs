using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;

namespace RootCall.Core.Muster;

/// <summary>
/// What a scene calls for as it lies on disk, before any ledger.
/// </summary>
public static class CurrentScene
{
    /// <summary>The roots of a scene: its own folder and those the artist added.</summary>
    public static RootScope Scope(string scene, IEnumerable<string> roots) =>
        new([Path.GetDirectoryName(Path.GetFullPath(scene))!, .. roots]);

    /// <summary>Reads the scene with the relinks of <paramref name="context"/> and musters it.</summary>
    /// <exception cref="CannotUseException">The file is no scene that is read here.</exception>
    public static MusterReport Muster(string path, MusterContext context, Bounds bounds, Action<string>? progress = null)
    {
        var scene = SceneFormats.Read(
            path,
            new(context.Scope, bounds, context.Relinked, progress, context.Stop) { Edited = context.Edited }
        );
        return Mustering.Run(scene, context);
    }

    public static RelinkReference Take(MusteredReference reference) =>
        new(reference.Reference.Key, reference.Resolved, reference.Clear!.Called);
}
