using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Json;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Gltf;

/// <summary>
/// The primitives of a mesh in a row, each a part (glTF 2.0, 3.7.2, "Meshes"). Primitives that share their vertices share their
/// points here; strips and fans are cut into triangles.
/// </summary>
internal sealed class GltfGeometry(JsonTree root, GltfBuffers buffers, Scene scene, Bounds bounds, IMeshDecoder? decoder) : IGeometrySource
{
    private const string Draco = "KHR_draco_mesh_compression";

    public void Dispose() => buffers.Dispose();

    public MeshGeometry Read(int mesh, CancellationToken stop = default)
    {
        var measured = scene.Meshes[mesh];
        var budget = new GeometryBudget(bounds, measured.Name);
        var accessors = new GltfAccessors(root, buffers, budget, stop);
        var entry = Entry(measured);
        var groups = new Dictionary<string, VertexGroup>(StringComparer.Ordinal);
        var primitives = new List<(VertexGroup Group, int[] Corners)>();
        var notes = ImmutableArray.CreateBuilder<string>();
        var points = 0;
        foreach (var (primitive, p) in entry["primitives"].Items.Select((v, i) => (v, i)))
        {
            stop.ThrowIfCancellationRequested();
            var packed = primitive["extensions"][Draco];
            var key = packed.Exists ? $"{p}" : string.Join(' ', primitive["attributes"].Members.Select(a => $"{a.Name}={a.Value.Index}"));
            int[]? indices = null;
            if (!groups.TryGetValue(key, out var group))
            {
                group = packed.Exists
                    ? Unpacked(primitive, packed, accessors, budget, points, out indices, stop)
                    : VertexGroup.Read(primitive["attributes"], accessors, points);
                groups[key] = group;
                points += group.Count;
            }

            indices ??= primitive["indices"].Index is { } i ? accessors.Integers(i) : [.. Enumerable.Range(0, group.Count)];
            var triangles = Triangles(indices, (int)(primitive["mode"].Number ?? 4));
            var valid = Valid(triangles, group);
            if (valid.Length < triangles.Length)
                notes.Add(
                    Invariant($"{(triangles.Length - valid.Length) / 3:N0} triangles of primitive {p} call for points that are not there.")
                );
            primitives.Add((group, valid));
        }

        return Together(primitives, [.. groups.Values], budget) with
        {
            Notes = notes.ToImmutable(),
        };
    }

    /// <summary>One that comes into being has the geometry of the one that it is like.</summary>
    private JsonTree Entry(Mesh measured) =>
        Entry(measured.Id)
        ?? (measured.CopyOf is { } like ? Entry(like) : null)
        ?? throw new CannotUseException($"The mesh {measured.Name} is not in the file any more.");

    private JsonTree? Entry(string id) =>
        int.TryParse(id.AsSpan(id.LastIndexOf('/') + 1), out var index) && root["meshes"][index] is { Exists: true } entry ? entry : null;

    private VertexGroup Unpacked(
        JsonTree primitive,
        JsonTree packed,
        GltfAccessors accessors,
        GeometryBudget budget,
        int first,
        out int[] indices,
        CancellationToken stop
    )
    {
        if (decoder is null)
            throw new CannotUseException($"The geometry is compressed with {Draco}, and there is nothing here that unpacks it.");
        var wanted = packed["attributes"].Members.Where(a => a.Value.Index is not null).ToList();
        var bytes = buffers.View(packed["bufferView"].Index ?? -1, budget, stop);
        var mesh = decoder.UnpackMesh(bytes, [.. wanted.Select(a => a.Value.Index!.Value)], stop);
        budget.Take(mesh.Indices.Length, sizeof(int));
        var attributes = new Dictionary<string, (int Width, float[] Values)>(StringComparer.Ordinal);
        foreach (var ((name, _), (width, values)) in wanted.Zip(mesh.Attributes))
        {
            budget.Take(values.Length, sizeof(float));
            // What the accessor says of the numbers holds for the unpacked ones too.
            if (primitive["attributes"][name].Index is { } accessor && accessors.IsNormalised(accessor))
                accessors.Normalise(accessor, values);
            attributes[name] = (width, values);
        }

        indices = mesh.Indices;
        return new(first, mesh.Points, attributes);
    }

    /// <summary>Corners of triangles, three each (glTF 2.0, 3.7.2.1: strips and fans).</summary>
    private static int[] Triangles(int[] indices, int mode) =>
        mode switch
        {
            4 => indices.Length % 3 == 0 ? indices : indices[..(indices.Length / 3 * 3)],
            5 =>
            [
                .. Enumerable
                    .Range(0, Math.Max(0, indices.Length - 2))
                    .SelectMany(i => new[] { indices[i], indices[i + 1 + (i % 2)], indices[i + 2 - (i % 2)] }),
            ],
            6 =>
            [
                .. Enumerable
                    .Range(0, Math.Max(0, indices.Length - 2))
                    .SelectMany(i => new[] { indices[i + 1], indices[i + 2], indices[0] }),
            ],
            _ => [], // Points and lines have no faces.
        };

