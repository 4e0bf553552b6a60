using System.Collections.Immutable;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>All trees that a scene may find its files in, answered as one.</summary>
public sealed class RootIndex(IEnumerable<TreeIndex> trees)
{
    public ImmutableArray<TreeIndex> Trees { get; } = [.. trees];

    public int Count => Trees.Sum(t => t.Count);

    /// <summary>Folders that could not be read, links that were not followed.</summary>
    public ImmutableArray<string> Notes => [.. Trees.SelectMany(t => t.Notes)];

    /// <summary>Makes what names are looked up by.</summary>
    public void Prepare(NameDictionary names)
    {
        foreach (var tree in Trees)
            tree.Prepare(names);
    }

    public IEnumerable<IndexedFile> Named(string name) => Trees.SelectMany(t => t.Named(name));

    public IEnumerable<IndexedFile> Alike(FileName name, NameDictionary names) => Trees.SelectMany(t => t.Alike(name, names));

    public IEnumerable<IndexedFile> Family(FileName name, NameDictionary names) => Trees.SelectMany(t => t.Family(name, names));

    public IEnumerable<IndexedFile> OfSize(long bytes) => Trees.SelectMany(t => t.OfSize(bytes));

    public FolderListing? Listing(string folder) => Trees.Select(t => t.Listing(folder)).FirstOrDefault(l => l is not null);

    /// <summary>The folders of a scope that need a tree of their own: a folder inside another one is listed with it.</summary>
    public static IEnumerable<string> Tops(RootScope scope) =>
        scope.Folders.Where(f => !scope.Folders.Any(o => o != f && RootScope.IsInside(o, f)));

    /// <summary>Lists everything anew.</summary>
    public static RootIndex Build(RootScope scope, Action<int, string>? progress = null, CancellationToken stop = default) =>
        new(Tops(scope).Select(f => TreeWalk.Make(f, scope, progress: progress, stop: stop).Index).ToList());
}
