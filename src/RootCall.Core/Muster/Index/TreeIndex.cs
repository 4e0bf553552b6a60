using System.Collections.Immutable;

namespace RootCall.Core.Muster;

/// <summary>A file under a root.</summary>
public readonly record struct IndexedFile(FolderListing Listing, int At)
{
    public string Name => Listing.Names[At];

    public string Folder => Listing.Path;

    /// <summary>Absolute path without links.</summary>
    public string Path => System.IO.Path.Join(Listing.Path, Name);

    public FileStamp Stamp => new(Listing.Sizes[At], new(Listing.Times[At], DateTimeKind.Utc));
}

/// <summary>
/// One folder with everything below it, listed once and answered from memory. Immutable: bringing it up to date
/// (<see cref="TreeWalk"/>) gives another one that shares the listings that did not change. Lookups by likeness and by size
/// are made when first asked for.
/// </summary>
public sealed class TreeIndex
{
    private readonly ImmutableArray<FolderListing> listings;
    private readonly int[] folderOf;
    private readonly int[] firstOf;
    private readonly Lazy<HashChains> byName;
    private readonly Lazy<HashChains> bySize;
    private readonly Lazy<Dictionary<string, FolderListing>> byFolder;
    private readonly System.Collections.Concurrent.ConcurrentDictionary<(NameDictionary, bool OfFamily), Lazy<HashChains>> byCore = new();

    /// <param name="folder">Absolute, without links.</param>
    /// <param name="listings">It and all folders below it, in any order.</param>
    /// <param name="notes">What could not be listed or was left out, in sentences.</param>
    /// <param name="at">When it was brought up to date.</param>
    public TreeIndex(string folder, IEnumerable<FolderListing> listings, ImmutableArray<string> notes, DateTimeOffset at)
    {
        Folder = folder;
        Notes = notes;
        At = at;
        this.listings = [.. listings.OrderBy(l => l.Path, StringComparer.Ordinal)];
        firstOf = new int[this.listings.Length];
        for (var i = 0; i < this.listings.Length; i++)
        {
            firstOf[i] = Count;
            Count += this.listings[i].Names.Length;
        }

        folderOf = new int[Count];
        for (var i = 0; i < this.listings.Length; i++)
            folderOf.AsSpan(firstOf[i], this.listings[i].Names.Length).Fill(i);
        byName = new(() => Chains((l, i) => FileName.FoldedHash(l.Names[i])));
        bySize = new(() => Chains((l, i) => (ulong)l.Sizes[i]));
        byFolder = new(() => this.listings.ToDictionary(l => l.Path, StringComparer.Ordinal));
    }

    public string Folder { get; }

    /// <summary>Files.</summary>
    public int Count { get; }

    public DateTimeOffset At { get; }

    public ImmutableArray<string> Notes { get; }

    public ImmutableArray<FolderListing> Listings => listings;

    /// <summary>Files of that name without case.</summary>
    public IEnumerable<IndexedFile> Named(string name) =>
        byName.Value.Find(FileName.FoldedHash(name)).Select(File).Where(f => FileName.Fold(f.Name) == FileName.Fold(name));

    /// <summary>Files that may be the same map: their names have that core.</summary>
    public IEnumerable<IndexedFile> Alike(FileName name, NameDictionary names) => Find(name.Core, names, ofFamily: false);

    /// <summary>Files that may be its tiles or frames: their names have that family.</summary>
    public IEnumerable<IndexedFile> Family(FileName name, NameDictionary names) => Find(name.Family, names, ofFamily: true);

    public IEnumerable<IndexedFile> OfSize(long bytes) => bySize.Value.Find((ulong)bytes).Select(File);

    public FolderListing? Listing(string folder) => byFolder.Value.GetValueOrDefault(folder);

    /// <summary>Makes what names are looked up by, before many threads ask for it at once and wait for the one that makes it.</summary>
    public void Prepare(NameDictionary names)
    {
        _ = byName.Value;
        _ = Cores(names, ofFamily: false);
    }

    private HashChains Cores(NameDictionary names, bool ofFamily) =>
        byCore.GetOrAdd((names, ofFamily), k => new(() => Chains((l, i) => FileName.CoreHash(l.Names[i], k.Item1, k.OfFamily)))).Value;

    private IEnumerable<IndexedFile> Find(string core, NameDictionary names, bool ofFamily) =>
        Cores(names, ofFamily).Find(FileName.Hash(core)).Select(File);

    private IndexedFile File(int i) => new(listings[folderOf[i]], i - firstOf[folderOf[i]]);

    private HashChains Chains(Func<FolderListing, int, ulong> hash)
    {
        var hashes = new ulong[Count];
        Parallel.For(0, listings.Length, f =>
        {
            var listing = listings[f];
            for (var i = 0; i < listing.Names.Length; i++)
                hashes[firstOf[f] + i] = hash(listing, i);
        });
        return new(hashes);
    }
}
