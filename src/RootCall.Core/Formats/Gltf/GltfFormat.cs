using System.Buffers.Text;
using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Gltf;

/// <summary>glTF 2.0 as text (.gltf) and in its binary container (.glb).</summary>
public sealed class GltfFormat : ISceneFormat
{
    private const string Partly = "Part of the scene could not be read: ";

    public ImmutableArray<string> Extensions { get; } = [".gltf", ".glb"];

    public Scene Read(string path, ReadContext context)
    {
        var notes = new List<ReadNote>();
        context.Progress?.Invoke($"reading {Path.GetFileName(path)}");
        using var stream = context.Open(path);
        var (root, _, glb) = Opened(stream, path, context.Bounds, notes);
        var broken = notes.FirstOrDefault(n => n.Message.StartsWith(Partly, StringComparison.Ordinal)) is { } note
            ? $"{note.Message[Partly.Length..]} Nothing can be written into it."
            : null;
        return new GltfReader(path, context.EditedCopy(path), root, glb, notes).Read(stream.Length, context.Stop) with { Broken = broken };
    }

    public FormatCapabilities Capabilities { get; } =
        new()
        {
            Name = "glTF",
            Refused = new Dictionary<SceneAct, string>
            {
                [SceneAct.LayNode] = "glTF has fields, no nodes: a factor multiplies an image, and nothing else is done to it.",
                [SceneAct.MakeLibrary] = "A glTF file holds its materials itself.",
                [SceneAct.SetAsset] = "glTF is not composed of layers.",
                [SceneAct.RemoveMaterial] = "glTF numbers its materials; taking one out would renumber the others.",
            }.ToFrozenDictionary(),
            References = ReferenceLife.Listed,
            Shape = new GltfShape(),
            Maker = new GltfMaker(),
            AssignsById = true,
            Written = static path => GltfUri.Decode(GltfUri.Encode(path)),
            MayCarry = file => GltfCarrier.MimeOf(file) is null ? GltfCarrier.NotCarried(file) : null,
        };

