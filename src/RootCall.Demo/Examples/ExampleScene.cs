using System.Globalization;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;

namespace RootCall.Demo.Examples;

/// <summary>
/// Writes the example of a rule as a whole scene: the part that breaks the rule, a mesh for each material, and the
/// images it calls for.
/// </summary>
public static partial class ExampleScene
{
    /// <summary>The destination an example breaks its rule for.</summary>
    public static Destination DestinationOf(Example example) =>
        example.For switch
        {
            null => Destination.Plain,
            "square" => new("square", "Square viewer") { Square = true },
            "tiny" => new("tiny", "Tiny viewer") { FileBytes = 60, MostTriangles = 100 },
            var id => DestinationFiles.Open(id),
        };

    /// <returns>Path of the scene.</returns>
    public static string Write(string folder, Example example)
    {
        Directory.CreateDirectory(folder);
        foreach (Match image in ImagePaths().Matches(example.Text))
            Image(folder, image.Groups[1].Value, image.Groups[3].Value);
        foreach (var beside in example.Beside)
            if (ImagePaths().Match(beside.Replace("declared:", string.Empty, StringComparison.Ordinal)) is { Success: true } image)
                Image(folder, image.Groups[1].Value, image.Groups[3].Value);
        var text = ImagePaths().Replace(example.Text, m => m.Groups[1].Value);
        return example.Format switch
        {
            "gltf" => Gltf(folder, text, example),
            "mtl" => Mtl(folder, text),
            "usda" => Put(folder, "example.usda", Usda(text, example)),
            _ => Put(folder, "example.mtlx", Mtlx(text, example)),
        };
    }

    /// <summary>A path, perhaps with what the image holds after a hash.</summary>
    [GeneratedRegex(@"(textures/[^""'@#\r\n]*?\.(png|jpg|tga|hdr))(?:#([a-z0-9 ]+))?(?=[""'@\s]|$)")]
    private static partial Regex ImagePaths();

    private static string Put(string folder, string name, string text)
    {
        var path = Path.Combine(folder, name);
        File.WriteAllText(path, text.ReplaceLineEndings("\n"));
        return path;
    }

    private static void Image(string folder, string written, string kind)
    {
        if (written.Contains("<UDIM>", StringComparison.Ordinal))
            return;
        var path = Path.Combine(folder, written);
        if (File.Exists(path))
            return;
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        File.WriteAllBytes(path, ExamplePicture.Make(Path.GetFileName(written), kind));
    }

    private static string Mtl(string folder, string text)
    {
        var names = text.Split('\n').Where(l => l.StartsWith("newmtl ", StringComparison.Ordinal)).Select(l => l[7..].Trim());
        Put(folder, "example.mtl", text + "\n");
        return Put(
            folder,
            "example.obj",
            "mtllib example.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\n"
                + string.Concat(names.Select(n => $"o {n}_mesh\nusemtl {n}\nf 1/1 2/2 3/3\n"))
        );
    }

    private static string Usda(string prims, Example example)
    {
        var meshes = example.Meshes.IsEmpty ? [new ExampleMesh("pot", "tin")] : example.Meshes;
        static string Indent(string text, string by) => string.Join('\n', text.Split('\n').Select(l => l.Length > 0 ? by + l : l));
        var mesh = meshes.Select(m =>
            $$"""
                    def Mesh "{{m.Name}}"
                    {
                        int[] faceVertexCounts = [3]
                        int[] faceVertexIndices = [0, 1, 2]
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
                        texCoord2f[] primvars:st = [(0, 0), (1, 0), (0, 1)] (interpolation = "vertex")
                        {{(m.Material.Length > 0 ? $"rel material:binding = </Looks/{m.Material}>" : string.Empty)}}
                    }

                """
        );
        // Lights do not belong into a material.
        var light = prims.IndexOf("def DomeLight", StringComparison.Ordinal);
        var (inMaterial, inWorld) = light < 0 ? (prims, string.Empty) : (prims[..light].TrimEnd(), Indent(prims[light..], "    ") + "\n");
        return $$"""
            #usda 1.0
            (
                defaultPrim = "World"
                metersPerUnit = 0.01
                upAxis = "Z"
            )

            def Xform "World"
            {
            {{string.Concat(mesh)}}{{inWorld}}}

            def Scope "Looks"
            {
                def Material "tin"
                {
                    token outputs:surface.connect = </Looks/tin/surface.outputs:surface>
            {{Indent(inMaterial, "        ")}}
                }
            }

            """;
    }

    private static string Mtlx(string elements, Example example)
    {
        var names = MaterialNames().Matches(elements).Select(m => m.Groups[1].Value);
        var meshes = example.Meshes.IsEmpty ? [.. names.Select(n => new ExampleMesh(n, n))] : example.Meshes;
        return $"""
            <?xml version="1.0"?>
            <materialx version="1.38">
            {elements}
            <look name="look">{string.Concat(
                meshes.Select((m, i) => $"<materialassign name=\"assign{i}\" material=\"{m.Material}\" geom=\"/{m.Name}_mesh\"/>")
            )}</look>
            </materialx>

            """;
    }

    [GeneratedRegex("<surfacematerial name=\"([^\"]+)\"")]
    private static partial Regex MaterialNames();

