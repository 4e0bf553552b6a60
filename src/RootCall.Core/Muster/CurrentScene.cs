using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>
/// Arrived scene plus relinks. A relinked material library brings references of its own, so reading and mustering take
/// turns until nothing new turns up.
/// </summary>
public static class CurrentScene
{
    /// <summary>The roots of a scene: its own folder and those the artist added.</summary>
    public static RootScope Scope(string scene, IEnumerable<string> roots) => new([Path.GetDirectoryName(Path.GetFullPath(scene))!, .. roots]);

    /// <summary>Reads the scene with the relinks of <paramref name="context"/> and musters it.</summary>
    /// <exception cref="CannotUseException">The file is no scene that is read here.</exception>
    public static MusterReport Muster(string path, MusterContext context, Bounds bounds, Action<string>? progress = null)
    {
        var scene = SceneFormats.Read(path, new(context.Scope, bounds, context.Relinked, progress, context.Stop) { Edited = context.Edited });
        return Mustering.Run(scene, context);
    }

    /// <summary>Takes every clear candidate, libraries first, and leaves the rest as it is.</summary>
    /// <returns>The report with those relinks in place, and the edits that made them.</returns>
    public static (MusterReport Report, ImmutableArray<Edit> Edits) TakeClear(MusterReport report, MusterContext context, Bounds bounds)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        var relinked = context.Relinked.ToImmutableDictionary();
        while (true)
        {
            var taken = report.References.Where(r => r.Clear is not null).Select(Take).ToList();
            if (taken.Count == 0) return (report, edits.ToImmutable());
            edits.AddRange(taken);
            relinked = relinked.SetItems(taken.Select(t => KeyValuePair.Create(t.Reference, t.To!)));
            var ownFiles = taken.Any(t => t.Reference.Kind.IsOwnFile());
            report = ownFiles
                ? Muster(report.Scene.Path, context with { Relinked = relinked }, bounds)
                : Mustering.Relink(report, relinked, context.Scope, context.Facts);
        }
    }

    public static RelinkReference Take(MusteredReference reference) => new(reference.Reference.Key, reference.Resolved, reference.Clear!.Called);
}
