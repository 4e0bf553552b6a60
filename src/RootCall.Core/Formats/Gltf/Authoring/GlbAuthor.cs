using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json.Nodes;
using RootCall.Core.Files;
using static System.FormattableString;

namespace RootCall.Core.Formats.Gltf.Authoring;

/// <summary>Faces of one material with what each corner carries.</summary>
/// <param name="Positions">x y z of each vertex.</param>
/// <param name="Normals">x y z of each vertex; null when there are none.</param>
/// <param name="Uvs">u v of each vertex for each set, v downward.</param>
/// <param name="Material">Index of the material, or -1.</param>
public sealed record GlbPrimitive(float[] Positions, float[]? Normals, IReadOnlyList<float[]> Uvs, uint[] Indices, int Material)
{
    /// <summary>Colours of each vertex for each set, three or four numbers; nothing shows them by itself.</summary>
    public IReadOnlyList<(int Width, float[] Values)> Colours { get; init; } = [];

    /// <summary>
    /// Positions, all from -1 to 1, and normals are written in whole numbers of 16 and 8 bits (KHR_mesh_quantization): what places the
    /// mesh scales them back.
    /// </summary>
    public bool IsQuantised { get; init; }
}

/// <summary>Writes a GLB for a scene whose own format is not written.</summary>
public sealed class GlbAuthor : IDisposable
{
    /// <summary>What a buffer view holds (<c>ARRAY_BUFFER</c>).</summary>
    private const int Vertices = 34962;

    private readonly HashSet<string> required = new(StringComparer.Ordinal);
    private readonly MemoryStream bin = new();
    private readonly JsonArray accessors = [];
    private readonly JsonArray views = [];
    private readonly JsonArray meshes = [];
    private readonly JsonArray nodes = [];
    private readonly JsonArray images = [];

    public JsonArray Materials { get; } = [];

    public JsonArray Textures { get; } = [];

    public JsonArray Samplers { get; } = [];

    public HashSet<string> Extensions { get; } = new(StringComparer.Ordinal);

    /// <returns>Index of the mesh.</returns>
    public int Mesh(string name, IEnumerable<GlbPrimitive> primitives)
    {
        var list = new JsonArray();
        foreach (var primitive in primitives)
        {
            var attributes = new JsonObject
            {
                ["POSITION"] = primitive.IsQuantised ? Quantised(primitive.Positions) : Accessor(primitive.Positions, "VEC3", bounds: true),
            };
            if (primitive.Normals is { } normals)
                attributes["NORMAL"] = primitive.IsQuantised ? Directions(normals) : Accessor(normals, "VEC3");
            foreach (var (uv, set) in primitive.Uvs.Select((u, i) => (u, i)))
                attributes[$"TEXCOORD_{set}"] = Accessor(uv, "VEC2");
            foreach (var ((width, colours), set) in primitive.Colours.Select((c, i) => (c, i)))
                attributes[$"_COLOR_{set}"] = Accessor(colours, width == 4 ? "VEC4" : "VEC3");
            var entry = new JsonObject
            {
                ["attributes"] = attributes,
                ["indices"] = Accessor(
                    View(MemoryMarshal.AsBytes(primitive.Indices.AsSpan()), 34963),
                    5125,
                    primitive.Indices.Length,
                    "SCALAR"
                ),
            };
            if (primitive.Material >= 0)
                entry["material"] = primitive.Material;
            list.Add((JsonNode)entry);
        }

        meshes.Add((JsonNode)new JsonObject { ["name"] = name, ["primitives"] = list });
        return meshes.Count - 1;
    }

    /// <param name="transform">Row-major for row vectors; empty for the identity.</param>
    /// <param name="extras">What else it says to whoever knows it; null for nothing.</param>
    public int Node(string name, int parent, int mesh, IReadOnlyList<double> transform, JsonObject? extras = null)
    {
        var node = new JsonObject { ["name"] = name };
        if (extras is not null)
            node["extras"] = extras;
        if (mesh >= 0)
            node["mesh"] = mesh;
        if (transform.Count == 16)
            node["matrix"] = new JsonArray([.. transform.Select(t => (JsonNode)t)]);
        nodes.Add((JsonNode)node);
        if (parent < 0)
            return nodes.Count - 1;
        var holder = (JsonObject)nodes[parent]!;
        if (holder["children"] is not JsonArray children)
            holder["children"] = children = [];
        children.Add((JsonNode)(nodes.Count - 1));
        return nodes.Count - 1;
    }

    /// <summary>An image that a file answers for.</summary>
    public int Image(string written)
    {
        images.Add((JsonNode)new JsonObject { ["uri"] = GltfUri.Encode(written) });
        return images.Count - 1;
    }

    /// <summary>An image that is carried inside.</summary>
    public int Image(string name, byte[] bytes, string mime)
    {
        images.Add(
            (JsonNode)
                new JsonObject
                {
                    ["name"] = name,
                    ["bufferView"] = View(bytes, 0),
                    ["mimeType"] = mime,
                }
        );
        return images.Count - 1;
    }

    /// <summary>Bytes of geometry and images so far.</summary>
    public long Bytes => bin.Length;

