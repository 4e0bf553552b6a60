using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Transfer;

/// <summary>Which images a glTF file can carry inside, and what it would weigh then.</summary>
/// <param name="Numbers">References of the images.</param>
/// <param name="BytesAfter">Bytes of the scene with them inside: as they are in a GLB, as base64 in glTF text.</param>
public sealed record CarryPlan(ImmutableArray<int> Numbers, long BytesBefore, long BytesAfter)
{
    /// <summary>Null where nothing can be carried.</summary>
    public static CarryPlan? Of(MusterReport report)
    {
        var able = report.Scene.Format.Id is "gltf" or "glb" ? report.References.Where(CanCarry).ToList() : [];
        if (able.Count == 0)
            return null;
        var before = report.Scene.Files.Sum(f => f.Bytes);
        var added = able.Sum(r => r.Stamp!.Value.Bytes);
        return new([.. able.Select(r => r.Number)], before, before + (report.Scene.Format.Id == "gltf" ? added * 4 / 3 : added));
    }

    /// <summary>The decision to carry the picked ones.</summary>
    /// <exception cref="CannotUseException">None of them can be.</exception>
    public static LedgerEntry Entry(MusterReport report, IReadOnlyList<int> numbers, DateTimeOffset at)
    {
        var edits = report
            .References.Where(r => numbers.Contains(r.Number) && CanCarry(r))
            .Select(r => (Edit)new CarryImage(r.Reference.Key, r.Resolved!))
            .ToImmutableArray();
        return edits.IsEmpty
            ? throw new CannotUseException("None of these images can be carried inside.")
            : LedgerEntry.ByHand($"Carry {(edits.Length == 1 ? "1 image" : $"{edits.Length} images")} inside the scene", edits, at);
    }

    private static bool CanCarry(MusteredReference reference) =>
        reference is { Resolved: not null, State: ReferenceState.Present, Reference.Kind: ReferenceKind.Image }
        && reference.Facts is { } facts
        && ImageCodecs.Of(facts.Format).InGltf != GltfCarriage.None;
}
