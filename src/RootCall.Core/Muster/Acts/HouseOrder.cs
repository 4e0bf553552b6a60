using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>Files that want one name with other contents, and the name each would get where the scene is written.</summary>
public sealed record ClashProposal(string Name, ImmutableArray<(int Number, string Path, string Place)> Files);

/// <summary>Files with the same contents: one to keep, the others' references would call it.</summary>
public sealed record DuplicateProposal(string Keep, ImmutableArray<string> Others, ImmutableArray<int> Numbers, long BytesSaved);

/// <summary>A file in a transient place or outside the scene's folder, and where it would lie beside the scene.</summary>
public sealed record GatherProposal(int Number, string Path, string Why, string Place, long Bytes);

/// <summary>How a tidy folder is divided.</summary>
public enum GatherBy
{
    Role,
    Material,
}

/// <summary>What can be tidied. Nothing is moved where it lies: places are where files go when the scene is written.</summary>
/// <param name="Unused">Files in the scene's folder that nothing calls for.</param>
public sealed record HouseOrder(
    ImmutableArray<ClashProposal> Clashes,
    ImmutableArray<DuplicateProposal> Duplicates,
    ImmutableArray<GatherProposal> Gather,
    ImmutableArray<(string Path, long Bytes)> Unused
)
{
    private const string Tidy = "textures";

    /// <param name="libraries">Folders whose files keep their place: shared by many scenes.</param>
    /// <param name="roots">Where a file may lie: only what is below one tells whether its place gets emptied.</param>
    /// <param name="listings">Folders of the scene's own tree.</param>
    public static HouseOrder Of(
        MusterReport report,
        GatherBy by,
        IReadOnlyCollection<string> libraries,
        RootScope roots,
        IEnumerable<FolderListing> listings,
        FileFacts facts
    )
    {
        var answering = report.References.Where(r => r.Resolved is not null && r.Reference.Carried is null).ToList();
        return new(
            Clashing(answering),
            Duplicated(answering, facts),
            Gathered(report.Scene, answering, by, libraries, roots),
            NotUsed(report, answering, listings)
        );
    }

    private static ImmutableArray<ClashProposal> Clashing(List<MusteredReference> answering) =>
        [
            .. answering
                .Where(r => r.Flags.HasFlag(ReferenceFlags.NameClash))
                .DistinctBy(r => r.Resolved)
                .GroupBy(r => FileName.Fold(Path.GetFileName(r.Resolved!)), StringComparer.Ordinal)
                .Where(g => g.Count() > 1)
                .Select(g =>
                {
                    var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
                    return new ClashProposal(
                        Path.GetFileName(g.First().Resolved!),
                        [.. g.Select(r => (r.Number, r.Resolved!, $"{Tidy}/{Unlike(r, taken)}"))]
                    );
                }),
        ];

    /// <summary>The name with what tells the files apart in front: the material, else the folder.</summary>
    private static string Unlike(MusteredReference reference, HashSet<string> taken)
    {
        var name = Path.GetFileName(reference.Resolved!);
        var material = reference.Reference.UsedBy.Select(u => u.Material).FirstOrDefault(m => m.Length > 0);
        var folder = Path.GetFileName(Path.GetDirectoryName(reference.Resolved)!);
        foreach (var front in new[] { material, folder, $"{folder}_{reference.Number}" })
            if (!string.IsNullOrEmpty(front) && PortableName.Make($"{front}_{name}") is var made && taken.Add(made))
                return made;
        return PortableName.Make($"{reference.Number}_{name}");
    }

    private static ImmutableArray<DuplicateProposal> Duplicated(List<MusteredReference> answering, FileFacts facts) =>
        [
            .. answering
                .Where(r => r.Flags.HasFlag(ReferenceFlags.Duplicate))
                .GroupBy(r => facts.Hash(r.Resolved!, r.Stamp!.Value), StringComparer.Ordinal)
                .Select(g =>
                {
                    var files = g.GroupBy(r => r.Resolved!, StringComparer.Ordinal)
                        .OrderByDescending(f => f.Sum(r => r.Reference.UsedBy.Length))
                        .ThenBy(f => f.Key.Length)
                        .ThenBy(f => f.Key, StringComparer.Ordinal)
                        .ToList();
                    return new DuplicateProposal(
                        files[0].Key,
                        [.. files.Skip(1).Select(f => f.Key)],
                        [.. files.Skip(1).SelectMany(f => f).Select(r => r.Number)],
                        g.First().Stamp!.Value.Bytes * (files.Count - 1)
                    );
                })
                .Where(d => !d.Others.IsEmpty),
        ];

    private static ImmutableArray<GatherProposal> Gathered(
        Scene scene,
        List<MusteredReference> answering,
        GatherBy by,
        IReadOnlyCollection<string> libraries,
        RootScope roots
    )
    {
        var proposals = ImmutableArray.CreateBuilder<GatherProposal>();
        var taken = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        foreach (var reference in answering.Where(r => r.Reference.Kind == ReferenceKind.Image && !r.Flags.HasFlag(ReferenceFlags.StandIn)))
        {
            var path = reference.Resolved!;
            var inside = RootScope.IsInside(scene.Folder, path);
            // Where the scene itself lies, or a root, is not the file's fault.
            var transient = WrittenPath.Parse(inside ? Path.GetRelativePath(scene.Folder, path) : roots.Below(path) ?? path).IsTransient;
            if ((inside && !transient) || libraries.Any(l => RootScope.IsInside(l, path)))
                continue;
            var folder =
                by == GatherBy.Role
                    ? MapRole.Word(reference.Reference)
                    : reference.Reference.UsedBy.Select(u => u.Material).FirstOrDefault(m => m.Length > 0) ?? "shared";
            var name = PortableName.Make(Path.GetFileName(path));
            var into = $"{Tidy}/{PortableName.Make(folder.Replace(' ', '_'))}";
            var place = $"{into}/{name}";
            for (var n = 2; taken.TryGetValue(place, out var other) && other != path; n++)
                place = $"{into}/{Path.GetFileNameWithoutExtension(name)}_{n}{Path.GetExtension(path)}";
            taken[place] = path;
            proposals.Add(
                new(
                    reference.Number,
                    path,
                    transient ? "lies in a place that gets emptied" : "lies outside the scene's folder",
                    place,
                    reference.Stamp!.Value.Bytes
                )
            );
        }

        return proposals.ToImmutable();
    }

    private static ImmutableArray<(string Path, long Bytes)> NotUsed(
        MusterReport report,
        List<MusteredReference> answering,
        IEnumerable<FolderListing> listings
    )
    {
        var used = answering
            .SelectMany(r => r.Tiles.IsEmpty ? [r.Resolved!] : r.Tiles.AsEnumerable())
            .Concat(report.Scene.Files.Select(f => f.Path))
            // What is only called by a wrong path is not useless.
            .Concat(report.References.SelectMany(r => r.Candidates).Select(c => c.Path))
            .ToHashSet(StringComparer.Ordinal);
        return
        [
            .. from listing in listings
            where RootScope.IsInside(report.Scene.Folder, listing.Path)
            from at in Enumerable.Range(0, listing.Names.Length)
            where ImageCodecs.Promised(listing.Names[at]) is not null
            let file = new IndexedFile(listing, at)
            where !used.Contains(file.Path)
            orderby file.Stamp.Bytes descending
            select (file.Path, file.Stamp.Bytes),
        ];
    }
}
