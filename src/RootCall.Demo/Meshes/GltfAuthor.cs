using System.Numerics;
using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json;

namespace RootCall.Demo.Meshes;

/// <summary>A material of the demo: values and which image feeds which input.</summary>
internal sealed record DemoMaterial(string Name, params (string Input, string Image)[] Maps)
{
    public bool CutOut { get; init; }

    public float Emission { get; init; }

    /// <summary>Multiplies the base colour; null writes none.</summary>
    public Vector3? Tint { get; init; }

    /// <summary>What is written in place of a map; null writes none.</summary>
    public float? Roughness { get; init; }

    public float? Metallic { get; init; }
}

/// <summary>A mesh with its material and where it stands.</summary>
internal sealed record DemoPart(string Name, string Material, MeshData Mesh, params Vector3[] Places);

/// <summary>A camera that looks from one place to another.</summary>
/// <param name="Degrees">Height of what it sees, as an angle.</param>
internal sealed record DemoCamera(string Name, Vector3 From, Vector3 To, float Degrees);

/// <summary>A light that shines from one place to another.</summary>
/// <param name="Type">Of KHR_lights_punctual.</param>
/// <param name="Strength">Candela; lux of a directional one.</param>
internal sealed record DemoLamp(string Name, string Type, Vector3 From, Vector3 To, Vector3 Colour, float Strength);

/// <summary>Writes glTF 2.0, the way an exporter would: one buffer, one texture an image, indented JSON.</summary>
internal sealed class GltfAuthor : IDisposable
{
    private readonly MemoryStream bin = new();
    private readonly List<(int Offset, int Length, int Target)> views = [];
    private readonly List<(int View, int Type, int Count, string Shape, Vector3? Min, Vector3? Max)> accessors = [];

    public IReadOnlyList<DemoLamp> Lamps { get; init; } = [];

