using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats.Gltf;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Collada;

/// <summary>Reads a COLLADA 1.4.1 document.</summary>
internal sealed class ColladaReader(string path, ReadContext context)
{
    private const int MaxNodes = 1_000_000;
    private readonly List<ReadNote> notes = [];
    private readonly ImmutableArray<SceneCamera>.Builder cameras = ImmutableArray.CreateBuilder<SceneCamera>();
    private readonly ImmutableArray<Lamp>.Builder lamps = ImmutableArray.CreateBuilder<Lamp>();
    private readonly string name = Path.GetFileName(path);

    public static ColladaDocument Parse(byte[] bytes, string name, List<ReadNote> notes)
    {
        var reading = new XmlReading();
        var root = reading.Read(bytes);
        if (root is not { Name: "COLLADA" })
            throw new CannotUseException($"“{name}” is not COLLADA: its root element is not COLLADA.");
        if (root["version"] is { } version && !version.StartsWith("1.4", StringComparison.Ordinal))
            notes.Add(new($"The document says version {version}; it was read as 1.4.1.", name));
        notes.AddRange(reading.Errors.Select(e => new ReadNote($"Not well-formed: {e}; what stands before it was read.", name)));
        return new(bytes, root);
    }

    public Scene Read()
    {
        context.Progress?.Invoke($"reading {name}");
        using var stream = context.Open(path);
        var (document, length) = Open(stream, path, context.Bounds, notes, out wide);
        if (wide)
            notes.Add(new("The document is UTF-16; it is read, and paths in it stay as they are.", name));
        context.Stop.ThrowIfCancellationRequested();

        var builder = new ReferenceListBuilder(Path.GetDirectoryName(path)!, path);
        var images = Images(document, builder);
        OutsideDocuments(document, builder);
        var looks = new ColladaMaterials(document, images);
        var materials = document.Library("library_materials", "material").Select(looks.Read).ToImmutableArray();
        builder.UseAll(materials);
        var (nodes, meshes) = Hierarchy(document);
        var unit = document.Root.Child("asset")?.Child("unit")?["meter"];
        var up = document.Text(document.Root.Child("asset")?.Child("up_axis"));
        return new(
            path,
            new("dae", "COLLADA 1.4"),
            [new SourceFile(path, length, null) { Edited = context.EditedCopy(path) }],
            materials,
            builder.ToImmutable(),
            new(nodes.Length, meshes.Length, materials.Length, images.Count, meshes.Sum(m => m.Triangles)),
            [.. notes]
        )
        {
            Nodes = nodes,
            Meshes = meshes,
            Broken = wide ? "The document is UTF-16; nothing can be written into it." : null,
            // COLLADA 1.4.1, unit: one metre is the default; up_axis: Y_UP is the default.
            MetresPerUnit = double.TryParse(unit?.Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var metres)
                ? metres
                : 1,
            UpAxis = up switch
            {
                "X_UP" => "X",
                "Z_UP" => "Z",
                _ => "Y",
            },
            Cameras = cameras.ToImmutable(),
            Lamps = lamps.ToImmutable(),
            Lights =
            [
                .. document
                    .Library("library_lights", "light")
                    .Select(l => new SceneLight(
                        l["name"] ?? l["id"] ?? "light",
                        l.Child("technique_common")?.Children is [var kind, ..] ? kind.Name : "unknown"
                    )),
            ],
        };
    }

    private bool wide;

    /// <param name="wide">It is in sixteen bits; its byte offsets then are of no use to a writer.</param>
    /// <returns>The document, and its length in bytes as it was read.</returns>
    internal static (ColladaDocument Document, int Length) Open(
        FileStream stream,
        string path,
        Bounds bounds,
        List<ReadNote> notes,
        out bool wide
    )
    {
        var bytes = RegularFile.Bytes(stream, path, bounds.TextBytes);
        wide = Wide(ref bytes);
        return (Parse(bytes, Path.GetFileName(path), notes), bytes.Length);
    }

