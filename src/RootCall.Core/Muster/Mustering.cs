using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Imaging;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Muster;

/// <summary>Where a muster looks and what it knows.</summary>
/// <param name="Scope">The roots, the scene's own folder among them.</param>
/// <param name="Index">The files under those roots.</param>
public sealed record MusterContext(RootScope Scope, RootIndex Index, FileFacts Facts)
{
    /// <summary>Facts of an earlier muster, by reference.</summary>
    public IReadOnlyDictionary<ReferenceKey, LastSeen> LastSeen { get; init; } = ImmutableDictionary<ReferenceKey, LastSeen>.Empty;

    /// <summary>What the ledger relinked.</summary>
    public IReadOnlyDictionary<ReferenceKey, string> Relinked { get; init; } = ImmutableDictionary<ReferenceKey, string>.Empty;

    /// <summary>Copies of own files that edits of the ledger have changed, by the path of the file.</summary>
    public IReadOnlyDictionary<string, string> Edited { get; init; } = ImmutableDictionary<string, string>.Empty;

    /// <summary>Rules that were approved for these roots before.</summary>
    public IReadOnlyList<PathRewrite> Approved { get; init; } = [];

    /// <summary>Files beside those that answer are looked at too.</summary>
    public bool LooksBeside { get; init; } = true;

    public NameDictionary Names { get; init; } = NameDictionary.Standard;

    /// <summary>Called with the references done and their number in all.</summary>
    public Action<int, int>? Progress { get; init; }

    public CancellationToken Stop { get; init; }
}

/// <summary>Finds for every reference of a scene whether it answers, and what could answer in its stead.</summary>
public static class Mustering
{
    /// <param name="before">
    /// The muster of an earlier state of the scene: only references that are new, or that are answered by another file
    /// now, are looked at.
    /// </param>
    public static MusterReport Run(Scene scene, MusterContext context, MusterReport? before = null)
    {
        if (before is not null && before.Scene.References == scene.References && ReferenceEquals(before.Scene.Answers, scene.Answers))
            return before with { Scene = scene };
        var known = before is null ? null : before.References.DistinctBy(r => r.Reference.Key).ToDictionary(r => r.Reference.Key);
        MusteredReference? Known(Reference reference) =>
            known?.GetValueOrDefault(reference.Key) is { } there
            && there.Reference.Carried == reference.Carried
            && there.Reference.BaseFolder == reference.BaseFolder
            && before!.Scene.Answers.GetValueOrDefault(reference.Key)?.File == scene.Answers.GetValueOrDefault(reference.Key)?.File
                ? ReferenceEquals(there.Reference, reference)
                    ? there
                    : there with
                    {
                        Reference = reference,
                    }
                : null;
        var looked = new MusteredReference[scene.References.Length];
        var door = new RootDoor(context.Scope);
        var done = 0;
        Parallel.For(
            0,
            looked.Length,
            new ParallelOptions { CancellationToken = context.Stop, MaxDegreeOfParallelism = Environment.ProcessorCount },
            i =>
            {
                looked[i] = Known(scene.References[i]) ?? Look(scene, scene.References[i], context, door);
                var n = Interlocked.Increment(ref done);
                if ((n & 0xFF) == 0)
                    context.Progress?.Invoke(n, looked.Length);
            }
        );

        var ranked = Ranked(looked, context);
        // As it was, and so is what shows between references.
        if (
            before is not null
            && ranked.Count == 0
            && !context.LooksBeside
            && looked.AsSpan().SequenceEqual(before.References.AsSpan(), ReferenceEqualityComparer.Instance)
        )
            return before with { Scene = scene };
        var settled = looked.Select(l => ranked.TryGetValue(l.Number, out var candidates) ? Settle(l, candidates, context) : l);
        var references = ClashFlags.Put([.. settled], context.Facts);
        return new(scene, references, context.Index.Notes)
        {
            Beside = context.LooksBeside ? BesideSearch.Of(scene, references, context) : before?.Beside ?? [],
        };
    }

    /// <summary>What could answer those that nothing answers and no candidate is known for, by number.</summary>
    private static IReadOnlyDictionary<int, ImmutableArray<Candidate>> Ranked(MusteredReference[] looked, MusterContext context)
    {
        bool IsOpen(MusteredReference l) =>
            l.Candidates.IsEmpty && l.Resolved is null && l.State is not (ReferenceState.Embedded or ReferenceState.Damaged);
        if (context.Index.Count == 0 || !looked.Any(IsOpen))
            return ImmutableDictionary<int, ImmutableArray<Candidate>>.Empty;
        var asked = looked.Select(l => new Asked(l.Reference, context.Names)).ToArray();
        var unanswered = asked.Where((_, i) => IsOpen(looked[i])).ToList();
        var answered = looked.Where(l => l.Resolved is not null).ToDictionary(l => l.Number, l => l.Resolved!);
        return new CandidateSearch(context).Rank(asked, unanswered, answered);
    }

