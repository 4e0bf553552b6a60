namespace RootCall.Core.Scenes;

/// <summary>Where things of a scene are found by name; made once, when it is asked for.</summary>
public sealed class SceneIndex
{
    private readonly Lazy<Dictionary<string, int>> places;
    private readonly Lazy<ILookup<string, int>> readers;

    public SceneIndex(Scene scene) =>
        (Scene, Materials, places, readers) = (
            scene,
            scene.Materials,
            new(() => Names(scene.Materials)),
            new(() => NodesOf(scene.Materials))
        );

    /// <param name="same">Of a scene whose materials and nodes have the same names in the same places.</param>
    internal SceneIndex(Scene scene, SceneIndex same) =>
        (Scene, Materials, places, readers) = (scene, scene.Materials, same.places, same.readers);

    public Scene Scene { get; }

    public IReadOnlyList<Material> Materials { get; }

    internal Dictionary<string, int> Places => places.Value;

    internal ILookup<string, int> Readers => readers.Value;

    /// <summary>Names before ids, and materials that can be shown before templates.</summary>
    internal static Dictionary<string, int> Names(IReadOnlyList<Material> materials)
    {
        var places = new Dictionary<string, int>(materials.Count * 2, StringComparer.Ordinal);
        for (var i = 0; i < materials.Count; i++)
            if (!materials[i].IsTemplate)
                places.TryAdd(materials[i].Name, i);
        for (var i = 0; i < materials.Count; i++)
        {
            places.TryAdd(materials[i].Name, i);
            places.TryAdd(materials[i].Id, i);
        }

        return places;
    }

    internal static ILookup<string, int> NodesOf(IReadOnlyList<Material> materials) =>
        materials.SelectMany((m, i) => m.Graph.Nodes.Select(n => (n.Name, i))).ToLookup(p => p.Name, p => p.i, StringComparer.Ordinal);
}
