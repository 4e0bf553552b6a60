using System.Security.Cryptography;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Transfer;

/// <summary>Which image of one scene is which in the other: by name, then by contents.</summary>
internal sealed class ImagePairs
{
    private readonly Dictionary<ReferenceKey, MusteredReference> inA;
    private readonly Dictionary<ReferenceKey, MusteredReference> inB;
    private readonly Dictionary<ReferenceKey, ReferenceKey> pairs = [];
    private readonly HashSet<(ReferenceKey A, ReferenceKey B)> also = [];
    private readonly MusterReport b;

    public ImagePairs(MusterReport a, MusterReport b)
    {
        this.b = b;
        inA = Images(a);
        inB = Images(b);
        var facts = new FileFacts();
        string? Contents(MusteredReference reference) => ImagePairs.Contents(reference, facts);
        var pairing = new Pairing<MusteredReference>([.. inA.Values], [.. inB.Values], Stem, Contents);
        foreach (var (x, y) in pairing.Pairs)
            pairs[x.Reference.Key] = y.Reference.Key;
        // The same picture may be called several times: under another path, from another layer, as a copy.
        var known = pairing.Pairs.GroupBy(p => Contents(p.A)).Where(g => g.Key is not null).ToDictionary(g => g.Key!, g => g.First());
        var extra = new List<MusteredReference>();
        foreach (var left in pairing.OnlyB)
        {
            if (Contents(left) is { } contents && known.TryGetValue(contents, out var pair))
                also.Add((pair.A.Reference.Key, left.Reference.Key));
            else
                extra.Add(left);
        }

        OnlyA = [.. pairing.OnlyA.Where(l => Contents(l) is not { } contents || !known.ContainsKey(contents)).Select(Name)];
        OnlyB = [.. extra.Select(Name)];
        Same = pairing.Pairs.Count;
    }

    public IReadOnlyList<string> OnlyA { get; }

    public IReadOnlyList<string> OnlyB { get; }

    public int Same { get; }

    public bool AreOne(ReferenceKey a, ReferenceKey b) => (pairs.TryGetValue(a, out var other) && other == b) || also.Contains((a, b));

    /// <summary>The path by which the second scene calls an image of the first; null when no file answers for it.</summary>
    public string? CallInB(ReferenceKey a)
    {
        if (pairs.TryGetValue(a, out var known))
            return known.Written;
        if (!inA.TryGetValue(a, out var reference) || reference.Resolved is not { } file)
            return null;
        return Path.GetRelativePath(b.Scene.Folder, file);
    }

    public ReferenceKey KeyInB(ReferenceKey a, string written) =>
        pairs.TryGetValue(a, out var known) ? known : new(ReferenceKind.Image, Path.GetFileName(b.Scene.Path), written);

    /// <summary>False where the header of its file says that it has none.</summary>
    public bool HasAlpha(ReferenceKey key) => (inA.GetValueOrDefault(key) ?? inB.GetValueOrDefault(key))?.Facts is not { HasAlpha: false };

    public static string NameOf(ReferenceKey key) => WrittenPath.Parse(key.Written).FileName;

    private static Dictionary<ReferenceKey, MusteredReference> Images(MusterReport report) =>
        report
            .References.Where(r => r.Reference.Kind == ReferenceKind.Image)
            .DistinctBy(r => r.Reference.Key)
            .ToDictionary(r => r.Reference.Key);

    private static string Name(MusteredReference reference) => NameOf(reference.Reference.Key);

    private static string Stem(MusteredReference reference) => FileName.Of(Name(reference)).Stem;

    /// <summary>A hash of the bytes; null where they cannot be had.</summary>
    private static string? Contents(MusteredReference reference, FileFacts facts)
    {
        try
        {
            if (reference.Resolved is { } file && reference.Stamp is { } stamp)
                return facts.Hash(file, stamp);
            if (reference.Reference.Carried is not { File.Length: > 0 } carried)
                return null;
            using var stream = SceneFormats.Of(carried.File).OpenCarried(carried);
            return Convert.ToHexStringLower(SHA256.HashData(stream));
        }
        catch (Exception e) when (e is IOException or CannotUseException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}
