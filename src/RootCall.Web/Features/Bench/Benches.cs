using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Bench;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Web.Features.Audit;

namespace RootCall.Web.Features.Bench;

/// <summary>Sheets of scenes as they stand; what takes long to work out is kept with the audit that it was made from.</summary>
internal sealed class Benches(Audits audits, MarkStore marks, DiskStore disk, SceneMemory memory)
{
    private sealed class Kept
    {
        public required AuditReport Report { get; init; }

        public required ImmutableArray<BenchRow> Rows { get; init; }

        /// <summary>Prints of looks by the names of materials.</summary>
        public required Dictionary<string, MeasuredLook> Looks { get; init; }

        public Dictionary<string, LookFeatures?> Features { get; } = new(StringComparer.Ordinal);

        public Dictionary<string, LookDifference> Moved { get; } = new(StringComparer.Ordinal);

        public (int Known, LikenessOrder Order, ImmutableArray<string> Names)? Likeness { get; set; }
    }

    public async Task<BenchView> View(Guid id, CancellationToken stop)
    {
        var state = await audits.Get(id, stop);
        var kept = await Of(id, state, stop);
        var said = await marks.Read(id, stop);
        var rows = kept.Rows.Select(r => Item(r, said.GetValueOrDefault(r.Name), kept.Looks.GetValueOrDefault(r.Name)?.Print)).ToList();
        return new(rows, rows.Count(r => r.Mark is { IsOld: false }), rows.Count(r => r.Mark is { Kind: MarkKind.Wrong, IsOld: false }));
    }

    private static BenchItem Item(BenchRow r, MaterialMark? mark, string? look)
    {
        var isOld = mark is not null && mark.Look != (look ?? string.Empty);
        return new(
            r.Name,
            r.Title,
            r.Model,
            r.Family,
            r.Worst?.Word(),
            r.Findings,
            r.Word,
            r.Tells,
            r.Change,
            r.Twins,
            r.IsWorn,
            mark is null ? null : new(mark.Kind, mark.Word, mark.At, isOld),
            (mark?.Kind == MarkKind.Wrong && !isOld) || r.Worst > Severity.Note
        );
    }

    /// <exception cref="CannotUseException">One of them is no material, or the word is no word.</exception>
    public async Task Mark(Guid id, MarkThese these, CancellationToken stop)
    {
        if (these.Kind is not { } kind)
        {
            await marks.Remove(id, these.Materials, stop);
            return;
        }

        var word = these.Word?.Trim() ?? string.Empty;
        if (kind == MarkKind.Wrong && word.Length == 0)
            throw new CannotUseException("Say in a word what is not right.");
        if (word.Length > MaterialMark.MostWord)
            throw new CannotUseException($"What is not right is said in {MaterialMark.MostWord} letters at most.");
        var kept = await Of(id, await audits.Get(id, stop), stop);
        var names = kept.Rows.Select(r => r.Name).ToHashSet(StringComparer.Ordinal);
        if (these.Materials.FirstOrDefault(m => !names.Contains(m)) is { } stranger)
            throw new CannotUseException($"The scene has no material {stranger}.");
        var at = DateTimeOffset.UtcNow;
        var said = these
            .Materials.Distinct()
            .Select(m => new MaterialMark(m, kind, word, kept.Looks.GetValueOrDefault(m)?.Print ?? string.Empty, at));
        await marks.Put(id, [.. said], stop);
    }

    /// <summary>Looks in numbers, as far as a worker has measured them.</summary>
    public async Task<LooksView> Looks(Guid id, CancellationToken stop)
    {
        var state = await audits.Get(id, stop);
        var kept = await Of(id, state, stop);
        using var turn = await memory.Turn<Kept>(id, stop);
        foreach (var (name, look) in kept.Looks)
        {
            if (!kept.Features.ContainsKey(name) && Bytes(disk.Look(look.Print)) is { } written)
                kept.Features[name] = LookFeatures.Read(written);
            if (!kept.Moved.ContainsKey(name) && Bytes(disk.Look(look.MovedFrom(state.Current.Arrival.Id))) is { } far)
                kept.Moved[name] = LookDifference.Read(far) ?? new(0, 0, 0);
        }

        if (kept.Likeness?.Known != kept.Features.Count)
        {
            using var making = await memory.Making(stop);
            var known = kept.Features.Where(f => f.Value is not null).OrderBy(f => f.Key, StringComparer.Ordinal).ToList();
            kept.Likeness = (kept.Features.Count, LikenessOrder.Of([.. known.Select(k => k.Value!)]), [.. known.Select(k => k.Key)]);
        }

        var (_, order, names) = kept.Likeness.Value;
        return new(
            order.Order.Select(i => names[i]),
            order.Strangers.Select(i => names[i]),
            kept.Moved.ToDictionary(),
            kept.Looks.Count - kept.Moved.Count
        );
    }

    private static byte[]? Bytes(string path) => File.Exists(path) ? File.ReadAllBytes(path) : null;

    private async Task<Kept> Of(Guid id, AuditState state, CancellationToken stop)
    {
        using var turn = await memory.Turn<Kept>(id, stop);
        if (memory.Get<Kept>(id) is { } known && ReferenceEquals(known.Report, state.Report))
            return known;
        var looks = MeasuredLook.Of(state.Current.Report);
        var kept = new Kept
        {
            Report = state.Report,
            Rows = BenchSheet.Of(state.Scene, state.Report, state.Current.Ledger, f => !state.Waivers.ContainsKey(f.Cause.Key)),
            Looks = looks.GroupBy(l => state.Scene.NameOf(l.Material)).ToDictionary(g => g.Key, g => g.First()),
        };
        memory.Put(id, kept, SceneMemory.Weight(state.Current.Report));
        return kept;
    }
}
