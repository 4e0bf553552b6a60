using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.SendOff;

/// <summary>What a relinked copy wrote.</summary>
/// <param name="Written">Absolute paths.</param>
/// <param name="Changed">References whose path was rewritten, with the file that answers.</param>
/// <param name="Left">References that do not answer.</param>
public sealed record RelinkResult(
    ImmutableArray<string> Written,
    ImmutableArray<(MusteredReference Reference, string To)> Changed,
    ImmutableArray<MusteredReference> Left
)
{
    /// <summary>The same in the numbers of the scene as it was before it was made writable.</summary>
    public RelinkResult NumberedAs(MusterReport before)
    {
        var byFile = before.References.Where(r => r.Resolved is not null).ToLookup(r => r.Resolved!, StringComparer.Ordinal);
        var byKey = before.References.Select(r => r.Reference.Key).ToHashSet();
        var renumbered = Changed
            .SelectMany(c =>
                byKey.Contains(c.Reference.Reference.Key) || !byFile.Contains(c.To) ? [c] : byFile[c.To].Select(r => (r, c.To))
            )
            .ToImmutableArray();
        return this with { Changed = renumbered, Left = [.. before.References.Where(r => !r.State.Answers())] };
    }
}

/// <summary>
/// Writes the scene's own files, and no images or buffers, into another folder from where every answered reference
/// resolves.
/// </summary>
public static class RelinkedCopy
{
    /// <param name="answers">How paths are written that are not relative to the scene.</param>
    /// <param name="meantFor">
    /// The folder that the copy will be put into, from where paths are written; null for where it is written.
    /// </param>
    /// <exception cref="CannotUseException">The folder is the scene's own, or one of the files is already there.</exception>
    public static RelinkResult Write(
        MusterReport report,
        string folder,
        IReadOnlyDictionary<ReferenceKey, Answer>? answers = null,
        string? meantFor = null,
        CancellationToken stop = default
    )
    {
        var real = RootScope.RealPath(folder);
        if (File.Exists(real))
            throw new CannotUseException($"“{folder}” is a file; a folder is needed to write into.");
        var writer = new SceneWriter(
            report.Scene,
            meantFor ?? real,
            report.References.Where(r => r.Resolved is not null).ToDictionary(r => r.Reference.Key, r => r.Called!),
            answers
        );
        var written = writer.Names.Select(n => Path.Combine(real, n)).ToImmutableArray();
        if (written.FirstOrDefault(File.Exists) is { } there)
            throw new CannotUseException($"“{there}” is already there; nothing that exists is written over. Name another folder.");
        for (var i = 0; i < written.Length; i++)
            WholeOrNothing.File(written[i], stream => writer.Write(i, stream, stop));

        var byKey = report.References.ToDictionary(r => r.Reference.Key);
        return new(
            written,
            [.. writer.Changes.Select(c => (byKey[c.Reference.Key], c.To))],
            [.. report.References.Where(r => !r.State.Answers())]
        );
    }
}