    /// <summary>A document in sixteen bits is read as if it were UTF-8.</summary>
    private static bool Wide(ref byte[] bytes)
    {
        var encoding = bytes switch
        {
            [0xFF, 0xFE, ..] => Encoding.Unicode,
            [0xFE, 0xFF, ..] => Encoding.BigEndianUnicode,
            _ => null,
        };
        if (encoding is null)
            return false;
        bytes = Encoding.UTF8.GetBytes(encoding.GetString(bytes.AsSpan(2)));
        return true;
    }

    /// <summary>init_from holds a URI; 1.5 wraps it in ref, and some writers put the image's bytes inside as hexadecimal.</summary>
    private Dictionary<XmlTree, ReferenceKey> Images(ColladaDocument document, ReferenceListBuilder builder)
    {
        var images = new Dictionary<XmlTree, ReferenceKey>();
        foreach (var image in document.Library("library_images", "image"))
        {
            var from = image.Child("init_from")?.Child("ref") ?? image.Child("init_from");
            var uri = document.Text(from);
            if (from is null || uri.Length == 0)
            {
                notes.Add(new($"Image {image["id"]} names no file; it was left out.", $"{name}, line {image.Line}"));
                continue;
            }

            var content = document.Bytes[from.ContentStart..from.ContentEnd];
            var start = from.ContentStart + (content.Length - content.TrimStart(" \t\r\n"u8).Length);
            var site = new ReferenceSite(0, start, content.Trim(" \t\r\n"u8).Length, SiteNotation.XmlUri);
            images[image] = builder.Add(ReferenceKind.Image, GltfUri.Decode(uri), wide ? null : site, []);
        }

        return images;
    }

    /// <summary>What other documents are called for: url attributes with something before their fragment.</summary>
    private static void OutsideDocuments(ColladaDocument document, ReferenceListBuilder builder)
    {
        foreach (var tree in document.Root.Descendants())
        {
            if (tree.Attribute("url") is not { } url)
                continue;
            var hash = url.Value.IndexOf('#', StringComparison.Ordinal);
            var file = hash < 0 ? url.Value : url.Value[..hash];
            if (file.Length == 0)
                continue;
            var length = document.Bytes[url.Start..url.End].IndexOf((byte)'#') is var h and >= 0 ? h : url.End - url.Start;
            builder.Add(
                ReferenceKind.Document,
                GltfUri.Decode(file),
                new(0, url.Start, length, SiteNotation.XmlUri),
                [new(string.Empty, tree.Name)]
            );
        }
    }

