using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;

namespace RootCall.Core.SendOff;

/// <summary>
/// Writes copies of a scene's own files in which each reference calls its answer from the new place. Only the bytes of
/// paths that would answer differently there are changed.
/// </summary>
public sealed class SceneWriter
{
    private readonly Scene scene;
    private readonly ImmutableArray<string> names;
    private readonly Dictionary<ReferenceKey, string> targets;
    private readonly string folder;
    private readonly IReadOnlyDictionary<ReferenceKey, Answer> answers;

    /// <param name="folder">Absolute folder the copies are meant for; nothing is written to it here.</param>
    /// <param name="targets">Where each answered reference's file lies, as an absolute path; others keep their bytes.</param>
    /// <param name="answers">How paths are written that are not relative.</param>
    public SceneWriter(
        Scene scene,
        string folder,
        IReadOnlyDictionary<ReferenceKey, string> targets,
        IReadOnlyDictionary<ReferenceKey, Answer>? answers = null
    )
    {
        this.answers = answers ?? ImmutableDictionary<ReferenceKey, Answer>.Empty;
        this.scene = scene;
        this.folder = folder;
        names = OwnFileNames.For(scene);
        this.targets = new(targets);
        for (var i = 0; i < scene.Files.Length; i++)
            if (scene.Files[i].CalledBy is { } library)
                this.targets[library] = Path.Combine(folder, names[i]);
    }

    /// <summary>Names of the copies under the folder, in the order of <see cref="Scene.Files"/>.</summary>
    public ImmutableArray<string> Names => names;

    /// <summary>The references whose path changes.</summary>
    public IEnumerable<(Reference Reference, string To)> Changes =>
        scene
            .References.Where(r => targets.ContainsKey(r.Key) && r.Sites.Any(s => NewPath(r, s) is not null))
            .Select(r => (r, targets[r.Key]));

    /// <summary>Writes one own file.</summary>
    public void Write(int file, Stream destination, CancellationToken stop = default)
    {
        var paths = new Dictionary<ReferenceSite, string>();
        foreach (var reference in scene.References)
        foreach (var site in reference.Sites.Where(s => s.File == file))
            if (NewPath(reference, site) is { } path)
                paths[site] = path;
        var edits = paths.Count == 0 ? [] : SceneFormats.Of(scene.Path).PathEdits(scene, file, paths);
        using var source = scene.Files[file].Open();
        SplicedCopy.Write(source, destination, edits, stop);
    }

    /// <summary>The path to write at a site, or null when what stands there answers from the new place too.</summary>
    private string? NewPath(Reference reference, ReferenceSite site)
    {
        if (!targets.TryGetValue(reference.Key, out var target))
            return null;
        var from = Path.GetDirectoryName(Path.Combine(folder, names[site.File]))!;
        var written = WrittenPath.Parse(reference.Written);
        if (answers.GetValueOrDefault(reference.Key) is { Style: { } and not PathStyle.Relative } style)
        {
            var path = style is { Style: PathStyle.RootRelative, Root: { } root } ? Path.GetRelativePath(root, target) : target;
            return path == reference.Written ? null : path;
        }

        if (
            written.Origin == PathOrigin.Relative
            && !reference.Written.Contains('\\', StringComparison.Ordinal)
            && written.Locate(from) == target
        )
            return null;
        return Path.GetRelativePath(from, target);
    }
}
