using System.Collections.Concurrent;
using System.Collections.Immutable;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>Statistics of a scene's images, read where they are not known yet.</summary>
/// <param name="Pixels">Statistics of what decoded.</param>
/// <param name="Broken">Paths of files that decoding found broken.</param>
public sealed record ImageMeasures(ImmutableDictionary<FileState, PixelStats> Pixels, ImmutableHashSet<string> Broken)
{
    /// <summary>Everything the audit looks into: what answers, and what lies beside it under the same name.</summary>
    public static IEnumerable<FileState> Wanted(MusterReport report)
    {
        var answered = report.References.Where(r =>
            r
                is {
                    Reference.Kind: Scenes.ReferenceKind.Image,
                    Resolved: not null,
                    Stamp: not null,
                    State: ReferenceState.Present or ReferenceState.Elsewhere
                }
        );
        var names = answered.Select(r => Path.GetFileName(r.Resolved!)).ToHashSet(StringComparer.OrdinalIgnoreCase);
        // An unread roughness tells whether what is read in its stead is its inverse.
        static bool IsRoughness(FileBeside file) =>
            FileName.Of(Path.GetFileName(file.Path)) is { EndsWithRole: true, Role: Role.Roughness };
        return answered
            .Select(r => new FileState(r.Resolved!, r.Stamp!.Value))
            .Concat(
                (report.Beside.IsDefault ? [] : report.Beside)
                    .Where(b => names.Contains(Path.GetFileName(b.Path)) || IsRoughness(b))
                    .Select(b => new FileState(b.Path, b.Stamp))
            )
            .Distinct();
    }

    /// <param name="progress">Called with the images done, their number, and the one in hand.</param>
    public static ImageMeasures Read(
        MusterReport report,
        FileFacts facts,
        Action<int, int, string>? progress = null,
        CancellationToken stop = default
    )
    {
        var wanted = Wanted(report).ToList();
        var read = new ConcurrentBag<KnownFile>();
        var done = 0;
        Parallel.ForEach(
            wanted,
            new ParallelOptions { CancellationToken = stop, MaxDegreeOfParallelism = Environment.ProcessorCount },
            file =>
            {
                if (facts.Decoded(file.Path, file.Stamp, stop) is { } known)
                    read.Add(known);
                progress?.Invoke(Interlocked.Increment(ref done), wanted.Count, file.Path);
            }
        );
        return new(
            read.Where(f => f.Pixels is not null).ToImmutableDictionary(f => new FileState(f.Path, f.Stamp), f => f.Pixels!),
            [.. read.Where(f => f.Undecoded?.Fault == DecodeFault.Damaged).Select(f => f.Path)]
        );
    }
}
