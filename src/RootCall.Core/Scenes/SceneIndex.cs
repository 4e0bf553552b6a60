namespace RootCall.Core.Scenes;

/// <summary>Where things of a scene are found by name; made once, when it is asked for.</summary>
public sealed class SceneIndex
{
    private readonly Lazy<Dictionary<string, int>> places;
    private readonly Lazy<ILookup<string, int>> readers;
    private readonly Lazy<Dictionary<string, string>> slots;

    public SceneIndex(Scene scene) =>
        (Scene, Materials, places, readers, slots) = (
            scene,
            scene.Materials,
            new(() => Names(scene.Materials)),
            new(() => NodesOf(scene.Materials)),
            new(() => SlotsOf(scene.Materials))
        );

    /// <param name="same">Of a scene whose materials and nodes have the same names in the same places.</param>
    internal SceneIndex(Scene scene, SceneIndex same) =>
        (Scene, Materials, places, readers, slots) = (scene, scene.Materials, same.places, same.readers, same.slots);

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

    /// <summary>The slot that most materials have an image of that node in; null when none has.</summary>
    internal string? UsualSlot(string node) => slots.Value.GetValueOrDefault(node);

    private static Dictionary<string, string> SlotsOf(IReadOnlyList<Material> materials) =>
        materials
            .SelectMany(m => m.Graph.Nodes)
            .Where(n => n.Image?.Slot is not null)
            .GroupBy(n => n.Name, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.GroupBy(n => n.Image!.Slot!).MaxBy(s => s.Count())!.Key, StringComparer.Ordinal);

    internal static ILookup<string, int> NodesOf(IReadOnlyList<Material> materials) =>
        materials.SelectMany((m, i) => m.Graph.Nodes.Select(n => (n.Name, i))).ToLookup(p => p.Name, p => p.i, StringComparer.Ordinal);
}