    private (ImmutableArray<SceneNode> Nodes, ImmutableArray<Mesh> Meshes) Hierarchy(ColladaDocument document)
    {
        var geometry = new ColladaGeometry(document);
        var meshes = ImmutableArray.CreateBuilder<Mesh>();
        var known = new Dictionary<string, int>(StringComparer.Ordinal);
        var nodes = ImmutableArray.CreateBuilder<SceneNode>();
        var scene = document.Find(document.Root.Child("scene")?.Child("instance_visual_scene")?["url"])
            ?? document.Library("library_visual_scenes", "visual_scene").FirstOrDefault();

        int MeshOf(XmlTree instance)
        {
            var target = document.Find(instance["url"]);
            // A controller deforms a geometry (skin) or mixes several (morph): the source is what is shown.
            for (var hops = 0; target is { Name: "controller" } && hops < 8; hops++)
                target = document.Find(target.Children.FirstOrDefault(c => c.Name is "skin" or "morph")?["source"]);
            if (target is not { Name: "geometry" })
            {
                notes.Add(new($"{instance.Name} calls for {instance["url"]}, which is not there.", $"{name}, line {instance.Line}"));
                return -1;
            }

            var bound = (instance.Child("bind_material")?.Child("technique_common")?.All("instance_material") ?? [])
                .DistinctBy(i => i["symbol"])
                .ToDictionary(i => i["symbol"] ?? string.Empty, i => i["target"] ?? string.Empty);
            var key = $"{target["id"]} {string.Join(' ', bound.Select(b => $"{b.Key}={b.Value}"))}";
            if (known.TryGetValue(key, out var index))
                return index;
            meshes.Add(
                geometry.Read(target, symbol =>
                    document.Find(bound.GetValueOrDefault(symbol)) is { Name: "material" } m ? ColladaMaterials.NameOf(m) : string.Empty
                )
            );
            return known[key] = meshes.Count - 1;
        }

        var open = new Stack<(XmlTree Node, int Parent, int Depth)>((scene?.All("node") ?? []).Reverse().Select(n => (n, -1, 0)));
        while (open.TryPop(out var step) && nodes.Count < MaxNodes)
        {
            var instances = step.Node.Children.Where(c => c.Name is "instance_geometry" or "instance_controller").Select(MeshOf).ToList();
            nodes.Add(
                new(step.Node["name"] ?? step.Node["id"] ?? "node", step.Parent, instances.Count > 0 ? instances[0] : -1)
                {
                    Transform = Transforms.Pack(Matrix(document, step.Node)),
                }
            );
            var index = nodes.Count - 1;
            foreach (var camera in step.Node.All("instance_camera"))
                if (ColladaCameras.Of(document, camera, nodes[index].Name, index) is { } seen)
                    cameras.Add(seen);
            foreach (var light in step.Node.All("instance_light"))
                if (ColladaLamps.Of(document, light, index) is { } lamp)
                    lamps.Add(lamp);
            foreach (var more in instances.Skip(1))
                nodes.Add(new(nodes[index].Name, index, more));
            if (step.Depth > 200)
            {
                notes.Add(
                    new("Nodes lie more than 200 deep or call for themselves; reading stopped there.", $"{name}, line {step.Node.Line}")
                );
                continue;
            }

            foreach (var child in step.Node.Children.Reverse())
            {
                if (child.Name == "node")
                    open.Push((child, index, step.Depth + 1));
                else if (child.Name == "instance_node" && document.Find(child["url"]) is { Name: "node" } placed)
                    open.Push((placed, index, step.Depth + 1));
            }
        }

        // A library without a scene still shows what it holds.
        if (nodes.Count == 0)
        {
            foreach (var shape in document.Library("library_geometries", "geometry"))
            {
                meshes.Add(geometry.Read(shape, _ => string.Empty));
                nodes.Add(new(meshes[^1].Name, -1, meshes.Count - 1));
            }
        }

        return (nodes.ToImmutable(), meshes.ToImmutable());
    }

    /// <summary>Transform elements are applied in the order of the file, each nearer to the geometry than the one before.</summary>
    private static double[] Matrix(ColladaDocument document, XmlTree node)
    {
        var m = Transforms.Identity;
        foreach (var step in node.Children)
        {
            if (step.Name is not ("matrix" or "translate" or "rotate" or "scale"))
                continue;
            var n = document.Numbers(step);
            var next = (step.Name, n.Length) switch
            {
                ("matrix", >= 16) => Transpose(n),
                ("translate", >= 3) => Transforms.Translation(n[0], n[1], n[2]),
                ("rotate", >= 4) => Transforms.Rotation(n[0], n[1], n[2], n[3]),
                ("scale", >= 3) => Transforms.Scaling(n[0], n[1], n[2]),
                _ => Transforms.Identity,
            };
            m = Transforms.Multiply(next, m);
        }

        return m;
    }

    /// <summary>COLLADA writes matrices for column vectors, row by row.</summary>
    private static double[] Transpose(double[] m) =>
        [m[0], m[4], m[8], m[12], m[1], m[5], m[9], m[13], m[2], m[6], m[10], m[14], m[3], m[7], m[11], m[15]];
}
