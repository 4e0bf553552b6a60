using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>
/// Ranks the files of an index as answers to references, with the evidence for each. Names give the first candidates; then
/// sets and contents that were seen before bring others; last, the headers of the best are looked at.
/// </summary>
internal sealed class CandidateSearch(MusterContext context)
{
    private const int Most = 8;
    private const int Probed = 3;
    private const int MostCompared = 128;

    /// <summary>More files of one size than this are not hashed to find one that was renamed.</summary>
    private const int MostHashed = 64;

    private readonly RootIndex index = context.Index;
    private readonly FileFacts facts = context.Facts;

    /// <summary>Ranks for all references together, since siblings that were found are evidence.</summary>
    /// <param name="all">Every reference of the scene.</param>
    /// <param name="unanswered">Those to find candidates for.</param>
    /// <param name="answered">Paths of the files that answer, by reference.</param>
    /// <returns>For each reference its candidates, best first; empty when there are none.</returns>
    public IReadOnlyDictionary<int, ImmutableArray<Candidate>> Rank(
        IReadOnlyCollection<Asked> all,
        IReadOnlyList<Asked> unanswered,
        IReadOnlyDictionary<int, string> answered
    )
    {
        var byName = new List<Candidate>[unanswered.Count];
        Each(unanswered, (asked, i) => byName[i] = [.. ByName(asked), .. BySight(asked)]);
        var first = unanswered.Select((a, i) => (a.Number, byName[i])).ToDictionary(p => p.Number, p => p.Item2);

        var siblings = new SiblingFolders(all, answered, first);
        var found = new Dictionary<int, string>(answered);
        foreach (var asked in unanswered)
            if (Sorted(first[asked.Number]).FirstOrDefault() is { Score: >= EvidenceWeights.Settles } best)
                found[asked.Number] = best.Path;
        var sets = new SetSearch(index, siblings, found, context.Names);

        var ranked = new ImmutableArray<Candidate>[unanswered.Count];
        Each(unanswered, (asked, i) =>
        {
            // A role is a weaker hint than a name: it is asked only where no name fits.
            var candidates = found.ContainsKey(asked.Number)
                ? byName[i]
                :
                [
                    .. byName[i],
                    .. sets.For(asked).Where(c => byName[i].All(b => Path.GetDirectoryName(b.Path) != Path.GetDirectoryName(c.Path))),
                ];
            var best = Sorted(candidates.Select(c => c.With(siblings.For(asked.Number, Path.GetDirectoryName(c.Path)!))))
                .Take(Most)
                .ToList();
            for (var n = 0; n < Math.Min(Probed, best.Count); n++)
                best[n] = Looked(best[n], asked);
            ranked[i] = [.. Sorted(best.Where(c => c.Score >= EvidenceWeights.Least)).Select(StrongestFirst)];
        });
        return unanswered.Select((a, i) => (a.Number, ranked[i])).ToDictionary(p => p.Number, p => p.Item2);
    }

    private void Each(IReadOnlyList<Asked> references, Action<Asked, int> act) =>
        Parallel.For(
            0,
            references.Count,
            new ParallelOptions { CancellationToken = context.Stop, MaxDegreeOfParallelism = Environment.ProcessorCount },
            i => act(references[i], i)
        );

    private static Candidate StrongestFirst(Candidate candidate)
    {
        for (var i = 1; i < candidate.Evidence.Length; i++)
            if (candidate.Evidence[i].Weight > candidate.Evidence[i - 1].Weight)
                return candidate with { Evidence = [.. candidate.Evidence.OrderByDescending(e => e.Weight)] };
        return candidate;
    }

    private static IEnumerable<Candidate> Sorted(IEnumerable<Candidate> candidates) =>
        candidates.OrderByDescending(c => c.Score).ThenBy(c => c.Path, StringComparer.Ordinal);

