using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Collada;

/// <summary>Measures a geometry (COLLADA 1.4.1, chapter 5, "Core elements": mesh).</summary>
internal sealed class ColladaGeometry(ColladaDocument document)
{
    private readonly Dictionary<XmlTree, (long Vertices, Box? Bounds)> points = [];

    /// <param name="materialOf">The material that a symbol is bound to.</param>
    public Mesh Read(XmlTree geometry, Func<string, string> materialOf)
    {
        var name = geometry["name"] ?? geometry["id"] ?? "geometry";
        if (geometry.Child("mesh") is not { } mesh)
            return new(name, 0, 0, 0, [], [new(string.Empty, string.Empty, 0)]) { Unmeasured = "only meshes are measured" };
        var (vertices, bounds) = Points(mesh);
        var uvs = new SortedSet<string>(StringComparer.Ordinal);
        var parts = new List<MeshPart>();
        bool normals = mesh.Child("vertices")?.All("input").Any(i => i["semantic"] == "NORMAL") ?? false,
            colours = false;
        long faces = 0;
        foreach (var primitive in mesh.Children.Where(c => c.Name is "triangles" or "polylist" or "polygons" or "trifans" or "tristrips"))
        {
            foreach (var input in primitive.All("input"))
            {
                normals |= input["semantic"] == "NORMAL";
                colours |= input["semantic"] == "COLOR";
                if (input["semantic"] == "TEXCOORD")
                    uvs.Add($"TEXCOORD{input["set"] ?? "0"}");
            }

            var (polygons, triangles) = Count(primitive);
            faces += polygons;
            var symbol = primitive["material"] ?? string.Empty;
            parts.Add(
                new(symbol, symbol.Length == 0 ? string.Empty : materialOf(symbol), triangles)
                {
                    WithoutUvs = primitive.All("input").Any(i => i["semantic"] == "TEXCOORD") ? 0 : triangles,
                }
            );
        }

        // A drawing of lines has no faces, and wears its material all the same.
        if (parts.Count == 0)
            foreach (var line in mesh.Children.Where(c => c.Name is "lines" or "linestrips"))
                parts.Add(new(line["material"] ?? string.Empty, materialOf(line["material"] ?? string.Empty), 0));
        if (parts.Count == 1)
            parts[0] = parts[0] with { Name = string.Empty };
        return new(
            name,
            vertices,
            faces,
            parts.Sum(p => p.Triangles),
            [.. uvs],
            parts.Count > 0 ? [.. parts] : [new(string.Empty, string.Empty, 0)]
        )
        {
            Id = geometry["id"] ?? name,
            HasNormals = normals,
            HasColours = colours,
            Bounds = bounds,
        };
    }

    private (long Vertices, Box? Bounds) Points(XmlTree mesh)
    {
        if (points.TryGetValue(mesh, out var known))
            return known;
        var source = document.Find(mesh.Child("vertices")?.All("input").FirstOrDefault(i => i["semantic"] == "POSITION")?["source"]);
        var numbers = document.Numbers(source?.Child("float_array"));
        var stride = int.TryParse(source?.Child("technique_common")?.Child("accessor")?["stride"], out var s) && s > 0 ? s : 3;
        var box = new BoxBuilder();
        for (var i = 0; i + 2 < numbers.Length; i += stride)
            box.Add(numbers[i], numbers[i + 1], numbers[i + 2]);
        return points[mesh] = (numbers.Length / stride, box.Box);
    }

    private (long Polygons, long Triangles) Count(XmlTree primitive)
    {
        var stride = primitive.All("input").Select(i => int.TryParse(i["offset"], out var o) ? o + 1 : 1).DefaultIfEmpty(1).Max();
        long Corners(XmlTree p) => Tokens(p) / stride;
        switch (primitive.Name)
        {
            case "triangles":
                var triangles = primitive.All("p").Sum(Corners) / 3;
                return (triangles, triangles);
            case "polylist":
                var counts = document.Numbers(primitive.Child("vcount"));
                return (counts.Length, (long)counts.Sum(c => Math.Max(0, c - 2)));
            case "polygons":
                var polygons = primitive.All("p").Concat(primitive.All("ph").SelectMany(h => h.All("p"))).Select(Corners).ToList();
                return (polygons.Count, polygons.Sum(c => Math.Max(0, c - 2)));
            default:
                var strips = primitive.All("p").Select(Corners).Sum(c => Math.Max(0, c - 2));
                return (strips, strips);
        }
    }

    private long Tokens(XmlTree p)
    {
        var count = 0L;
        var inside = false;
        foreach (var b in document.Bytes[p.ContentStart..p.ContentEnd])
        {
            var space = b is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n';
            if (!space && !inside)
                count++;
            inside = !space;
        }

        return count;
    }
}
