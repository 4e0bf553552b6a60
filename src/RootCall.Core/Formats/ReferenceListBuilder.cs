using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats;

/// <summary>Collects references while a scene is read: the same path written by the same file is one reference.</summary>
internal sealed class ReferenceListBuilder(string sceneFolder, string firstFile)
{
    private readonly List<Reference> list = [];
    private readonly Dictionary<ReferenceKey, int> places = [];
    private string file = firstFile;

    /// <summary>From here on, paths are written by that own file.</summary>
    public void Enter(string ownFile) => file = ownFile;

    public ReferenceKey Add(ReferenceKind kind, string written, ReferenceSite site, ImmutableArray<ReferenceUse> uses, long expectedBytes = 0)
    {
        var key = Key(kind, written);
        if (places.TryGetValue(key, out var place))
        {
            var known = list[place];
            list[place] = known with
            {
                Sites = known.Sites.Add(site),
                UsedBy = [.. known.UsedBy.Union(uses)],
                ExpectedBytes = Math.Max(known.ExpectedBytes, expectedBytes),
            };
            return key;
        }

        places[key] = list.Count;
        list.Add(new(list.Count + 1, key, written, Path.GetDirectoryName(file)!, [site], uses, null, expectedBytes));
        return key;
    }

    public ReferenceKey AddCarried(string name, CarriedData data, ImmutableArray<ReferenceUse> uses)
    {
        var key = Key(ReferenceKind.Image, name);
        for (var n = 2; !places.TryAdd(key, list.Count); n++) key = Key(ReferenceKind.Image, $"{name} ({n})");
        list.Add(new(list.Count + 1, key, key.Written, Path.GetDirectoryName(file)!, [], uses, data));
        return key;
    }

    public ImmutableArray<Reference> ToImmutable() => [.. list];

    private ReferenceKey Key(ReferenceKind kind, string written) => new(kind, Path.GetRelativePath(sceneFolder, file), written);
}
