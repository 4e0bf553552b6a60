using System.Collections.Immutable;
using RootCall.Core.Imaging;
using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>Facts of a reference's file from an earlier muster.</summary>
/// <param name="Path">Where it was found then.</param>
/// <param name="Hash">SHA-256 in lower-case hex, or null when it was not made.</param>
public sealed record LastSeen(string Path, FileStamp Stamp, int Width, int Height, string? Hash);

/// <summary>Ranks the files of an index as answers to references, with the evidence for each.</summary>
internal sealed class CandidateSearch(RootIndex index, FileFacts facts)
{
    private const int Most = 8;
    private const int Probed = 4;

    /// <summary>Ranks for all references together, since siblings that were found are evidence.</summary>
    /// <returns>For each reference its candidates, best first; empty when there are none.</returns>
    public IReadOnlyDictionary<int, ImmutableArray<Candidate>> Rank(
        IReadOnlyCollection<Reference> unanswered, IReadOnlyDictionary<int, string> answered, Scene scene, IReadOnlyDictionary<ReferenceKey, LastSeen> lastSeen, CancellationToken stop)
    {
        var first = new Dictionary<int, List<Candidate>>(unanswered.Count);
        foreach (var reference in unanswered)
        {
            stop.ThrowIfCancellationRequested();
            first[reference.Number] = [.. ByName(reference, lastSeen.GetValueOrDefault(reference.Key))];
        }

        var siblings = new SiblingFolders(scene, answered, first);
        var ranked = new Dictionary<int, ImmutableArray<Candidate>>(unanswered.Count);
        foreach (var reference in unanswered)
        {
            stop.ThrowIfCancellationRequested();
            var best = first[reference.Number]
                .Select(c => Add(c, siblings.For(reference, Path.GetDirectoryName(c.Path)!)))
                .OrderByDescending(c => c.Score).ThenBy(c => c.Path, StringComparer.Ordinal)
                .Take(Most).ToList();
            for (var i = 0; i < Math.Min(Probed, best.Count); i++) best[i] = WithFacts(best[i], reference, lastSeen.GetValueOrDefault(reference.Key));
            ranked[reference.Number] = [.. best.Where(c => c.Score >= EvidenceWeights.Least).OrderByDescending(c => c.Score).ThenBy(c => c.Path, StringComparer.Ordinal)];
        }

        return ranked;
    }

    private IEnumerable<Candidate> ByName(Reference reference, LastSeen? seen)
    {
        var written = WrittenPath.Parse(reference.Written);
        if (written.FileName.Length == 0) yield break;
        var name = FileName.Of(written.FileName);
        var place = written.Locate(reference.BaseFolder);
        var exact = index.Named(name).ToList();
        foreach (var file in exact.Concat(index.Alike(name).Where(f => f.Name.Folded != name.Folded)))
        {
            if (!Fits(reference.Kind, name, file.Name)) continue;
            var evidence = ImmutableArray.CreateBuilder<Evidence>();
            evidence.AddRange(NameEvidence(written.FileName, name, file));
            if (place is not null && string.Equals(FileName.Fold(place), FileName.Fold(file.Path), StringComparison.Ordinal))
                evidence.Add(new("Stands where it is called, but for the case of the path", EvidenceWeights.PlaceWithoutCase));
            if (Parents(written, file.Path) is > 0 and var parents)
                evidence.Add(new(parents == 1 ? "Its folder has the same name" : $"{parents} folders above it have the same names", parents * EvidenceWeights.ParentFolder));
            if (seen?.Hash is not null && seen.Stamp.Bytes == file.Stamp.Bytes && facts.Hash(file.Path, file.Stamp) == seen.Hash)
                evidence.Add(new("Same contents as last seen", EvidenceWeights.ContentAsLastSeen));
            yield return Scored(new(file.Path, 0, evidence.ToImmutable(), file.Stamp));
        }
    }

    /// <summary>Images answer for images whatever their ending; buffers and libraries keep theirs.</summary>
    private static bool Fits(ReferenceKind kind, FileName asked, FileName file) =>
        asked.Extension == file.Extension || (kind == ReferenceKind.Image && ImageNames.Promised(file.Folded) is not null);

    private static IEnumerable<Evidence> NameEvidence(string asked, FileName name, IndexedFile file)
    {
        var actual = Path.GetFileName(file.Path);
        if (actual == asked)
        {
            yield return new("Exact name", EvidenceWeights.ExactName);
            yield break;
        }

        if (file.Name.Folded == name.Folded)
        {
            yield return new("Same name without case", EvidenceWeights.NameWithoutCase);
            yield break;
        }

        if (file.Name.Stem == name.Stem)
        {
            yield return new($"Same name with another ending, {file.Name.Extension}", EvidenceWeights.OtherEnding);
            yield break;
        }

        if (file.Name.Resolution != name.Resolution)
            yield return new($"Same map at another resolution, {file.Name.Resolution ?? "none named"}", EvidenceWeights.OtherResolutionOrVersion);
        else if (file.Name.RoleToken != name.RoleToken)
            yield return new($"Same role, {file.Name.Role}, spelled another way", EvidenceWeights.OtherRoleSpelling);
        else
            yield return new("Same map at another version", EvidenceWeights.OtherResolutionOrVersion);
        if (file.Name.Extension != name.Extension)
            yield return new($"Another ending, {file.Name.Extension}", EvidenceWeights.OtherEndingPenalty);
    }

    private static int Parents(WrittenPath written, string path)
    {
        var theirs = path.Split('/', StringSplitOptions.RemoveEmptyEntries);
        var agree = 0;
        while (agree < EvidenceWeights.MostParents)
        {
            var (w, t) = (written.Segments.Length - 2 - agree, theirs.Length - 2 - agree);
            if (w < 0 || t < 0 || FileName.Fold(written.Segments[w]) != FileName.Fold(theirs[t])) break;
            agree++;
        }

        return agree;
    }

    private Candidate WithFacts(Candidate candidate, Reference reference, LastSeen? seen)
    {
        if (reference.Kind != ReferenceKind.Image) return candidate;
        var probe = facts.Probe(candidate.Path, candidate.Stamp);
        candidate = candidate with { Facts = probe.Facts, Damage = probe.Damage };
        if (probe.Damage is not null) candidate = Add(candidate, new Evidence($"Damaged: {probe.Damage}", EvidenceWeights.Damaged));
        if (seen is not null && probe.Facts is { } f && f.Width == seen.Width && f.Height == seen.Height)
            candidate = Add(candidate, new Evidence("Pixels as last seen", EvidenceWeights.PixelsAsLastSeen));
        return candidate;
    }

    private static Candidate Add(Candidate candidate, Evidence? evidence) =>
        evidence is null ? candidate : Scored(candidate with { Evidence = candidate.Evidence.Add(evidence) });

    private static Candidate Scored(Candidate candidate) =>
        candidate with { Score = Math.Round(Math.Clamp(candidate.Evidence.Sum(e => e.Weight), 0, 1), 3) };
}