    private IEnumerable<Candidate> ByName(Asked asked)
    {
        if (asked.Path.FileName.Length == 0)
            yield break;
        var place = asked.Path.Locate(asked.Reference.BaseFolder);
        var patterns = new HashSet<string>(StringComparer.Ordinal);
        foreach (var file in Alike(asked))
        {
            // Most files that answer are called what is asked for: that name has been taken apart.
            var name = file.Name == asked.Name.Text ? asked.Name : FileName.Of(file.Name, context.Names);
            if (!NameEvidence.Fits(asked.Reference.Kind, asked.Name, name) || NameEvidence.Of(asked.Name, name) is not { } evidence)
                continue;
            var candidate = new Candidate(file.Path, 0, [], file.Stamp);
            if (asked.Name.IsPattern)
            {
                // All tiles together are one answer.
                candidate = candidate with { Pattern = Path.Join(file.Folder, TilePath.Pattern(name, asked.Name)) };
                if (!patterns.Add(candidate.Pattern))
                    continue;
            }

            yield return candidate.With([.. evidence, .. PlaceEvidence(asked, file, place)]);
        }
    }

    private IEnumerable<IndexedFile> Alike(Asked asked)
    {
        // Files of that very name have its core too, so they come but once.
        List<IndexedFile> files = [.. index.Named(asked.Name.Text)];
        foreach (var file in asked.Name.IsPattern ? index.Family(asked.Name, context.Names) : index.Alike(asked.Name, context.Names))
            if (!FileName.Fold(file.Name).Equals(asked.Name.Folded, StringComparison.Ordinal))
                files.Add(file);
        // A name that thousands bear, such as normal.png: only those whose folders agree most are worth comparing.
        return files.Count <= MostCompared || asked.Name.IsPattern
            ? files
            : files.OrderByDescending(f => Parents(asked.Path, f.Folder)).Take(MostCompared);
    }

    private IEnumerable<Evidence> PlaceEvidence(Asked asked, IndexedFile file, string? place)
    {
        if (
            place is not null
            && place.Length == file.Folder.Length + 1 + file.Name.Length
            && string.Equals(FileName.Fold(place), FileName.Fold(file.Path), StringComparison.Ordinal)
        )
            yield return new(
                EvidenceKind.PlaceButForCase,
                "Stands where it is called, but for the case of the path",
                EvidenceWeights.PlaceButForCase
            );
        if (Parents(asked.Path, file.Folder) is > 0 and var parents)
            yield return new(
                EvidenceKind.ParentFolders,
                parents == 1 ? "Its folder has the same name" : $"{parents} folders above it have the same names",
                parents * EvidenceWeights.ParentFolder
            );
        if (context.Approved.FirstOrDefault(r => r.Rewrite(asked.Path) == file.Path) is { } rule)
            yield return new(
                EvidenceKind.ApprovedRule,
                $"A rule approved before leads here: {rule.From} to {rule.To}",
                EvidenceWeights.ApprovedRule
            );
    }

    /// <summary>What answered by itself; what a relink called that was undone since speaks for no file.</summary>
    private LastSeen? LastSeen(Asked asked) =>
        context.LastSeen.GetValueOrDefault(asked.Reference.Key) is { Relinked: false } seen ? seen : null;

    /// <summary>Files that are what was last seen, by contents or by look, whatever they are called now.</summary>
    private IEnumerable<Candidate> BySight(Asked asked)
    {
        if (LastSeen(asked) is not { } seen)
            yield break;
        var named = new HashSet<string>(StringComparer.Ordinal);
        if (seen.Hash is not null)
            foreach (var file in index.OfSize(seen.Stamp.Bytes).Take(MostHashed))
                if (
                    FileName.Fold(file.Name) != asked.Name.Folded
                    && NameEvidence.Of(asked.Name, FileName.Of(file.Name, context.Names)) is null
                    && SameAsSeen(file.Path, file.Stamp, seen) == true
                    && named.Add(file.Path)
                )
                    yield return new Candidate(file.Path, 0, [], file.Stamp).With(Contents(true)!);
        if (seen.Look is not { } look)
            yield break;
        foreach (var (file, bits) in facts.LookAlikes(look))
            if (
                NameEvidence.Of(asked.Name, FileName.Of(Path.GetFileName(file.Path), context.Names)) is null
                && index.Listing(Path.GetDirectoryName(file.Path)!) is { } listing
                && Array.IndexOf(listing.Names, Path.GetFileName(file.Path)) is >= 0 and var at
                && new IndexedFile(listing, at).Stamp == file.Stamp
                && named.Add(file.Path)
            )
                yield return new Candidate(file.Path, 0, [], file.Stamp).With(Alike(bits));
    }

