using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Ledger;

namespace RootCall.Web.Features.Audit;

/// <summary>An audit of a scene as it stands.</summary>
internal sealed record AuditState(
    CurrentState Current,
    AuditScene Scene,
    AuditReport Report,
    IReadOnlyDictionary<string, Waiver> Waivers,
    int Measured,
    int ToMeasure
)
{
    /// <summary>Place of the pending entry that fixes each finding, by the finding's key.</summary>
    public IReadOnlyDictionary<string, int> PendingFixes => pending ??= Current.Ledger.PendingFixes();

    private Dictionary<string, int>? pending;
}

/// <summary>
/// Audits scenes from what the workers have read and measured; keeps the last audit of each, so that the next one looks
/// only at what changed.
/// </summary>
internal sealed class Audits(
    CurrentScenes current,
    KnownFileStore known,
    HouseStore house,
    WaiverStore waivers,
    SceneStore scenes,
    NameStore names,
    LedgerStore ledgers,
    WorkStore tasks,
    WorkDispatcher work,
    SceneMemory memory,
    ILogger<Audits> log
)
{
    /// <summary>One scene's last audit. Used by one request at a time.</summary>
    private sealed class Kept
    {
        public AuditMemory Memory { get; } = new();

        /// <summary>What is known of each image the scene looks into; what did not decode is known too.</summary>
        public Dictionary<FileState, PixelStats?> Images { get; } = [];

        /// <summary>Those of them that did decode, as audits are handed them; another object when it is not the same.</summary>
        public IReadOnlyDictionary<FileState, PixelStats> Pixels =>
            pixels ??= Images.Where(i => i.Value is not null).ToDictionary(i => i.Key, i => i.Value!);

        private Dictionary<FileState, PixelStats>? pixels;

        public void Learned() => pixels = null;

        /// <summary>Images that the last muster looks into.</summary>
        public (MusterReport Report, List<FileState> Images)? Wanted { get; set; }

        public DateTime Asked { get; set; }

        public (Destination Destination, string House, int Measured, AuditScene Scene, AuditReport Found)? Last { get; set; }
    }

    public async Task<AuditState> Get(Guid id, CancellationToken stop)
    {
        var revision = await scenes.Revision(id, stop);
        var state = await current.Get(id, stop);
        var destination = await house.DestinationOf(await scenes.Destination(id, stop), stop);
        var audit = await Get(id, state, destination, stop);
        int Open(Severity severity) => audit.Report.Findings.Count(f => f.Severity == severity && !audit.Waivers.ContainsKey(f.Cause.Key));
        await scenes.Audited(id, revision ?? 0, Open(Severity.Blocker), Open(Severity.Warning), stop);
        return audit;
    }

    /// <summary>
    /// Audits scenes that a list shows and that were not audited as they stand, behind whoever asked. Windows that show the list
    /// hear of each that counts otherwise.
    /// </summary>
    public void CountSoon(IReadOnlyList<Guid> ids) => behind.Start(ids, async id =>
        {
            // What a task has in hand is another scene when it ends.
            if (!await tasks.IsOpen<Remember>(id, CancellationToken.None) && !await tasks.IsOpen<Search>(id, CancellationToken.None))
                await Get(id, CancellationToken.None);
        });

    private readonly Behind behind = new(log, "audited for the list");

    private async Task<AuditState> Get(Guid id, CurrentState state, Destination destination, CancellationToken stop)
    {
        using var turn = await memory.Turn<Kept>(id, stop);
        var mine = memory.Get<Kept>(id) ?? new();
        var (wanted, left) = await Measure(id, state, mine, stop);
        var rules = await house.Rules(stop);
        var measured = wanted - left;
        if (
            mine.Last is not { } last
            || !ReferenceEquals(last.Scene.Report, state.Report)
            || !last.Destination.Equals(destination)
            || last.House != rules.Write()
            || last.Measured != measured
        )
        {
            using var making = await memory.Making(stop);
            var scene = new AuditScene(state.Report, mine.Pixels, destination, rules, await names.Read(stop), mine.Last?.Scene);
            // One after the other: the processors that are left answer small requests.
            var found = AuditRun.Make(scene, mine.Memory, threads: 1, stop: stop);
            mine.Last = last = (destination, rules.Write(), measured, scene, found);
            memory.Put(id, mine, SceneMemory.Weight(last.Found, state.Report));
        }

        return new(state, last.Scene, last.Found, await waivers.Read(id, stop), mine.Pixels.Count, left);
    }

    /// <summary>Takes over what workers have measured since, and asks them to when something was left.</summary>
    /// <returns>Images that are looked into, and those of them that nothing is known of yet.</returns>
    private async Task<(int Wanted, int Left)> Measure(Guid id, CurrentState state, Kept mine, CancellationToken stop)
    {
        if (!ReferenceEquals(mine.Wanted?.Report, state.Report))
        {
            mine.Wanted = (state.Report, [.. ImageMeasures.Wanted(state.Report)]);
            // An image that was written over, or is called for no longer, is known by its old state for nothing.
            foreach (var old in mine.Images.Keys.Except(mine.Wanted.Value.Images).ToList())
            {
                mine.Images.Remove(old);
                mine.Learned();
            }
        }

        var wanted = mine.Wanted!.Value.Images;
        var unknown = wanted.Where(w => !mine.Images.ContainsKey(w)).ToList();
        if (unknown.Count == 0)
            return (wanted.Count, 0);
        foreach (var file in await known.Settled(unknown, stop))
        {
            mine.Images[new(file.Path, file.Stamp)] = file.Pixels;
            mine.Learned();
        }

        var left = unknown.Count(w => !mine.Images.ContainsKey(w));
        // Once in a while, and not while the muster's own task is on its way.
        if (
            left > 0
            && DateTime.UtcNow - mine.Asked > TimeSpan.FromMinutes(5)
            && DateTimeOffset.UtcNow - state.Arrival.MusteredAt > TimeSpan.FromSeconds(20)
            && !await tasks.IsOpen<Remember>(id, stop)
        )
        {
            mine.Asked = DateTime.UtcNow;
            await work.Start(new Remember(id), "Measure the images", id, stop);
        }

        return (wanted.Count, left);
    }

    /// <summary>The findings that a request is about.</summary>
    public static IReadOnlyList<Finding> Picked(AuditState state, FixRequest request)
    {
        var keys = request.Keys?.ToHashSet(StringComparer.Ordinal);
        var materials = request.Materials?.ToHashSet(StringComparer.Ordinal);
        return
        [
            .. state.Report.Findings.Where(f =>
                !state.Waivers.ContainsKey(f.Cause.Key)
                && (request.Cause is null || f.Cause.Key == request.Cause)
                && keys?.Contains(f.Key) != false
                && (materials is null || (f.Target.Material is { } of && materials.Contains(of)))
                && (!request.Safe || f.Fixes is [{ IsSafe: true }, ..])
                && !state.PendingFixes.ContainsKey(f.Key)
            ),
        ];
    }

    /// <summary>Puts fixes into the ledger as one entry.</summary>
    public async Task<LedgerView> Fix(Guid id, FixRequest request, CancellationToken stop)
    {
        var state = await Get(id, stop);
        var entry = FixPlan.Make(Picked(state, request)).Entry(DateTimeOffset.UtcNow);
        return await Put(id, state, entry, request.Seen, stop);
    }

    /// <exception cref="CannotUseException">Another window has changed the same things since <paramref name="seen"/>.</exception>
    public async Task<LedgerView> Put(Guid id, AuditState state, LedgerEntry entry, Guid? seen, CancellationToken stop)
    {
        var ledger = await ledgers.Change(id, l => l.PutAfter(seen, entry), stop);
        return LedgerEndpoints.View(ledger, state.Current);
    }
}
