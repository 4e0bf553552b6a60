using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Transfer;

/// <summary>Which image of one scene is which in the other: by name, then by contents (format, size in pixels and bytes).</summary>
internal sealed class ImagePairs
{
    private readonly Dictionary<ReferenceKey, MusteredReference> inA;
    private readonly Dictionary<ReferenceKey, MusteredReference> inB;
    private readonly Dictionary<ReferenceKey, ReferenceKey> pairs = [];
    private readonly MusterReport b;

    public ImagePairs(MusterReport a, MusterReport b)
    {
        this.b = b;
        inA = Images(a);
        inB = Images(b);
        var pairing = new Pairing<MusteredReference>([.. inA.Values], [.. inB.Values], Stem, Contents);
        foreach (var (x, y) in pairing.Pairs) pairs[x.Reference.Key] = y.Reference.Key;
        OnlyA = [.. pairing.OnlyA.Select(Name)];
        OnlyB = [.. pairing.OnlyB.Select(Name)];
        Same = pairing.Pairs.Count;
    }

    public IReadOnlyList<string> OnlyA { get; }

    public IReadOnlyList<string> OnlyB { get; }

    public int Same { get; }

    public bool AreOne(ReferenceKey a, ReferenceKey b) => pairs.TryGetValue(a, out var other) && other == b;

    /// <summary>The path by which the second scene calls an image of the first; null when no file answers for it.</summary>
    public string? CallInB(ReferenceKey a)
    {
        if (pairs.TryGetValue(a, out var known)) return known.Written;
        if (!inA.TryGetValue(a, out var reference) || reference.Resolved is not { } file) return null;
        return Path.GetRelativePath(b.Scene.Folder, file);
    }

    public ReferenceKey KeyInB(ReferenceKey a, string written) => pairs.TryGetValue(a, out var known) ? known : new(ReferenceKind.Image, Path.GetFileName(b.Scene.Path), written);

    public static string NameOf(ReferenceKey key) => WrittenPath.Parse(key.Written).FileName;

    private static Dictionary<ReferenceKey, MusteredReference> Images(MusterReport report) =>
        report.References.Where(r => r.Reference.Kind == ReferenceKind.Image).DistinctBy(r => r.Reference.Key).ToDictionary(r => r.Reference.Key);

    private static string Name(MusteredReference reference) => NameOf(reference.Reference.Key);

    private static string Stem(MusteredReference reference) => FileName.Of(Name(reference)).Stem;

    private static string? Contents(MusteredReference reference) => reference.Facts is { } f && reference.Stamp is { Bytes: > 0 } stamp
        ? $"{f.Format} {f.Width} x {f.Height} {stamp.Bytes}"
        : null;
}
