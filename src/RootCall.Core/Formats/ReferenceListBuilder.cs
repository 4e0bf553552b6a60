using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats;

/// <summary>Collects references while a scene is read: the same path written by the same file is one reference.</summary>
internal sealed class ReferenceListBuilder(string sceneFolder, string firstFile)
{
    private readonly List<Entry> list = [];
    private readonly Dictionary<ReferenceKey, Entry> known = [];
    private readonly HashSet<ReferenceKey> overridden = [];
    private string file = firstFile;

    /// <summary>From here on, paths are written by that own file.</summary>
    public void Enter(string ownFile) => file = ownFile;

    public ReferenceKey Add(
        ReferenceKind kind,
        string written,
        ReferenceSite? site,
        ImmutableArray<ReferenceUse> uses,
        long expectedBytes = 0,
        string? alsoWritten = null,
        string? carriedName = null
    )
    {
        var key = Key(kind, written);
        if (!known.TryGetValue(key, out var entry))
            known[key] = entry = Put(
                new(0, key, written, Path.GetDirectoryName(file)!, [], [], null, expectedBytes)
                {
                    AlsoWritten = alsoWritten,
                    CarriedName = carriedName,
                }
            );
        entry.ExpectedBytes = Math.Max(entry.ExpectedBytes, expectedBytes);
        if (site is { } place)
            entry.Sites.Add(place);
        foreach (var use in uses)
            entry.UsedBy.TryAdd(use, true);
        return key;
    }

    public ReferenceKey AddCarried(string name, CarriedData data, ImmutableArray<ReferenceUse> uses)
    {
        var key = Key(ReferenceKind.Image, name);
        for (var n = 2; known.ContainsKey(key); n++)
            key = Key(ReferenceKind.Image, $"{name} ({n})");
        known[key] = Put(new(0, key, key.Written, Path.GetDirectoryName(file)!, [], [], data));
        foreach (var use in uses)
            known[key].UsedBy.TryAdd(use, true);
        return key;
    }

    /// <summary>Adds inputs that use a reference which is known already.</summary>
    public void Use(ReferenceKey key, ReferenceUse use) => known.GetValueOrDefault(key)?.UsedBy.TryAdd(use, true);

    /// <summary>Adds a property of the composed scene that gives a path.</summary>
    public void Property(ReferenceKey key, string property) => known.GetValueOrDefault(key)?.Properties.TryAdd(property, true);

    /// <summary>Adds, for each material, the inputs of its surface shader that an image reaches.</summary>
    public void UseAll(IEnumerable<Material> materials)
    {
        foreach (var (key, use) in materials.SelectMany(m => m.Uses()))
            Use(key, use);
    }

    /// <summary>A stronger opinion says another path in its place: it is called by nobody, unless something else uses it.</summary>
    public void Overridden(ReferenceKey key) => overridden.Add(key);

    /// <summary>Numbered from 1, without what is overridden wherever it stands.</summary>
    public ImmutableArray<Reference> ToImmutable() =>
        [
            .. list.Where(e => !overridden.Contains(e.First.Key) || e.Properties.Count > 0)
                .Select(
                    (e, i) =>
                        e.First with
                        {
                            Number = i + 1,
                            Sites = [.. e.Sites],
                            UsedBy = [.. e.UsedBy.Keys],
                            Properties = [.. e.Properties.Keys],
                            ExpectedBytes = e.ExpectedBytes,
                        }
                ),
        ];

    private Entry Put(Reference reference)
    {
        var entry = new Entry(reference);
        list.Add(entry);
        return entry;
    }

    private ReferenceKey Key(ReferenceKind kind, string written) => new(kind, Path.GetRelativePath(sceneFolder, file), written);

    /// <summary>One that grows: a hundred thousand materials may call one image.</summary>
    private sealed class Entry(Reference first)
    {
        public Reference First => first;

        public List<ReferenceSite> Sites { get; } = [];

        /// <summary>In the order they came, each once.</summary>
        public OrderedDictionary<ReferenceUse, bool> UsedBy { get; } = [];

        public OrderedDictionary<string, bool> Properties { get; } = new(StringComparer.Ordinal);

        public long ExpectedBytes { get; set; }
    }
}
