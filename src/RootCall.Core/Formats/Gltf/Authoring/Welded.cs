using System.IO.Hashing;
using System.Numerics;
using System.Runtime.InteropServices;
using RootCall.Core.Geometry;

namespace RootCall.Core.Formats.Gltf.Authoring;

/// <summary>Corners that carry the same of everything become one vertex, as glTF has them.</summary>
/// <param name="countsDown">V of the geometry grows downwards already.</param>
internal sealed class Welded(MeshGeometry geometry, bool countsDown)
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

    /// <param name="triangles">Three corners each.</param>
    public void AddTriangles(ReadOnlySpan<int> triangles)
    {
        for (var t = 0; t + 2 < triangles.Length; t += 3)
        {
            Add(triangles[t]);
            // Counterclockwise is the front (glTF 2.0, 3.7.2.1).
            Add(triangles[geometry.IsLeftHanded ? t + 2 : t + 1]);
            Add(triangles[geometry.IsLeftHanded ? t + 1 : t + 2]);
        }
    }

    private void Add(int corner)
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

    private float[] Written(GeometryUse use, ReadOnlySpan<float> value)
    {
        if (use == GeometryUse.Uv)
            return
            [
                value[0],
                value.Length < 2 ? 1
                : countsDown ? value[1]
                : 1 - value[1],
            ];
        if (use == GeometryUse.Colour)
            return value.ToArray();
        var normal = new Vector3(value);
        // Normals are of unit length (glTF 2.0, 3.7.2.1); one that is none points up.
        normal = normal.LengthSquared() > 1e-20f ? Vector3.Normalize(normal) : Vector3.UnitY;
        return [normal.X, normal.Y, normal.Z];
    }
}
