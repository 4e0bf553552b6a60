namespace RootCall.Core.Scenes;

/// <summary>Where in a scene the materials stand that its meshes wear: by id where the format assigns by one, by name otherwise.</summary>
internal sealed class MaterialPlaces(Scene scene)
{
    private readonly Dictionary<string, int> byId = Places(scene, m => m.Id);
    private readonly Dictionary<string, int> byName = Places(scene, m => m.Name);

    /// <summary>Index into <see cref="Scene.Materials"/>, or -1 for none.</summary>
    public int Of(MeshPart part) =>
        part.MaterialId.Length > 0 && byId.TryGetValue(part.MaterialId, out var own) ? own : byName.GetValueOrDefault(part.Material, -1);

    private static Dictionary<string, int> Places(Scene scene, Func<Material, string> key) =>
        scene.Materials.Select((m, i) => (Key: key(m), i)).DistinctBy(m => m.Key).ToDictionary(m => m.Key, m => m.i);
}