    /// <summary>
    /// The report after the ledger's relinks: only the references they name are looked at again. Flags of the path they
    /// were called by are gone with that path.
    /// </summary>
    public static MusterReport Relink(
        MusterReport arrived,
        IReadOnlyDictionary<ReferenceKey, string> relinks,
        RootScope scope,
        FileFacts facts
    )
    {
        if (relinks.Count == 0)
            return arrived;
        var door = new RootDoor(scope);
        var changed = arrived.References.Select(r =>
            relinks.TryGetValue(r.Reference.Key, out var to) ? Answer(r.Reference, to, door, scope, facts, ReferenceFlags.None) ?? r : r
        );
        return arrived with { References = ClashFlags.Put([.. changed], facts) };
    }

    /// <summary>The report after images were decoded: those that were found broken are damaged.</summary>
    /// <param name="only">Absolute paths that are asked for; null for all.</param>
    public static MusterReport Judge(MusterReport report, FileFacts facts, IReadOnlySet<string>? only = null) =>
        report with
        {
            References =
            [
                .. report.References.Select(r =>
                    r is { Reference.Kind: ReferenceKind.Image, Damage: null, Resolved: { } path, Stamp: { } stamp }
                    && only?.Contains(path) != false
                    && facts.Probe(path, stamp).Damage is { } damage
                        ? r with
                        {
                            State = ReferenceState.Damaged,
                            Damage = damage,
                        }
                        : r
                ),
            ],
        };

    /// <summary>The report after files changed on disk: those references are looked at again and flagged.</summary>
    /// <param name="changed">Absolute paths.</param>
    public static MusterReport Again(MusterReport report, IReadOnlySet<string> changed, RootScope scope, FileFacts facts)
    {
        if (!report.References.Any(r => r.Resolved is not null && changed.Contains(r.Resolved)))
            return report;
        var door = new RootDoor(scope);
        return report with
        {
            References =
            [
                .. report.References.Select(r =>
                    r.Resolved is null || !changed.Contains(r.Resolved) ? r
                    : Answer(r.Reference, r.Called!, door, scope, facts, r.Flags) is { } now
                        ? now.Stamp == r.Stamp ? r
                            : now with { Flags = r.Flags | ReferenceFlags.Changed }
                    : r with { State = ReferenceState.Missing, Resolved = null, Stamp = null, Facts = null, Damage = null }
                ),
            ],
        };
    }

    private static MusteredReference Look(Scene scene, Reference reference, MusterContext context, RootDoor door)
    {
        if (reference.Carried is { } carried)
            return Carried(scene, reference, carried);
        var written = WrittenPath.Parse(reference.Written);
        var flags = PathFlags(written, context.Scope);
        var relinked = scene.Answers.GetValueOrDefault(reference.Key)?.File ?? context.Relinked.GetValueOrDefault(reference.Key);
        if (relinked is not null && Answer(reference, relinked, door, context.Scope, context.Facts, ReferenceFlags.None) is { } answer)
            return Seen(answer, context);

        var place = written.Locate(reference.BaseFolder);
        var none = new MusteredReference(reference, ReferenceState.Missing, flags, null, null, null, null, []);
        // An own file that an edit made: it lies in the store until the scene is written.
        if (place is not null && context.Edited.TryGetValue(place, out var made) && !File.Exists(place))
            return none with { State = ReferenceState.Present, Resolved = made, Stamp = FileFacts.Stamp(made) };
        var entered = place is null ? null : door.Enter(place);
        var outside = place is not null && entered is null;
        var found = entered is null ? null : Answer(reference, place!, door, context.Scope, context.Facts, flags, entered);
        if (found is null && reference.AlsoWritten is { } second && WrittenPath.Parse(second).Locate(reference.BaseFolder) is { } other)
            found = Answer(reference, other, door, context.Scope, context.Facts, flags | ReferenceFlags.Absolute);
        if (found is null)
            return outside ? none with { State = ReferenceState.Outside } : none;
        return Seen(found, context);
    }

    private static MusteredReference Seen(MusteredReference found, MusterContext context) =>
        context.LastSeen.TryGetValue(found.Reference.Key, out var seen) && seen.Path == found.Resolved && seen.Stamp != found.Stamp
            ? found with
            {
                Flags = found.Flags | ReferenceFlags.Changed,
            }
            : found;