    public OwnChanges Changes(Scene before, Scene now)
    {
        using var stream = before.Files[0].Open();
        var (root, json, glb) = Opened(stream, before.Path, Bounds.Default, []);
        var carrier = new GltfCarrier(root, glb);
        var patch = new Json.JsonPatch(json, root);
        new GltfWriter(before, now, root, patch, carrier).Write();
        var edits = patch.Build(glb?.JsonStart ?? 0);
        return OwnChanges.Of((glb is null ? edits : glb.Complete(edits, carrier.Bin, stream)).Select(e => (0, e)));
    }

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths)
    {
        var edits = paths.Select(p => new ByteEdit(p.Key.Start, p.Key.Length, Quoted(GltfUri.Encode(p.Value)))).ToArray();
        using var stream = scene.Files[file].Open();
        return IsBinary(scene.Path, stream) ? [.. GlbContainer.Read(stream, scene.Path, []).Complete(edits, [], stream)] : [.. edits];
    }

    public Stream OpenCarried(CarriedData carried)
    {
        using var stream = RegularFile.Open(carried.File);
        if (carried.DataUri is not { } site)
        {
            var bytes = new byte[carried.Length];
            stream.Position = carried.Start;
            if (stream.ReadAtLeast(bytes, bytes.Length, throwOnEndOfStream: false) < bytes.Length)
                throw new CannotUseException(Invariant($"The data at byte {carried.Start:N0} is cut off by the end of the file."));
            return new MemoryStream(bytes);
        }

        var json = new byte[site.Length];
        stream.Position = site.Start;
        stream.ReadExactly(json);
        var text = new Utf8JsonReader(json);
        text.Read();
        var uri = Json.JsonTree.TextOf(ref text);
        try
        {
            return new MemoryStream(Decoded(uri));
        }
        catch (FormatException e)
        {
            throw new CannotUseException(Invariant($"The data URI at byte {site.Start:N0} {e.Message}."), e);
        }
    }

    /// <summary>The bytes in a data URI.</summary>
    /// <exception cref="FormatException">What it has instead of them.</exception>
    private static byte[] Decoded(string uri)
    {
        var comma = uri.IndexOf(',', StringComparison.Ordinal);
        if (comma < 0)
            throw new FormatException("has no comma before its data");
        if (!uri[..comma].EndsWith(";base64", StringComparison.OrdinalIgnoreCase))
            return Encoding.Latin1.GetBytes(Uri.UnescapeDataString(uri[(comma + 1)..]));
        try
        {
            return Convert.FromBase64String(uri[(comma + 1)..]);
        }
        catch (FormatException e)
        {
            throw new FormatException("is not valid base64", e);
        }
    }

    /// <summary>The bytes in the data URI of a buffer.</summary>
    /// <exception cref="CannotUseException">It holds none that can be read.</exception>
    internal static byte[] BufferIn(string uri, int buffer)
    {
        try
        {
            return Decoded(uri);
        }
        catch (FormatException e)
        {
            throw new CannotUseException(Invariant($"The data URI of buffer {buffer} {e.Message}."), e);
        }
    }

    public IGeometrySource Geometry(Scene scene, ReadContext context, IMeshDecoder? decoder)
    {
        var stream = scene.Files[0].Open();
        try
        {
            var (root, _, glb) = Opened(stream, scene.Path, context.Bounds, []);
            return new GltfGeometry(root, new(root, glb, stream, scene, context, decoder), scene, context.Bounds, decoder);
        }
        catch
        {
            stream.Dispose();
            throw;
        }
    }

    /// <summary>Length in bytes of the data in a data URI, without decoding it.</summary>
    internal static long DataLength(string uri)
    {
        var data = uri.AsSpan(uri.IndexOf(',', StringComparison.Ordinal) + 1);
        return Base64.GetMaxDecodedFromUtf8Length(data.Length) - data[Math.Max(0, data.Length - 2)..].Count('=');
    }

    // Paths are ASCII after percent-encoding, so nothing but quotes and backslashes could need an escape.
    private static byte[] Quoted(string path) =>
        Encoding.UTF8.GetBytes(
            $"\"{JsonEncodedText.Encode(path, System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping)}\""
        );

    private static bool IsBinary(string path, FileStream stream)
    {
        // What the file is, not what it is called: a .gltf that begins with the magic is a GLB.
        Span<byte> head = stackalloc byte[4];
        var read = stream.ReadAtLeast(head, 4, throwOnEndOfStream: false);
        stream.Position = 0;
        return head[..read].SequenceEqual("glTF"u8) || (read < 4 && path.EndsWith(".glb", StringComparison.OrdinalIgnoreCase));
    }

    private static (Json.JsonTree Root, byte[] Json, GlbContainer? Glb) Opened(
        FileStream stream,
        string path,
        Bounds bounds,
        List<ReadNote> notes
    )
    {
        var name = Path.GetFileName(path);
        var glb = IsBinary(path, stream) ? GlbContainer.Read(stream, name, notes) : null;
        var length = glb?.JsonLength ?? stream.Length;
        if (length > Math.Min(bounds.JsonBytes, Array.MaxLength))
            throw new CannotUseException(Invariant($"The JSON of “{name}” has {length:N0} bytes; at most {bounds.JsonBytes:N0} are read."));
        var json = new byte[length];
        stream.Position = glb?.JsonStart ?? 0;
        stream.ReadExactly(json);
        return (ParsedRoot(json, bounds, name, notes), json, glb);
    }

    private static Json.JsonTree ParsedRoot(byte[] json, Bounds bounds, string name, List<ReadNote> notes)
    {
        var root = Json.JsonTree.Read(json, bounds.JsonDepth, out var error);
        if (root.Kind != JsonValueKind.Object)
            throw new CannotUseException($"“{name}” is not glTF: it holds no JSON object{(error is null ? string.Empty : $", {error}")}.");
        if (error is not null)
            notes.Add(new($"{Partly}{error}.", name));
        var asset = root["asset"]["version"];
        var version = asset.Text ?? asset.Number?.ToString("0.0", System.Globalization.CultureInfo.InvariantCulture);
        if (version is not null && !version.StartsWith("2.", StringComparison.Ordinal) && version != "2")
            throw new CannotUseException($"“{name}” is glTF {version}; version 2 is read here.");
        if (version is null)
        {
            if (!root.Members.Any(m => m.Name is "scenes" or "nodes" or "meshes" or "materials" or "images" or "buffers"))
                throw new CannotUseException($"“{name}” is JSON, but not a glTF scene: it names no asset version and nothing of a scene.");
            notes.Add(new("No asset version is given; it was read as glTF 2.0.", $"{name}, /asset/version"));
        }

        return root;
    }
}
