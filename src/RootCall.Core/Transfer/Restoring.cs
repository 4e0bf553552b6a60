using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Core.Transfer;

/// <summary>What brings lost things back from another scene, as one decision.</summary>
/// <param name="Copies">Images that lie where this scene may not look, and where they are to be kept for it.</param>
public sealed record Restoring(LedgerEntry Entry, ImmutableArray<(string From, string To)> Copies)
{
    /// <summary>Makes the copies that are not there yet.</summary>
    public void Keep()
    {
        foreach (var (from, to) in Copies.Where(c => !File.Exists(c.To)))
            WholeOrNothing.File(to, stream =>
            {
                using var source = RegularFile.Open(from);
                source.CopyTo(stream);
            });
    }

    /// <param name="rows">Rows of the comparison, from 1.</param>
    /// <param name="from">What the other scene is called.</param>
    /// <param name="keep">Folder in which this scene's copies are kept.</param>
    /// <exception cref="CannotUseException">Nothing in these rows can be restored.</exception>
    public static Restoring Of(
        MusterReport other,
        MusterReport here,
        IReadOnlyList<int> rows,
        string from,
        RootScope scope,
        string keep,
        DateTimeOffset at
    )
    {
        var picked = TransferCheck.Compare(other, here).Rows.Where((_, i) => rows.Contains(i + 1)).ToList();
        var copies = ImmutableArray.CreateBuilder<(string, string)>();
        var edits = picked.SelectMany(r => r.Restore).SelectMany(e => Reachable(e, other, here, scope, keep, copies)).ToImmutableArray();
        if (edits.IsEmpty)
            throw new CannotUseException(
                picked.FirstOrDefault()?.WhyNot is { } why ? $"It cannot be restored: {why}." : "Nothing in these rows can be restored."
            );
        var families = new TransferReport([.. picked], ImmutableDictionary<string, int>.Empty).Families.ToList();
        var what =
            families.Count == 1
                ? $"{char.ToLowerInvariant(families[0].Sentence[0])}{families[0].Sentence[1..]}"
                : $"{picked.Count} things that did not survive";
        var entry = LedgerEntry.ByHand($"Restore from {from}: {what}", edits, at) with { ProposedBy = "transfer check" };
        return new(entry, copies.ToImmutable());
    }

    /// <summary>An image that lies where this scene may not look is kept for it, and called from there.</summary>
    private static IEnumerable<Edit> Reachable(
        Edit edit,
        MusterReport other,
        MusterReport here,
        RootScope scope,
        string keep,
        ImmutableArray<(string, string)>.Builder copies
    )
    {
        if (edit is not SetImage { To: { } to } image || here.References.Any(r => r.Reference.Key == to.Reference))
            return [edit];
        var file = Path.GetFullPath(Path.Combine(here.Scene.Folder, to.Reference.Written));
        var source = other.References.FirstOrDefault(r => r.Resolved == file)?.Resolved;
        if (source is null || scope.Enter(source) is not null)
            return [edit];
        var written = $"textures/{Path.GetFileName(source)}";
        var kept = Path.Combine(keep, written);
        copies.Add((source, kept));
        var key = ExtractImage.KeyIn(here.Scene, written);
        return [image with { To = to with { Reference = key } }, new RelinkReference(key, null, kept)];
    }
}