    /// <param name="uri">Written path for an image, or null to carry it in the buffer.</param>
    /// <param name="bytes">Contents of an image that is carried.</param>
    /// <param name="bufferUri">File name of the buffer; null for a GLB.</param>
    public (byte[] Json, byte[] Bin) Write(
        IReadOnlyList<DemoMaterial> materials,
        IReadOnlyList<DemoPart> parts,
        Func<string, string?> uri,
        Func<string, byte[]> bytes,
        string? bufferUri,
        params IReadOnlyList<DemoCamera> cameras
    )
    {
        // Parts of one shape read the same accessors.
        var added = new Dictionary<MeshData, int>();
        var meshes = parts.Select(p => added.TryGetValue(p.Mesh, out var known) ? known : added[p.Mesh] = Add(p.Mesh)).ToList();
        var images = materials.SelectMany(m => m.Maps).Select(m => m.Image).Distinct().ToList();
        var carried = images.ToDictionary(i => i, i => uri(i) is null ? View(bytes(i), 0) : -1);
        using var buffer = new MemoryStream();
        using (
            var json = new Utf8JsonWriter(
                buffer,
                new()
                {
                    Indented = true,
                    NewLine = "\n",
                    Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
                }
            )
        )
        {
            json.WriteStartObject();
            json.WriteStartObject("asset");
            json.WriteString("version", "2.0");
            json.WriteString("copyright", "The Tin Orchard, a made-up film");
            json.WriteEndObject();
            json.WriteNumber("scene", 0);
            var nodes = parts
                .SelectMany(
                    (p, mesh) =>
                        p.Places.Select((at, n) => (Name: p.Places.Length > 1 ? $"{p.Name}_{n + 1:00}" : p.Name, Mesh: mesh, At: at))
                )
                .ToList();
            var all = Enumerable.Range(0, nodes.Count + cameras.Count + Lamps.Count);
            Array(json, "scenes", [0], _ => Numbers(json, "nodes", all));
            Array(json, "nodes", all, i =>
            {
                if (i >= nodes.Count + cameras.Count)
                    Lamp(json, Lamps[i - nodes.Count - cameras.Count], i - nodes.Count - cameras.Count);
                else if (i >= nodes.Count)
                    Camera(json, cameras[i - nodes.Count], i - nodes.Count);
                else
                {
                    json.WriteString("name", nodes[i].Name);
                    json.WriteNumber("mesh", nodes[i].Mesh);
                    if (nodes[i].At is var at && at != Vector3.Zero)
                        Numbers(json, "translation", [at.X, at.Y, at.Z]);
                }
            });
            Lights(json);
            if (cameras.Count > 0)
                Array(json, "cameras", cameras, c =>
                {
                    json.WriteString("name", c.Name);
                    json.WriteString("type", "perspective");
                    json.WriteStartObject("perspective");
                    json.WriteNumber("yfov", MathF.Round(c.Degrees * MathF.PI / 180, 4));
                    json.WriteNumber("znear", 0.01f);
                    json.WriteEndObject();
                });
            Array(json, "meshes", parts.Select((p, i) => (p, i)), m =>
            {
                json.WriteString("name", m.p.Name);
                Array(json, "primitives", [m], _ =>
                {
                    json.WriteStartObject("attributes");
                    json.WriteNumber("POSITION", meshes[m.i]);
                    json.WriteNumber("NORMAL", meshes[m.i] + 1);
                    json.WriteNumber("TEXCOORD_0", meshes[m.i] + 2);
                    json.WriteEndObject();
                    json.WriteNumber("indices", meshes[m.i] + 3);
                    json.WriteNumber("material", materials.Select(x => x.Name).ToList().IndexOf(m.p.Material));
                });
            });
            Array(json, "materials", materials, m => Material(json, m, images));
            Array(json, "textures", images, i =>
            {
                json.WriteNumber("sampler", 0);
                json.WriteNumber("source", images.IndexOf(i));
            });
            Array(json, "samplers", [0], _ => json.WriteNumber("minFilter", 9987));
            Array(json, "images", images, i =>
            {
                if (uri(i) is { } path)
                    json.WriteString("uri", path);
                else
                {
                    json.WriteString("name", Path.GetFileNameWithoutExtension(i));
                    json.WriteNumber("bufferView", carried[i]);
                    json.WriteString("mimeType", i.EndsWith(".png", StringComparison.Ordinal) ? "image/png" : "image/jpeg");
                }
            });
            Array(json, "accessors", accessors, a =>
            {
                json.WriteNumber("bufferView", a.View);
                json.WriteNumber("componentType", a.Type);
                json.WriteNumber("count", a.Count);
                json.WriteString("type", a.Shape);
                if (a.Min is { } min)
                    Numbers(json, "min", [min.X, min.Y, min.Z]);
                if (a.Max is { } max)
                    Numbers(json, "max", [max.X, max.Y, max.Z]);
            });
            Array(json, "bufferViews", views, v =>
            {
                json.WriteNumber("buffer", 0);
                json.WriteNumber("byteOffset", v.Offset);
                json.WriteNumber("byteLength", v.Length);
                if (v.Target > 0)
                    json.WriteNumber("target", v.Target);
            });
            Array(json, "buffers", [0], _ =>
            {
                if (bufferUri is not null)
                    json.WriteString("uri", bufferUri);
                json.WriteNumber("byteLength", bin.Length);
            });
            json.WriteEndObject();
        }

        return (buffer.ToArray(), bin.ToArray());
    }

    private static void Camera(Utf8JsonWriter json, DemoCamera camera, int index)
    {
        json.WriteString("name", $"camera_{camera.Name}");
        json.WriteNumber("camera", index);
        Looking(json, camera.From, camera.To);
    }

    private static void Lamp(Utf8JsonWriter json, DemoLamp lamp, int index)
    {
        json.WriteString("name", lamp.Name);
        json.WriteStartObject("extensions");
        json.WriteStartObject(PunctualLights);
        json.WriteNumber("light", index);
        json.WriteEndObject();
        json.WriteEndObject();
        Looking(json, lamp.From, lamp.To);
    }

    /// <summary>A camera of glTF looks along -z, and a light shines along it.</summary>
    private static void Looking(Utf8JsonWriter json, Vector3 from, Vector3 to)
    {
        Matrix4x4.Invert(Matrix4x4.CreateLookAt(from, to, Vector3.UnitY), out var placed);
        var turn = Quaternion.CreateFromRotationMatrix(placed);
        Numbers(json, "translation", [from.X, from.Y, from.Z]);
        Numbers(json, "rotation", [turn.X, turn.Y, turn.Z, turn.W]);
    }

    private const string PunctualLights = "KHR_lights_punctual";

    private void Lights(Utf8JsonWriter json)
    {
        if (Lamps.Count == 0)
            return;
        json.WriteStartArray("extensionsUsed");
        json.WriteStringValue(PunctualLights);
        json.WriteEndArray();
        json.WriteStartObject("extensions");
        json.WriteStartObject(PunctualLights);
        Array(json, "lights", Lamps, l =>
        {
            json.WriteString("name", l.Name);
            json.WriteString("type", l.Type);
            json.WriteNumber("intensity", l.Strength);
            Numbers(json, "color", [l.Colour.X, l.Colour.Y, l.Colour.Z]);
        });
        json.WriteEndObject();
        json.WriteEndObject();
    }

