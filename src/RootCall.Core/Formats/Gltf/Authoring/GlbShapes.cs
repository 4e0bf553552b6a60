using RootCall.Core.Files;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf.Authoring;

/// <summary>
/// Geometry and hierarchy of a scene of another format as glTF has them: triangles, indexed, V downward. One node above all turns and
/// scales what is not in metres with Y up; nothing else is converted. What could not be taken along is told.
/// </summary>
/// <param name="unit">Metres of a unit where the scene does not say.</param>
internal sealed class GlbShapes(Scene scene, IGeometrySource source, GlbAuthor glb, double unit)
{
    private readonly SortedSet<string> told = new(StringComparer.Ordinal);
    private readonly Dictionary<int, int> meshes = [];
    private readonly Dictionary<(int Material, string Set), int> sets = [];

    public IReadOnlyCollection<string> Told => told;

    /// <summary>Numbers of UV sets, by the place of the material that is worn and by name.</summary>
    public IReadOnlyDictionary<(int Material, string Set), int> Sets => sets;

    /// <param name="materialOf">Index of the material that a part wears, or -1.</param>
    /// <exception cref="CannotUseException">A mesh cannot be read.</exception>
    public void Write(Func<MeshPart, int> materialOf, CancellationToken stop)
    {
        var up = Transforms.Upright(scene.UpAxis);
        var metres = scene.MetresPerUnit ?? unit;
        glb.Node(Path.GetFileNameWithoutExtension(scene.Path), -1, -1, Transforms.Multiply(up, Transforms.Scaling(metres, metres, metres)));
        foreach (var node in scene.Nodes)
        {
            stop.ThrowIfCancellationRequested();
            glb.Node(node.Name, node.Parent + 1, node.Mesh < 0 ? -1 : Mesh(node.Mesh, materialOf, stop), node.Transform);
        }
    }

    private int Mesh(int index, Func<MeshPart, int> materialOf, CancellationToken stop)
    {
        if (meshes.TryGetValue(index, out var known))
            return known;
        var mesh = scene.Meshes[index];
        // One that cannot be read ends it: a scene without it would not be the scene.
        var geometry = source.Read(index, stop);
        foreach (var part in mesh.Parts)
        foreach (var (name, number) in geometry.Streams.Where(s => s.Use == GeometryUse.Uv).Select((s, i) => (s.Name, i)))
            sets.TryAdd((materialOf(part), name), number);
        if (geometry.IsSmoothCage)
            told.Add($"“{mesh.Name}” is a subdivision surface; glTF has none, so its cage was written.");
        if (geometry.Stream(GeometryUse.Colour) is not null)
            told.Add("Vertex colours are kept as _COLOR_0: glTF would multiply the base colour by COLOR_0.");
        foreach (var note in geometry.Notes)
            told.Add($"“{mesh.Name}”: {note}");
        var primitives = new List<GlbPrimitive>();
        for (var part = 0; part < Math.Max(1, mesh.Parts.Length); part++)
        {
            var welded = new Welded(geometry, countsDown: false);
            welded.AddTriangles(geometry.Triangles(mesh.Parts.Length > 1 ? part : null));
            if (welded.Any)
                primitives.Add(welded.Primitive(part < mesh.Parts.Length ? materialOf(mesh.Parts[part]) : -1));
        }

        return meshes[index] = primitives.Count == 0 ? -1 : glb.Mesh(mesh.Name, primitives);
    }
}
