using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>What variants of a map differ in.</summary>
public enum VariantKind
{
    Resolution,
    Colour,
    Skin,
}

/// <summary>A choice that some references have: "resolution, 2k".</summary>
/// <param name="Value">The token; empty for the file that names none.</param>
/// <param name="Numbers">References that would change to it, with the file each would get.</param>
/// <param name="Using">How many use it now.</param>
/// <param name="BytesBefore">On disk, of the files of those references now.</param>
/// <param name="MemoryBefore">Decoded, with the smaller levels of a mip chain.</param>
public sealed record MapVariant(
    VariantKind Kind,
    string Value,
    ImmutableDictionary<int, string> Numbers,
    int Using,
    long BytesBefore,
    long BytesAfter,
    long MemoryBefore,
    long MemoryAfter
);

/// <summary>
/// Finds siblings of the files a scene uses that differ only by a resolution, colour or skin token and lie in the same
/// folder, so that one or all can be switched: high to proxy, red to blue.
/// </summary>
public static class MapVariants
{
    /// <param name="numbers">References to look at; null for all.</param>
    /// <param name="listing">The names in a folder; null for one that is not known.</param>
    public static ImmutableArray<MapVariant> Find(
        MusterReport report,
        IReadOnlySet<int>? numbers,
        Func<string, FolderListing?> listing,
        FileFacts facts,
        NameDictionary names
    )
    {
        var folders = new Dictionary<string, ILookup<string, IndexedFile>?>(StringComparer.Ordinal);
        var choices = new Dictionary<(VariantKind, string), Dictionary<int, (string From, FileStamp FromStamp, IndexedFile To)>>();
        var uses = new Dictionary<(VariantKind, string), int>();
        foreach (
            var reference in report.References.Where(r =>
                r.Reference.Kind == ReferenceKind.Image && r.Resolved is not null && r.Tiles.IsEmpty && numbers?.Contains(r.Number) != false
            )
        )
        {
            var own = FileName.Of(Path.GetFileName(reference.Resolved!), names);
            foreach (var sibling in Siblings(Path.GetDirectoryName(reference.Resolved)!, own, folders, listing, names))
            {
                var other = FileName.Of(sibling.Name, names);
                if (Difference(own, other) is not { } kind)
                    continue;
                var key = (kind, Token(other, kind));
                if (!choices.TryGetValue(key, out var to))
                    choices[key] = to = [];
                to.TryAdd(reference.Number, (reference.Resolved!, reference.Stamp!.Value, sibling));
            }
        }

        foreach (var reference in report.References.Where(r => choices.Values.Any(c => c.ContainsKey(r.Number))))
        foreach (var kind in Enum.GetValues<VariantKind>())
        {
            var key = (kind, Token(FileName.Of(Path.GetFileName(reference.Resolved!), names), kind));
            uses[key] = uses.GetValueOrDefault(key) + 1;
        }

        return
        [
            .. choices
                .Select(c => new MapVariant(
                    c.Key.Item1,
                    c.Key.Item2,
                    c.Value.ToImmutableDictionary(v => v.Key, v => v.Value.To.Path),
                    uses.GetValueOrDefault(c.Key),
                    c.Value.Values.Sum(v => v.FromStamp.Bytes),
                    c.Value.Values.Sum(v => v.To.Stamp.Bytes),
                    c.Value.Values.Sum(v => Memory(facts, v.From, v.FromStamp)),
                    c.Value.Values.Sum(v => Memory(facts, v.To.Path, v.To.Stamp))
                ))
                .OrderBy(c => c.Kind)
                .ThenBy(c => c.BytesAfter)
                .ThenBy(c => c.Value, StringComparer.Ordinal),
        ];
    }

    private static IEnumerable<IndexedFile> Siblings(
        string folder,
        FileName own,
        Dictionary<string, ILookup<string, IndexedFile>?> folders,
        Func<string, FolderListing?> listing,
        NameDictionary names
    )
    {
        if (!folders.TryGetValue(folder, out var known))
            folders[folder] = known = listing(folder) is { } l
                ? Enumerable
                    .Range(0, l.Names.Length)
                    .Select(i => new IndexedFile(l, i))
                    .ToLookup(f => FileName.Of(f.Name, names).Core, StringComparer.Ordinal)
                : null;
        return known is null
            ? []
            : known[own.Core].Where(f => f.Name != own.Text && NameEvidence.Fits(ReferenceKind.Image, own, FileName.Of(f.Name, names)));
    }

    /// <summary>The one thing they differ in; null when it is none, another, or more than one.</summary>
    private static VariantKind? Difference(FileName a, FileName b)
    {
        if (a.Version != b.Version || a.Extension != b.Extension)
            return null;
        var kinds = Enum.GetValues<VariantKind>().Where(k => Token(a, k) != Token(b, k)).ToList();
        return kinds.Count == 1 ? kinds[0] : null;
    }

    private static string Token(FileName name, VariantKind kind) =>
        kind switch
        {
            VariantKind.Resolution => name.Resolution,
            VariantKind.Colour => name.Colour,
            _ => name.Skin,
        } ?? string.Empty;

    /// <summary>Uncompressed, four thirds for the mip chain (1 + 1/4 + 1/16 + …).</summary>
    private static long Memory(FileFacts facts, string path, FileStamp stamp) =>
        facts.Probe(path, stamp).Facts is { } f ? (long)f.Width * f.Height * f.Channels * f.BitDepth / 8 * 4 / 3 : 0;
}