    /// <summary>The binary container: JSON padded with spaces, the buffer with zeros.</summary>
    public static byte[] Glb(byte[] json, byte[] bin)
    {
        using var glb = new MemoryStream();
        using var writer = new BinaryWriter(glb, Encoding.ASCII);
        int jsonLength = (json.Length + 3) / 4 * 4,
            binLength = (bin.Length + 3) / 4 * 4;
        writer.Write("glTF"u8);
        writer.Write(2);
        writer.Write(12 + 8 + jsonLength + 8 + binLength);
        writer.Write(jsonLength);
        writer.Write("JSON"u8);
        writer.Write(json);
        for (var i = json.Length; i < jsonLength; i++)
            writer.Write((byte)' ');
        writer.Write(binLength);
        writer.Write("BIN\0"u8);
        writer.Write(bin);
        for (var i = bin.Length; i < binLength; i++)
            writer.Write((byte)0);
        writer.Flush();
        return glb.ToArray();
    }

    public void Dispose() => bin.Dispose();

    private static void Material(Utf8JsonWriter json, DemoMaterial material, List<string> images)
    {
        void Texture(string input, string image)
        {
            json.WriteStartObject(input);
            json.WriteNumber("index", images.IndexOf(image));
            json.WriteEndObject();
        }

        json.WriteString("name", material.Name);
        json.WriteStartObject("pbrMetallicRoughness");
        foreach (var (input, image) in material.Maps.Where(m => m.Input is "baseColorTexture" or "metallicRoughnessTexture"))
            Texture(input, image);
        if (material.Tint is { } tint)
            Numbers(json, "baseColorFactor", [tint.X, tint.Y, tint.Z, 1]);
        if (material.Metallic is { } metallic)
            json.WriteNumber("metallicFactor", metallic);
        if (material.Roughness is { } roughness)
            json.WriteNumber("roughnessFactor", roughness);
        json.WriteEndObject();
        foreach (var (input, image) in material.Maps.Where(m => m.Input is not ("baseColorTexture" or "metallicRoughnessTexture")))
            Texture(input, image);
        if (material.Emission > 0)
            Numbers(json, "emissiveFactor", [material.Emission, material.Emission, material.Emission]);
        if (!material.CutOut)
            return;
        json.WriteString("alphaMode", "MASK");
        json.WriteNumber("alphaCutoff", 0.5);
        json.WriteBoolean("doubleSided", true);
    }

    private int Add(MeshData mesh)
    {
        var first = accessors.Count;
        var (positions, normals, uvs) = (mesh.Positions.ToArray(), mesh.Normals.ToArray(), mesh.Uvs.ToArray());
        accessors.Add(
            (
                View(MemoryMarshal.AsBytes(positions.AsSpan()), 34962),
                5126,
                positions.Length,
                "VEC3",
                positions.Aggregate(Vector3.Min),
                positions.Aggregate(Vector3.Max)
            )
        );
        accessors.Add((View(MemoryMarshal.AsBytes(normals.AsSpan()), 34962), 5126, normals.Length, "VEC3", null, null));
        accessors.Add((View(MemoryMarshal.AsBytes(uvs.AsSpan()), 34962), 5126, uvs.Length, "VEC2", null, null));
        var indices = mesh.Indices.Select(i => (uint)i).ToArray();
        accessors.Add((View(MemoryMarshal.AsBytes(indices.AsSpan()), 34963), 5125, indices.Length, "SCALAR", null, null));
        return first;
    }

    private int View(ReadOnlySpan<byte> bytes, int target)
    {
        while (bin.Length % 4 != 0)
            bin.WriteByte(0);
        views.Add(((int)bin.Length, bytes.Length, target));
        bin.Write(bytes);
        return views.Count - 1;
    }

    private static void Array<T>(Utf8JsonWriter json, string name, IEnumerable<T> items, Action<T> write)
    {
        json.WriteStartArray(name);
        foreach (var item in items)
        {
            json.WriteStartObject();
            write(item);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void Numbers<T>(Utf8JsonWriter json, string name, IEnumerable<T> numbers)
        where T : IConvertible
    {
        json.WriteStartArray(name);
        foreach (var number in numbers)
            json.WriteRawValue(number.ToString(System.Globalization.CultureInfo.InvariantCulture));
        json.WriteEndArray();
    }
}
