using System.Collections.Concurrent;
using System.Collections.Immutable;
using RootCall.Core.Imaging;
using RootCall.Core.Muster;

namespace RootCall.Core.Audit;

/// <summary>Statistics of a scene's images, read where they are not known yet.</summary>
public static class ImageMeasures
{
    /// <summary>Everything the audit looks into: what answers, and what lies beside it under the same name.</summary>
    public static IEnumerable<(string Path, FileStamp Stamp)> Wanted(MusterReport report)
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
        return answered
            .Select(r => (r.Resolved!, r.Stamp!.Value))
            .Concat(
                (report.Beside.IsDefault ? [] : report.Beside)
                    .Where(b => names.Contains(Path.GetFileName(b.Path)))
                    .Select(b => (b.Path, b.Stamp))
            )
            .DistinctBy(f => f.Item1);
    }

    /// <param name="progress">Called with the images done, their number, and the one in hand.</param>
    public static IReadOnlyDictionary<string, PixelStats> Read(
        MusterReport report,
        FileFacts facts,
        Action<int, int, string>? progress = null,
        CancellationToken stop = default
    )
    {
        var wanted = Wanted(report).ToList();
        var read = new ConcurrentDictionary<string, PixelStats>(StringComparer.Ordinal);
        var done = 0;
        Parallel.ForEach(
            wanted,
            new ParallelOptions { CancellationToken = stop, MaxDegreeOfParallelism = Environment.ProcessorCount },
            file =>
            {
                if (facts.Pixels(file.Path, file.Stamp) is { } stats)
                    read[file.Path] = stats;
                progress?.Invoke(Interlocked.Increment(ref done), wanted.Count, file.Path);
            }
        );
        return read;
    }

    /// <summary>Only what is known already.</summary>
    public static IReadOnlyDictionary<string, PixelStats> Known(MusterReport report, FileFacts facts) =>
        Wanted(report)
            .Select(f => (f.Path, Stats: facts.KnownPixels(f.Path, f.Stamp)))
            .Where(f => f.Stats is not null)
            .ToImmutableDictionary(f => f.Path, f => f.Stats!);
}
