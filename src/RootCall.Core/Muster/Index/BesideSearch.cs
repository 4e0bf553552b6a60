using System.Collections.Immutable;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Muster;

/// <summary>
/// Finds images of the same things as those in use: in their folders, and under the very same name anywhere in the
/// roots; and those of things that materials without images are named after.
/// </summary>
internal static class BesideSearch
{
    /// <summary>
    /// A folder of thousands of maps belongs to a library, where the names of a set still tell it apart; more are not
    /// probed.
    /// </summary>
    private const int Most = 20_000;

    public static ImmutableArray<FileBeside> Of(Scene scene, ImmutableArray<MusteredReference> references, MusterContext context)
    {
        var answered = references.Where(r => r is { Reference.Kind: ReferenceKind.Image, Resolved: not null }).ToList();
        var used = answered
            .SelectMany(r => r.Tiles.IsDefaultOrEmpty ? [r.Resolved!] : (IEnumerable<string>)r.Tiles)
            .ToHashSet(StringComparer.Ordinal);
        var things = answered
            .Select(r => FileName.Of(Path.GetFileName(r.Resolved!), context.Names))
            .SelectMany(Spellings)
            .Where(t => t.Length > 0)
            .ToHashSet(StringComparer.Ordinal);
        var found = new Dictionary<string, FileStamp>(StringComparer.Ordinal);
        // A map that is found elsewhere brings the neighbours it has there.
        var elsewhere = references
            .Where(r => r.Reference.Kind == ReferenceKind.Image && r.Clear is not null)
            .Select(r => r.Clear!.Path)
            .ToList();
        elsewhere.AddRange(SetsOfPlain(scene, context));
        foreach (var path in elsewhere)
            things.UnionWith(Spellings(FileName.Of(Path.GetFileName(path), context.Names)));
        foreach (
            var folder in answered
                .Select(r => r.Resolved!)
                .Concat(elsewhere)
                .Select(p => Path.GetDirectoryName(p)!)
                .Distinct(StringComparer.Ordinal)
        )
        {
            if (context.Index.Listing(folder) is not { } listing)
                continue;
            for (var i = 0; i < listing.Names.Length && found.Count < Most; i++)
            {
                var file = new IndexedFile(listing, i);
                if (ImageCodecs.Promised(file.Name) is not null && things.Overlaps(Spellings(FileName.Of(file.Name, context.Names))))
                    found[file.Path] = file.Stamp;
            }
        }

        foreach (var reference in answered)
        foreach (var file in context.Index.Named(Path.GetFileName(reference.Resolved!)))
            if (found.Count < Most)
                found[file.Path] = file.Stamp;
        var rest = found.Where(f => !used.Contains(f.Key)).OrderBy(f => f.Key, StringComparer.Ordinal).ToArray();
        var probed = new FileBeside[rest.Length];
        Parallel.For(
            0,
            rest.Length,
            new ParallelOptions { CancellationToken = context.Stop, MaxDegreeOfParallelism = Environment.ProcessorCount },
            i => probed[i] = new(rest[i].Key, rest[i].Value, context.Facts.Probe(rest[i].Key, rest[i].Value).Facts)
        );
        return [.. probed];
    }

    /// <summary>Maps of the things that materials without any image are named after, where there is just one folder of them.</summary>
    private static IEnumerable<string> SetsOfPlain(Scene scene, MusterContext context)
    {
        foreach (var material in scene.Materials.Where(m => m.Graph.Nodes.All(n => n.Image is null)))
        {
            if (ThingName.Of(material.Name, context.Names) is not { } thing)
                continue;
            // The base colour may be called like the thing alone; then its normal map is found.
            var maps = ThingName
                .Spellings(thing)
                .SelectMany(s =>
                    context.Index.Alike(s, context.Names).Concat(context.Index.Alike(s with { Role = Role.Normal }, context.Names))
                )
                .Where(f => ImageCodecs.Promised(f.Name) is not null && ThingName.IsSame(thing, FileName.Of(f.Name, context.Names)))
                .ToList();
            if (maps.Select(f => f.Folder).Distinct(StringComparer.Ordinal).Take(2).Count() == 1)
                yield return maps[0].Path;
        }
    }

    /// <summary>By what a file is told to be of the same thing as another.</summary>
    private static string[] Spellings(FileName name) =>
        name.Body == name.Thing ? [name.Body, name.Whole] : [name.Body, name.Thing, name.Whole];
}
