using System.Collections.Immutable;

namespace RootCall.Core.Muster;

/// <summary>Flags that only show between references: the same name with other contents, other names with the same contents.</summary>
internal static class ClashFlags
{
    public static ImmutableArray<MusteredReference> Put(ImmutableArray<MusteredReference> references, FileFacts facts)
    {
        var files = new Dictionary<string, (FileStamp Stamp, List<int> Numbers)>(references.Length, StringComparer.Ordinal);
        foreach (var reference in references)
        foreach (var (path, stamp) in Files(reference))
        {
            if (!files.TryGetValue(path, out var file))
                files[path] = file = (stamp, []);
            file.Numbers.Add(reference.Number);
        }

        var clashing = new HashSet<int>();
        var duplicated = new HashSet<int>();
        foreach (var name in files.GroupBy(f => FileName.FoldedHash(Path.GetFileName(f.Key))).Where(g => g.Skip(1).Any()))
        {
            var first = name.First();
            if (name.Skip(1).All(f => facts.SameContents(first.Key, first.Value.Stamp, f.Key, f.Value.Stamp)))
                continue;
            clashing.UnionWith(name.SelectMany(f => f.Value.Numbers));
        }

        // Only files that answer now: two candidates of one reference are not duplicates of each other.
        var answering = references
            .Where(r => r.Resolved is not null && r.Stamp is not null)
            .ToLookup(r => r.Resolved!, StringComparer.Ordinal);
        var sameSize = answering.Select(g => g.First()).GroupBy(r => r.Stamp!.Value.Bytes).Where(g => g.Count() > 1).ToList();
        Parallel.ForEach(sameSize.SelectMany(s => s), r => Sample(r, facts));
        foreach (var size in sameSize)
        {
            // Uncompressed images of one resolution have one size: a sample tells most of them apart, few are hashed.
            foreach (
                var content in size.GroupBy(r => Sample(r, facts))
                    .Where(g => g.Count() > 1)
                    .SelectMany(g => g.GroupBy(r => HashOrPath(r, facts), StringComparer.Ordinal))
            )
            {
                var names = content.Select(r => Path.GetFileName(r.Resolved!)).Distinct(StringComparer.OrdinalIgnoreCase).Count();
                if (names > 1)
                    duplicated.UnionWith(content.SelectMany(r => answering[r.Resolved!]).Select(r => r.Number));
            }
        }

        return
        [
            .. references.Select(r =>
                With(
                    r,
                    (r.Flags & ~(ReferenceFlags.NameClash | ReferenceFlags.Duplicate))
                        | (clashing.Contains(r.Number) ? ReferenceFlags.NameClash : 0)
                        | (duplicated.Contains(r.Number) ? ReferenceFlags.Duplicate : 0)
                )
            ),
        ];
    }

    private static MusteredReference With(MusteredReference reference, ReferenceFlags flags) =>
        reference.Flags == flags ? reference : reference with { Flags = flags };

    private static IEnumerable<(string Path, FileStamp Stamp)> Files(MusteredReference reference)
    {
        if (reference.Resolved is not null)
            return [(reference.Resolved, reference.Stamp!.Value)];
        // A clear answer is the one that will be taken; of contested ones each could be.
        return reference
            .Candidates.Take(reference.State == ReferenceState.Contested ? reference.Candidates.Length : 1)
            .Select(c => (c.Path, c.Stamp));
    }

    private static UInt128 Sample(MusteredReference reference, FileFacts facts)
    {
        try
        {
            return facts.Sample(reference.Resolved!, reference.Stamp!.Value);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return (UInt128)(uint)reference.Number;
        }
    }

    private static string HashOrPath(MusteredReference reference, FileFacts facts)
    {
        try
        {
            return facts.Hash(reference.Resolved!, reference.Stamp!.Value);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return reference.Resolved!;
        }
    }
}
