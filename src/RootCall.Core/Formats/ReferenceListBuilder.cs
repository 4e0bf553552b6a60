using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats;

/// <summary>Collects references while a scene is read: the same path written by the same file is one reference.</summary>
internal sealed class ReferenceListBuilder(string sceneFolder, string firstFile)
{
    private readonly List<Reference> list = [];
    private readonly Dictionary<ReferenceKey, int> places = [];
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
        if (places.TryGetValue(key, out var place))
        {
            var known = list[place];
            list[place] = known with
            {
                Sites = site is { } more ? known.Sites.Add(more) : known.Sites,
                UsedBy = [.. known.UsedBy.Union(uses)],
                ExpectedBytes = Math.Max(known.ExpectedBytes, expectedBytes),
            };
            return key;
        }

        places[key] = list.Count;
        list.Add(
            new(list.Count + 1, key, written, Path.GetDirectoryName(file)!, site is { } first ? [first] : [], uses, null, expectedBytes)
            {
                AlsoWritten = alsoWritten,
                CarriedName = carriedName,
            }
        );
        return key;
    }

    public ReferenceKey AddCarried(string name, CarriedData data, ImmutableArray<ReferenceUse> uses)
    {
        var key = Key(ReferenceKind.Image, name);
        for (var n = 2; !places.TryAdd(key, list.Count); n++)
            key = Key(ReferenceKind.Image, $"{name} ({n})");
        list.Add(new(list.Count + 1, key, key.Written, Path.GetDirectoryName(file)!, [], uses, data));
        return key;
    }

    /// <summary>Adds inputs that use a reference which is known already.</summary>
    public void Use(ReferenceKey key, ReferenceUse use)
    {
        if (!places.TryGetValue(key, out var place))
            return;
        var known = list[place];
        if (!known.UsedBy.Contains(use))
            list[place] = known with { UsedBy = known.UsedBy.Add(use) };
    }

    /// <summary>Adds a property of the composed scene that gives a path.</summary>
    public void Property(ReferenceKey key, string property)
    {
        if (!places.TryGetValue(key, out var place))
            return;
        var known = list[place];
        if (!known.Properties.Contains(property))
            list[place] = known with { Properties = known.Properties.Add(property) };
    }

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
        [.. list.Where(r => !overridden.Contains(r.Key) || r.Properties.Length > 0).Select((r, i) => r with { Number = i + 1 })];

    private ReferenceKey Key(ReferenceKind kind, string written) => new(kind, Path.GetRelativePath(sceneFolder, file), written);
}