    /// <summary>The reference answered by that file: present or damaged; null when no file is there or it leads out of the roots.</summary>
    private static MusteredReference? Answer(
        Reference reference,
        string path,
        RootDoor door,
        RootScope scope,
        FileFacts facts,
        ReferenceFlags flags,
        (string Real, FileStamp? Stamp)? entered = null
    )
    {
        if (entered?.Stamp is null && TilePath.IsTiled(path) && !File.Exists(path) && TilePath.Files(path, scope) is [var first, ..] tiles)
            return Answer(reference, first, door, scope, facts, flags) is { } answer ? answer with { Tiles = tiles, Pattern = path } : null;
        if ((entered ?? door.Enter(path)) is not ({ } real, { } stamp))
            return null;
        if (StandIns.Is(real))
            flags |= ReferenceFlags.StandIn;
        var probe = reference.Kind == ReferenceKind.Image ? facts.Probe(real, stamp) : OtherFile(reference, stamp);
        var state = probe.Damage is null ? ReferenceState.Present : ReferenceState.Damaged;
        return new(reference, state, flags, real, stamp, probe.Facts, probe.Damage, []);
    }

    private static ProbeResult OtherFile(Reference reference, FileStamp stamp) =>
        new(
            null,
            stamp.Bytes < reference.ExpectedBytes
                ? Invariant($"has {stamp.Bytes:N0} bytes; the scene needs {reference.ExpectedBytes:N0}")
                : null
        );

    private static MusteredReference Carried(Scene scene, Reference reference, CarriedData carried)
    {
        var stamp = new FileStamp(carried.Length, default);
        var result = new MusteredReference(reference, ReferenceState.Embedded, ReferenceFlags.None, null, stamp, null, null, []);
        if (carried.File.Length == 0)
            return result; // In an outside buffer, which has a reference of its own.
        try
        {
            using var stream = SceneFormats.Of(scene.Path).OpenCarried(carried);
            var probe = ImageProbe.Stream(stream, null);
            return result with
            {
                Facts = probe.Facts,
                Damage = probe.Damage,
                State = probe.Damage is null ? ReferenceState.Embedded : ReferenceState.Damaged,
            };
        }
        catch (Exception e) when (e is CannotUseException or IOException)
        {
            return result with { State = ReferenceState.Damaged, Damage = e.Message };
        }
    }

    private static MusteredReference Settle(MusteredReference looked, ImmutableArray<Candidate> candidates, MusterContext context)
    {
        if (candidates.IsEmpty)
            return looked;
        var first = candidates[0];
        // A copy with the same contents is no rival: whichever is taken, the picture is the same.
        var rival = candidates
            .Skip(1)
            .TakeWhile(c => first.Score - c.Score < EvidenceWeights.Margin)
            .FirstOrDefault(c => first.Pattern is not null || !context.Facts.SameContents(first.Path, first.Stamp, c.Path, c.Stamp));
        // Another colour, an older state or other contents are another picture, unless the picture itself was recognised.
        var other =
            first.Evidence.Any(e => e.Kind is EvidenceKind.OtherVariant or EvidenceKind.OlderVersion or EvidenceKind.OtherContents)
            && !first.Evidence.Any(e => e.Kind is EvidenceKind.SameContents or EvidenceKind.LooksAlike);
        var clear = rival is null && !other && first.Score >= EvidenceWeights.Settles && first.Damage is null;
        return looked with
        {
            State = clear ? ReferenceState.Elsewhere : ReferenceState.Contested,
            Candidates = candidates,
            Flags = looked.Flags | CandidateFlags(first),
        };
    }

    private static ReferenceFlags CandidateFlags(Candidate best)
    {
        var flags = ReferenceFlags.None;
        foreach (var evidence in best.Evidence)
            flags |= evidence.Kind switch
            {
                EvidenceKind.Case or EvidenceKind.PlaceButForCase => ReferenceFlags.CaseDiffers,
                EvidenceKind.OtherResolution => ReferenceFlags.OtherResolution,
                _ => ReferenceFlags.None,
            };
        return flags;
    }

    private static ReferenceFlags PathFlags(WrittenPath written, RootScope scope)
    {
        var flags = written.Origin switch
        {
            PathOrigin.Absolute => ReferenceFlags.Absolute,
            PathOrigin.Foreign => ReferenceFlags.Absolute | ReferenceFlags.ForeignPath,
            PathOrigin.Remote => ReferenceFlags.Remote,
            _ => ReferenceFlags.None,
        };
        if (scope.Below(written.Written) is { } below ? WrittenPath.Parse(below).IsTransient : written.IsTransient)
            flags |= ReferenceFlags.TransientPlace;
        if (!written.IsPortable)
            flags |= ReferenceFlags.NotPortable;
        return flags;
    }
}
