using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;
using RootCall.Web.Features.Muster;
using static System.FormattableString;

namespace RootCall.Web.Features.Pictures;

/// <summary>An image that another can be held beside.</summary>
/// <param name="Of"><c>candidate-N</c>, or a moment of the scene.</param>
/// <param name="Title">Its file.</param>
/// <param name="About">Where it comes from.</param>
internal sealed record OtherImage(string Of, string Title, string About);

/// <summary>A file that holds an image, and the reference that it answers.</summary>
/// <param name="Path">Null when nothing answers.</param>
internal sealed record ImageSource(string? Path, FileStamp Stamp, MusteredReference Reference)
{
    public bool IsCarried => Reference.Reference.Carried is not null;
}

/// <summary>Images that could stand, or stood, where one stands now: candidates, and what answered at other moments.</summary>
internal sealed class OtherImages(CurrentScenes current)
{
    private const string Candidate = "candidate-";
    private const int MostCandidates = 12;

    public async Task<IEnumerable<OtherImage>> All(Guid id, int number, CancellationToken stop)
    {
        var state = await current.Get(id, stop);
        var now = Of(state, number);
        var others = now
            .Reference.Candidates.Take(MostCandidates)
            .Select(
                (c, i) =>
                    (
                        c.Path,
                        Other: new OtherImage(Invariant($"{Candidate}{i}"), Path.GetFileName(c.Path), $"a candidate in {FolderOf(c.Path)}")
                    )
            )
            .Where(c => c.Path != now.Path)
            .Select(c => c.Other)
            .ToList();
        var moments = new List<(string Word, string About)> { ("arrived", "as it arrived") };
        for (var version = state.Arrival.Version - 1; version > 0; version--)
            moments.Add((Invariant($"version-{version}"), Invariant($"version {version}")));
        foreach (var (word, about) in moments)
            if (await At(id, now, word, stop) is { Path: { } path } then && (path, then.Stamp) != (now.Path, now.Stamp))
                others.Add(new(word, Path.GetFileName(path), about));
        return others;
    }

    /// <param name="of">Null for the one that stands there now.</param>
    /// <exception cref="CannotUseException">There is no such image.</exception>
    public async Task<ImageSource> Find(Guid id, int number, string? of, CancellationToken stop)
    {
        var state = await current.Get(id, stop);
        var now = Of(state, number);
        if (string.IsNullOrEmpty(of))
            return now;
        if (!of.StartsWith(Candidate, StringComparison.Ordinal))
            return await At(id, now, of, stop)
                ?? throw new CannotUseException($"Nothing answered there for {now.Reference.Reference.Written}.");
        var (path, stamp) = PictureEndpoints.Source(now.Reference, int.TryParse(of.AsSpan(Candidate.Length), out var at) ? at : -1, state);
        return new(path, stamp, now.Reference);
    }

    private static string FolderOf(string path) => Path.GetFileName(Path.GetDirectoryName(path)) ?? string.Empty;

    private static ImageSource Of(CurrentState state, int number)
    {
        var reference = MusterEndpoints.Find(state.Report, number);
        var (path, stamp) = PictureEndpoints.Source(reference, null, state);
        return new(path, stamp, reference);
    }

    /// <summary>What answered the same call then; an image that was carried inside then is not opened.</summary>
    private async Task<ImageSource?> At(Guid id, ImageSource now, string word, CancellationToken stop)
    {
        var report = await current.At(SceneMoment.Of(word, id), stop);
        var called = now.Reference.Reference;
        var then = report.References.FirstOrDefault(r => r.Reference.Key == (called.Arrived ?? called.Key))
            ?? report.References.FirstOrDefault(r => r.Reference.Kind == called.Kind && Feeds(r.Reference, called));
        return then is { Reference.Carried: null, Resolved: { } path, Stamp: { } stamp } ? new(path, stamp, then) : null;
    }

    private static bool Feeds(Reference then, Reference now) =>
        then.UsedBy.Any(u => now.UsedBy.Any(o => o.Material == u.Material && o.Input == u.Input));
}