    private static int[] Valid(int[] triangles, VertexGroup group)
    {
        if (Array.TrueForAll(triangles, c => (uint)c < (uint)group.Count))
            return triangles;
        return [.. triangles.Chunk(3).Where(t => Array.TrueForAll(t, c => (uint)c < (uint)group.Count)).SelectMany(t => t)];
    }

    private static MeshGeometry Together(
        List<(VertexGroup Group, int[] Corners)> primitives,
        List<VertexGroup> groups,
        GeometryBudget budget
    )
    {
        var corners = budget.Integers(primitives.Sum(p => (long)p.Corners.Length));
        var parts = budget.Integers(corners.Length / 3);
        var at = 0;
        for (var p = 0; p < primitives.Count; p++)
            foreach (var corner in primitives[p].Corners)
            {
                parts[at / 3] = p;
                corners[at++] = primitives[p].Group.First + corner;
            }

        var names = groups.SelectMany(g => g.Attributes.Keys).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal);
        return new()
        {
            Points = Joined(groups, "POSITION", 3),
            Corners = corners,
            FaceParts = primitives.Count > 1 ? parts : default,
            Streams =
            [
                .. names
                    .Select(n => (n, Use: UseOf(n)))
                    .Where(n => n.Use is not null)
                    .Select(n => Stream(n.n, n.Use!.Value, groups, corners)),
            ],
        };
    }

    private static GeometryUse? UseOf(string attribute) =>
        attribute switch
        {
            "NORMAL" => GeometryUse.Normal,
            "TANGENT" => GeometryUse.Tangent,
            _ when attribute.StartsWith("TEXCOORD_", StringComparison.Ordinal) => GeometryUse.Uv,
            _ when attribute.StartsWith("COLOR_", StringComparison.Ordinal) => GeometryUse.Colour,
            _ => null,
        };

    private static GeometryStream Stream(string name, GeometryUse use, List<VertexGroup> groups, int[] corners)
    {
        var width = groups.Max(g => g.Attributes.TryGetValue(name, out var a) ? a.Width : 0);
        var values = Joined(groups, name, width);
        if (groups.TrueForAll(g => g.Attributes.ContainsKey(name)))
            return new(use, name, width, values, default);
        // Some primitives have none: where the others' values lie, by the first point of each group.
        var starts = new SortedDictionary<int, int>();
        var next = 0;
        foreach (var group in groups)
        {
            starts[group.First] = group.Attributes.ContainsKey(name) ? next - group.First : int.MinValue;
            next += group.Attributes.ContainsKey(name) ? group.Count : 0;
        }

        var (firsts, moves) = (starts.Keys.ToArray(), starts.Values.ToArray());
        var indices = new int[corners.Length];
        for (var c = 0; c < corners.Length; c++)
        {
            var found = Array.BinarySearch(firsts, corners[c]);
            var move = moves[found < 0 ? ~found - 1 : found];
            indices[c] = move == int.MinValue ? -1 : corners[c] + move;
        }

        return new(use, name, width, values, indices);
    }

    /// <summary>An attribute of all groups that have it; three-part colours beside four-part ones are opaque.</summary>
    private static float[] Joined(List<VertexGroup> groups, string name, int width)
    {
        var parts = groups.Where(g => g.Attributes.ContainsKey(name)).Select(g => g.Attributes[name]).ToList();
        if (parts.Count == 1 && parts[0].Width == width)
            return parts[0].Values;
        var joined = new float[parts.Sum(p => p.Values.Length / p.Width * width)];
        var at = 0;
        foreach (var (own, values) in parts)
            for (var i = 0; i + own <= values.Length; i += own)
            for (var k = 0; k < width; k++)
                joined[at++] = k < own ? values[i + k] : 1;
        return joined;
    }

    /// <summary>Vertices that one or several primitives use.</summary>
    /// <param name="First">Place of its first point in the mesh.</param>
    private sealed record VertexGroup(int First, int Count, Dictionary<string, (int Width, float[] Values)> Attributes)
    {
        public static VertexGroup Read(JsonTree attributes, GltfAccessors accessors, int first)
        {
            var read = new Dictionary<string, (int Width, float[] Values)>(StringComparer.Ordinal);
            foreach (var (name, value) in attributes.Members)
                if (value.Index is { } accessor && (name == "POSITION" || UseOf(name) is not null))
                    read[name] = (accessors.Width(accessor), accessors.Floats(accessor));
            if (read.GetValueOrDefault("POSITION") is not { Width: 3 } positions)
                return new(first, 0, read);
            var count = positions.Values.Length / 3;
            // One that is shorter than the points would leave some without a value.
            foreach (var name in read.Where(r => r.Value.Values.Length / r.Value.Width != count).Select(r => r.Key).ToList())
                read.Remove(name);
            return new(first, count, read);
        }
    }
}
