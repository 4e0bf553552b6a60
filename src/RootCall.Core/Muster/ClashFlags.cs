using System.Collections.Immutable;

namespace RootCall.Core.Muster;

/// <summary>Flags that only show between references: the same name with other contents, other names with the same contents.</summary>
internal static class ClashFlags
{
    public static ImmutableArray<MusteredReference> Put(ImmutableArray<MusteredReference> references, FileFacts facts)
    {
        var files = references
            .SelectMany(r => Files(r).Select(f => (r.Number, f.Path, f.Stamp)))
            .ToLookup(f => f.Path, StringComparer.Ordinal);
        var clashing = new HashSet<int>();
        var duplicated = new HashSet<int>();
        var distinct = files.Select(g => (g.First().Path, g.First().Stamp)).ToList();
        foreach (var name in distinct.GroupBy(f => FileName.Fold(Path.GetFileName(f.Path)), StringComparer.Ordinal).Where(g => g.Count() > 1))
        {
            var (path, stamp) = name.First();
            if (name.Skip(1).All(f => facts.SameContents(path, stamp, f.Path, f.Stamp))) continue;
            clashing.UnionWith(name.SelectMany(f => files[f.Path]).Select(f => f.Number));
        }

        // Only files that answer now: two candidates of one reference are not duplicates of each other.
        var answering = references.Where(r => r.Resolved is not null && r.Stamp is not null).ToLookup(r => r.Resolved!, StringComparer.Ordinal);
        foreach (var size in answering.Select(g => g.First()).GroupBy(r => r.Stamp!.Value.Bytes).Where(g => g.Count() > 1))
        {
            foreach (var content in size.GroupBy(r => HashOrPath(r, facts), StringComparer.Ordinal))
            {
                var names = content.Select(r => Path.GetFileName(r.Resolved!)).Distinct(StringComparer.OrdinalIgnoreCase).Count();
                if (names > 1) duplicated.UnionWith(content.SelectMany(r => answering[r.Resolved!]).Select(r => r.Number));
            }
        }

        return [.. references.Select(r => r with
        {
            Flags = (r.Flags & ~(ReferenceFlags.NameClash | ReferenceFlags.Duplicate))
                | (clashing.Contains(r.Number) ? ReferenceFlags.NameClash : 0)
                | (duplicated.Contains(r.Number) ? ReferenceFlags.Duplicate : 0),
        })];
    }

    private static IEnumerable<(string Path, FileStamp Stamp)> Files(MusteredReference reference)
    {
        if (reference.Resolved is not null) return [(reference.Resolved, reference.Stamp!.Value)];
        // A clear answer is the one that will be taken; of contested ones each could be.
        return reference.Candidates.Take(reference.State == ReferenceState.Contested ? reference.Candidates.Length : 1).Select(c => (c.Path, c.Stamp));
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
