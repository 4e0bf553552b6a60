using System.IO.Hashing;
using System.Numerics;
using System.Runtime.InteropServices;
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
        if (geometry.Surface is SurfaceKind.CatmullClarkCage or SurfaceKind.LoopCage)
            told.Add($"“{mesh.Name}” is a subdivision surface; glTF has none, so its cage was written.");
        if (geometry.Stream(GeometryUse.Colour) is not null)
            told.Add("Vertex colours are kept as _COLOR_0: glTF would multiply the base colour by COLOR_0.");
        foreach (var note in geometry.Notes)
            told.Add($"“{mesh.Name}”: {note}");
        var primitives = new List<GlbPrimitive>();
        for (var part = 0; part < Math.Max(1, mesh.Parts.Length); part++)
        {
            var welded = new Welded(geometry);
            var triangles = geometry.Triangles(mesh.Parts.Length > 1 ? part : null);
            for (var t = 0; t + 2 < triangles.Length; t += 3)
            {
                welded.Add(triangles[t]);
                // Counterclockwise is the front (glTF 2.0, 3.7.2.1).
                welded.Add(triangles[geometry.IsLeftHanded ? t + 2 : t + 1]);
                welded.Add(triangles[geometry.IsLeftHanded ? t + 1 : t + 2]);
            }

            if (welded.Any)
                primitives.Add(welded.Primitive(part < mesh.Parts.Length ? materialOf(mesh.Parts[part]) : -1));
        }

        return meshes[index] = primitives.Count == 0 ? -1 : glb.Mesh(mesh.Name, primitives);
    }

    /// <summary>Corners that carry the same of everything become one vertex.</summary>
    private sealed class Welded(MeshGeometry geometry)
    {
        private readonly XxHash128 hash = new();
        private readonly Dictionary<UInt128, uint> known = [];
        private readonly List<float> positions = [];
        private readonly List<(GeometryStream Stream, List<float> Values)> streams =
        [
            .. geometry
                .Streams.Where(s => s.Use is GeometryUse.Normal or GeometryUse.Uv or GeometryUse.Colour)
                .Where(s => s.Use != GeometryUse.Normal || s == geometry.Stream(GeometryUse.Normal))
                .Select(s => (s, new List<float>())),
        ];
        private readonly List<uint> indices = [];

        public bool Any => indices.Count > 0;

        public void Add(int corner)
        {
            var point = geometry.Corners.Span[corner];
            var key = Key(corner, point);
            if (!known.TryGetValue(key, out var index))
            {
                known[key] = index = (uint)(positions.Count / 3);
                positions.AddRange(geometry.Points.Span.Slice(point * 3, 3));
                foreach (var (stream, values) in streams)
                    values.AddRange(Written(stream.Use, At(stream, corner)));
            }

            indices.Add(index);
        }

        public GlbPrimitive Primitive(int material) =>
            new(
                [.. positions],
                Of(GeometryUse.Normal).FirstOrDefault().Values,
                [.. Of(GeometryUse.Uv).Select(u => u.Values)],
                [.. indices],
                material
            )
            {
                Colours = [.. Of(GeometryUse.Colour).Select(c => (c.Width, c.Values))],
            };

        private IEnumerable<(int Width, float[] Values)> Of(GeometryUse use) =>
            streams.Where(s => s.Stream.Use == use).Select(s => (s.Stream.Width, s.Values.ToArray()));

        private UInt128 Key(int corner, int point)
        {
            hash.Reset();
            hash.Append(MemoryMarshal.AsBytes(new ReadOnlySpan<int>(in point)));
            foreach (var (stream, _) in streams)
                hash.Append(MemoryMarshal.AsBytes(At(stream, corner)));
            return hash.GetCurrentHashAsUInt128();
        }

        /// <summary>A corner without a value has zeros.</summary>
        private ReadOnlySpan<float> At(GeometryStream stream, int corner) =>
            stream.At(geometry, corner) is { IsEmpty: false } value ? value : new float[stream.Width];

        private static float[] Written(GeometryUse use, ReadOnlySpan<float> value)
        {
            if (use == GeometryUse.Uv)
                return [value[0], 1 - (value.Length > 1 ? value[1] : 0)];
            if (use == GeometryUse.Colour)
                return value.ToArray();
            var normal = new Vector3(value);
            // Normals are of unit length (glTF 2.0, 3.7.2.1); one that is none points up.
            normal = normal.LengthSquared() > 1e-20f ? Vector3.Normalize(normal) : Vector3.UnitY;
            return [normal.X, normal.Y, normal.Z];
        }
    }
}