    private static string Gltf(string folder, string materials, Example example)
    {
        var list = JsonNode.Parse($"[{materials}]")!.AsArray();
        var (images, extensions) = (new List<string>(), new SortedSet<string>(StringComparer.Ordinal));
        Textures(list, images, extensions);
        var declared = example
            .Beside.Where(b => b.StartsWith("declared:", StringComparison.Ordinal))
            .Select(b => b["declared:".Length..])
            .ToList();
        var names = list.Select((m, i) => (string?)m!["name"] ?? $"material {i}").ToList();
        var meshes = example.Meshes.IsEmpty ? [.. names.Select((n, i) => new ExampleMesh($"{n}_mesh{i}", n))] : example.Meshes;
        var longest = Math.Max(1, (int)meshes.Max(m => m.Triangles));
        var bin = new byte[36 + 24 + 48 + (longest * 6)];
        for (var i = 0; i < longest * 3; i++)
            BitConverter.TryWriteBytes(bin.AsSpan(108 + (i * 2)), (ushort)(i % 3));
        BitConverter.TryWriteBytes(bin.AsSpan(12), 1f);
        BitConverter.TryWriteBytes(bin.AsSpan(28), 1f);
        BitConverter.TryWriteBytes(bin.AsSpan(36 + 8), 1f);
        BitConverter.TryWriteBytes(bin.AsSpan(36 + 20), 1f);
        File.WriteAllBytes(Path.Combine(folder, "example.bin"), bin);
        var accessors = new JsonArray(Accessor(0, 5126, 3, "VEC3"), Accessor(1, 5126, 3, "VEC2"), Accessor(2, 5126, 3, "VEC4"));
        ((JsonObject)accessors[0]!)["min"] = new JsonArray(0, 0, 0);
        ((JsonObject)accessors[0]!)["max"] = new JsonArray(1, 1, 0);
        var scene = new JsonObject
        {
            ["asset"] = new JsonObject { ["version"] = "2.0" },
            ["scene"] = 0,
            ["scenes"] = new JsonArray(new JsonObject { ["nodes"] = new JsonArray([.. meshes.Select((_, i) => (JsonNode)i)]) }),
            ["nodes"] = new JsonArray([
                .. meshes.Select((m, i) => (JsonNode)new JsonObject { ["name"] = $"{m.Name.Split(':')[0]}_place", ["mesh"] = i }),
            ]),
            ["meshes"] = new JsonArray([
                .. meshes.Select(m =>
                    (JsonNode)new JsonObject { ["name"] = m.Name.Split(':')[0], ["primitives"] = Primitives(m, names, accessors) }
                ),
            ]),
            ["materials"] = list,
            ["textures"] = new JsonArray([.. images.Select((_, i) => (JsonNode)new JsonObject { ["source"] = i })]),
            ["images"] = new JsonArray([
                .. images
                    .Concat(declared)
                    .Select(i => (JsonNode)new JsonObject { ["uri"] = i.Replace(" ", "%20", StringComparison.Ordinal) }),
            ]),
            ["accessors"] = accessors,
            ["bufferViews"] = new JsonArray(View(0, 36), View(36, 24), View(60, 48), View(108, longest * 6)),
            ["buffers"] = new JsonArray(new JsonObject { ["uri"] = "example.bin", ["byteLength"] = bin.Length }),
        };
        if (extensions.Count > 0)
            scene["extensionsUsed"] = new JsonArray([.. extensions.Select(e => (JsonNode)e)]);
        foreach (var empty in new[] { "textures", "images" }.Where(k => scene[k]!.AsArray().Count == 0))
            scene.Remove(empty);
        return Put(
            folder,
            "example.gltf",
            scene.ToJsonString(
                new()
                {
                    WriteIndented = true,
                    NewLine = "\n",
                    Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
                }
            ) + "\n"
        );
    }

    private static JsonArray Primitives(ExampleMesh mesh, List<string> names, JsonArray accessors)
    {
        JsonNode Primitive(string material)
        {
            var attributes = new JsonObject { ["POSITION"] = 0 };
            for (var n = 0; n < mesh.UvSets; n++)
                attributes[$"TEXCOORD_{n.ToString(CultureInfo.InvariantCulture)}"] = 1;
            if (mesh.Name.EndsWith(":colours", StringComparison.Ordinal))
                attributes["COLOR_0"] = 2;
            accessors.Add((JsonNode)Accessor(3, 5123, (int)mesh.Triangles * 3, "SCALAR"));
            var primitive = new JsonObject { ["attributes"] = attributes, ["indices"] = accessors.Count - 1 };
            if (material.Length > 0)
                primitive["material"] = names.IndexOf(material);
            return primitive;
        }

        return new([.. mesh.MoreParts.Prepend(mesh.Material).Select(Primitive)]);
    }

    private static JsonObject Accessor(int view, int type, int count, string shape) =>
        new()
        {
            ["bufferView"] = view,
            ["componentType"] = type,
            ["count"] = count,
            ["type"] = shape,
        };

    private static JsonObject View(int offset, int length) =>
        new()
        {
            ["buffer"] = 0,
            ["byteOffset"] = offset,
            ["byteLength"] = length,
        };

    /// <summary>Textures are called by their images' paths in an example; here they get their numbers.</summary>
    private static void Textures(JsonNode? node, List<string> images, SortedSet<string> extensions)
    {
        if (node is JsonArray array)
            foreach (var item in array)
                Textures(item, images, extensions);
        if (node is not JsonObject o)
            return;
        foreach (var (name, value) in o.ToList())
        {
            if (name == "index" && value is JsonValue v && v.TryGetValue<string>(out var path))
            {
                if (!images.Contains(path))
                    images.Add(path);
                o["index"] = images.IndexOf(path);
            }
            else if (name == "extensions" && value is JsonObject used)
            {
                foreach (var (extension, _) in used)
                    extensions.Add(extension);
                Textures(value, images, extensions);
            }
            else
                Textures(value, images, extensions);
        }
    }
}