    public void Write(Stream output)
    {
        var json = new JsonObject { ["asset"] = new JsonObject { ["version"] = "2.0" } };
        if (Extensions.Count > 0)
            json["extensionsUsed"] = new JsonArray([.. Extensions.Select(e => (JsonNode)e)]);
        if (required.Count > 0)
            json["extensionsRequired"] = new JsonArray([.. required.Select(e => (JsonNode)e)]);
        json["scene"] = 0;
        var children = nodes.SelectMany(n => n!["children"]?.AsArray().Select(c => (int)c!) ?? []).ToHashSet();
        json["scenes"] = new JsonArray(
            new JsonObject
            {
                ["nodes"] = new JsonArray([.. Enumerable.Range(0, nodes.Count).Where(n => !children.Contains(n)).Select(n => (JsonNode)n)]),
            }
        );
        foreach (
            var (key, list) in new[]
            {
                ("nodes", nodes),
                ("meshes", meshes),
                ("materials", Materials),
                ("textures", Textures),
                ("samplers", Samplers),
                ("images", images),
                ("accessors", accessors),
                ("bufferViews", views),
            }
        )
            if (list.Count > 0)
                json[key] = list;
        if (bin.Length > 0)
            json["buffers"] = new JsonArray(new JsonObject { ["byteLength"] = bin.Length });
        var text = Encoding.UTF8.GetBytes(json.ToJsonString());
        long textLength = (text.Length + 3) / 4 * 4,
            binLength = (bin.Length + 3) / 4 * 4;
        var total = 12 + 8 + textLength + (bin.Length > 0 ? 8 + binLength : 0);
        if (total > uint.MaxValue)
            throw new CannotUseException(Invariant($"The scene would make a GLB of {total:N0} bytes; its header can say 4,294,967,295."));
        using var writer = new BinaryWriter(output, Encoding.UTF8, leaveOpen: true);
        writer.Write(GlbContainer.Magic);
        writer.Write(2);
        writer.Write((uint)total);
        writer.Write((uint)textLength);
        writer.Write("JSON"u8);
        writer.Write(text);
        writer.Write([.. Enumerable.Repeat((byte)' ', (int)(textLength - text.Length))]);
        if (bin.Length == 0)
            return;
        writer.Write((uint)binLength);
        writer.Write("BIN\0"u8);
        writer.Flush();
        bin.WriteTo(output);
        output.Write(new byte[binLength - bin.Length]);
    }

    public void Dispose() => bin.Dispose();

    private int Accessor(float[] values, string shape, bool bounds = false) =>
        Accessor(
            View(MemoryMarshal.AsBytes(values.AsSpan()), Vertices),
            5126,
            values.Length / (shape[^1] - '0'),
            shape,
            bounds ? values : null
        );

    /// <summary>16 bits each, and two to keep vertices on 4 bytes (glTF 2.0, 3.6.2.4).</summary>
    private int Quantised(float[] positions)
    {
        var steps = new short[positions.Length / 3 * 4];
        var rounded = new float[positions.Length];
        for (var i = 0; i < positions.Length; i++)
            rounded[i] = steps[(i / 3 * 4) + (i % 3)] = (short)MathF.Round(Math.Clamp(positions[i], -1, 1) * short.MaxValue);
        Quantises();
        var view = View(MemoryMarshal.AsBytes(steps.AsSpan()), Vertices, 4 * sizeof(short));
        return Accessor(view, 5122, positions.Length / 3, "VEC3", rounded, isNormalised: true);
    }

    private int Directions(float[] normals)
    {
        var steps = new sbyte[normals.Length / 3 * 4];
        for (var i = 0; i < normals.Length; i++)
            steps[(i / 3 * 4) + (i % 3)] = (sbyte)MathF.Round(Math.Clamp(normals[i], -1, 1) * sbyte.MaxValue);
        Quantises();
        return Accessor(View(MemoryMarshal.AsBytes(steps.AsSpan()), Vertices, 4), 5120, normals.Length / 3, "VEC3", isNormalised: true);
    }

    /// <summary>Readers have to know it: numbers of other types stand where floats were.</summary>
    private void Quantises()
    {
        Extensions.Add("KHR_mesh_quantization");
        required.Add("KHR_mesh_quantization");
    }

    private int Accessor(int view, int type, int count, string shape, float[]? bounds = null, bool isNormalised = false)
    {
        var accessor = new JsonObject
        {
            ["bufferView"] = view,
            ["componentType"] = type,
            ["count"] = count,
            ["type"] = shape,
        };
        if (isNormalised)
            accessor["normalized"] = true;
        if (bounds is { Length: >= 3 })
        {
            float[] min = [.. bounds.AsSpan(0, 3)],
                max = [.. bounds.AsSpan(0, 3)];
            for (var i = 3; i < bounds.Length; i++)
                (min[i % 3], max[i % 3]) = (Math.Min(min[i % 3], bounds[i]), Math.Max(max[i % 3], bounds[i]));
            accessor["min"] = new JsonArray([.. min.Select(v => (JsonNode)v)]);
            accessor["max"] = new JsonArray([.. max.Select(v => (JsonNode)v)]);
        }

        accessors.Add((JsonNode)accessor);
        return accessors.Count - 1;
    }

    private int View(ReadOnlySpan<byte> bytes, int target, int stride = 0)
    {
        while (bin.Length % 4 != 0)
            bin.WriteByte(0);
        var view = new JsonObject
        {
            ["buffer"] = 0,
            ["byteOffset"] = bin.Length,
            ["byteLength"] = bytes.Length,
        };
        if (target > 0)
            view["target"] = target;
        if (stride > 0)
            view["byteStride"] = stride;
        views.Add((JsonNode)view);
        bin.Write(bytes);
        return views.Count - 1;
    }
}