    /// <summary>What the file itself says: whether it is whole, and whether it is what was last seen.</summary>
    private Candidate Looked(Candidate candidate, Asked asked)
    {
        var seen = LastSeen(asked);
        if (seen is not null && !candidate.Evidence.Any(e => e.Kind is EvidenceKind.SameContents or EvidenceKind.LooksAlike))
            candidate = candidate.With(Contents(SameAsSeen(candidate.Path, candidate.Stamp, seen)));
        if (asked.Reference.Kind != ReferenceKind.Image)
            return candidate;
        var probe = facts.Probe(candidate.Path, candidate.Stamp);
        candidate = candidate with { Facts = probe.Facts, Damage = probe.Damage };
        if (probe.Damage is not null)
            return candidate.With(new Evidence(EvidenceKind.Damaged, $"Damaged: {probe.Damage}", EvidenceWeights.Damaged));
        if (seen is null)
            return candidate;
        if (probe.Facts is { } f && f.Width == seen.Width && f.Height == seen.Height)
            candidate = candidate.With(
                new Evidence(EvidenceKind.PixelsAsLastSeen, "Pixels as last seen", EvidenceWeights.PixelsAsLastSeen)
            );
        if (
            seen.Look is not { } look
            || candidate.Evidence.Any(e => e.Kind is EvidenceKind.SameContents or EvidenceKind.LooksAlike)
            || facts.Look(candidate.Path, candidate.Stamp) is not { } now
        )
            return candidate;
        return BitOperations.PopCount(look ^ now) switch
        {
            <= EvidenceWeights.AlikeBits and var bits => candidate.With(Alike(bits)),
            >= EvidenceWeights.DifferentBits => candidate.With(
                new Evidence(EvidenceKind.LooksDifferent, "Looks different from what was last seen", EvidenceWeights.LooksDifferent)
            ),
            _ => candidate,
        };
    }

    private static Evidence Alike(int bits) =>
        new(EvidenceKind.LooksAlike, $"Looks like what was last seen ({bits} of 64 bits differ)", EvidenceWeights.LooksAlike);

    private static Evidence? Contents(bool? same) =>
        same switch
        {
            true => new(EvidenceKind.SameContents, "Same contents as last seen", EvidenceWeights.SameContents),
            false => new(EvidenceKind.OtherContents, "Other contents than last seen", EvidenceWeights.OtherContents),
            null => null,
        };

    private bool? SameAsSeen(string path, FileStamp stamp, LastSeen seen)
    {
        if (seen.Hash is null)
            return null;
        if (stamp.Bytes != seen.Stamp.Bytes)
            return false;
        try
        {
            return facts.Hash(path, stamp) == seen.Hash;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    private static int Parents(WrittenPath written, string folder)
    {
        var agree = 0;
        var end = folder.Length;
        while (agree < EvidenceWeights.MostParents && end > 0)
        {
            var w = written.Segments.Length - 2 - agree;
            var start = folder.LastIndexOf('/', end - 1) + 1;
            if (w < 0 || start == end || !SameFolded(written.Segments[w], folder.AsSpan(start, end - start)))
                break;
            agree++;
            end = start - 1;
        }

        return agree;
    }

    private static bool SameFolded(string a, ReadOnlySpan<char> b) =>
        b.Equals(a, StringComparison.OrdinalIgnoreCase) || FileName.Fold(a) == FileName.Fold(b.ToString());
}
