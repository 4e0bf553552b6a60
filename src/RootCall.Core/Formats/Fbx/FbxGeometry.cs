using System.Collections.Immutable;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Fbx;

/// <summary>The polygons of a geometry record, or of a model in files before 7.0.</summary>
internal sealed class FbxGeometry(FbxNode node)
{
    private double[]? points;
    private double[]? corners;

    public bool HasPolygons => node.Child("PolygonVertexIndex") is not null;

    /// <summary>x y z of each point.</summary>
    public double[] Points => points ??= node.Child("Vertices")?.Numbers() ?? [];

    /// <summary>A point's index for each corner; the last of each polygon is written as its bitwise complement.</summary>
    public double[] Corners => corners ??= node.Child("PolygonVertexIndex")?.Numbers() ?? [];

    public IEnumerable<FbxNode> UvLayers => node.All("LayerElementUV");

    public FbxNode? NormalLayer => node.Child("LayerElementNormal");

    public FbxNode? ColourLayer => node.Child("LayerElementColor");

    /// <summary>The material slot of each polygon.</summary>
    public Func<int, int> Slots()
    {
        var layer = node.Child("LayerElementMaterial");
        var slots = layer?.Child("Materials")?.Numbers() ?? [];
        if (layer is null || slots.Length == 0)
            return _ => 0;
        return layer.TextOf("MappingInformationType") == "ByPolygon" ? i => i < slots.Length ? (int)slots[i] : 0 : _ => (int)slots[0];
    }

    public Mesh Measure(string name, string id, IReadOnlyList<string> materials)
    {
        var slots = Slots();
        var perSlot = new SortedDictionary<int, long>();
        long faces = 0,
            triangles = 0;
        var inFace = 0;
        foreach (var corner in Corners)
        {
            inFace++;
            if (corner >= 0)
                continue;
            var own = Math.Max(0, inFace - 2);
            var slot = slots((int)faces);
            perSlot[slot] = perSlot.GetValueOrDefault(slot) + own;
            triangles += own;
            faces++;
            inFace = 0;
        }

        string MaterialOf(int slot) => slot >= 0 && slot < materials.Count ? materials[slot] : string.Empty;
        var box = new BoxBuilder();
        box.Add(Points);
        return new(
            name,
            Points.Length / 3,
            faces,
            triangles,
            [.. UvLayers.Select(NameOf)],
            perSlot.Count == 0
                ? [new(string.Empty, MaterialOf(0), 0)]
                : [.. perSlot.Select(p => new MeshPart(perSlot.Count > 1 ? $"slot {p.Key}" : string.Empty, MaterialOf(p.Key), p.Value))]
        )
        {
            Id = id,
            HasNormals = NormalLayer is not null,
            HasColours = ColourLayer is not null,
            Bounds = box.Box,
        };
    }

    /// <summary>The polygons with everything that hangs on their corners; parts are the slots in use, in their order.</summary>
    public MeshGeometry Read(GeometryBudget budget)
    {
        budget.Take(Points.Length + (long)Corners.Length, sizeof(double) * 2);
        var builder = new GeometryBuilder(budget) { Points = Array.ConvertAll(Points, p => (float)p) };
        var indices = new List<int[]>();
        void Add(FbxNode? layer, GeometryUse use, string name, string values, string index, int width)
        {
            if (layer?.Child(values)?.Numbers() is not { Length: > 0 } data)
                return;
            budget.Take(data.Length + (long)Corners.Length, sizeof(double));
            builder.Indexed(use, name, width, Array.ConvertAll(data, v => (float)v));
            indices.Add(Index(layer, index));
        }

        Add(NormalLayer, GeometryUse.Normal, "Normals", "Normals", "NormalsIndex", 3);
        Add(node.Child("LayerElementTangent"), GeometryUse.Tangent, "Tangents", "Tangents", "TangentsIndex", 3);
        foreach (var (uv, i) in UvLayers.Select((u, i) => (u, i)))
            Add(uv, GeometryUse.Uv, NameOf(uv, i), "UV", "UVIndex", 2);
        Add(ColourLayer, GeometryUse.Colour, "Colors", "Colors", "ColorIndex", 4);
        var slots = Slots();
        var faces = Faces().ToList();
        var parts = faces.Select((_, f) => slots(f)).Distinct().Order().Select((s, i) => (s, i)).ToDictionary(s => s.s, s => s.i);
        for (var f = 0; f < faces.Count; f++)
        {
            var (first, size) = faces[f];
            var points = new int[size];
            for (var c = 0; c < size; c++)
                points[c] = PointOf(first + c);
            builder.Face(points, parts[slots(f)], [.. indices.Select(i => i[first..(first + size)])]);
        }

        return builder.Build();
    }

    private IEnumerable<(int First, int Size)> Faces()
    {
        var first = 0;
        for (var c = 0; c < Corners.Length; c++)
        {
            if (Corners[c] >= 0)
                continue;
            yield return (first, c + 1 - first);
            first = c + 1;
        }
    }

    private int PointOf(int corner) => Corners[corner] < 0 ? -(int)Corners[corner] - 1 : (int)Corners[corner];

    private static string NameOf(FbxNode uvLayer, int index) => uvLayer.TextOf("Name") is { Length: > 0 } n ? n : $"UV {index}";

    /// <summary>For each corner the value of a layer element, by its mapping and reference types; -1 where it has none.</summary>
    /// <param name="indices">Name of the record with the indices.</param>
    private int[] Index(FbxNode layer, string indices)
    {
        var index = layer.TextOf("ReferenceInformationType") == "Direct" ? null : layer.Child(indices)?.Numbers();
        var mapping = layer.TextOf("MappingInformationType");
        var result = new int[Corners.Length];
        var polygon = 0;
        for (var c = 0; c < Corners.Length; c++)
        {
            var at = mapping switch
            {
                "ByPolygonVertex" => c,
                "ByVertice" or "ByVertex" => PointOf(c),
                "ByPolygon" => polygon,
                "AllSame" => 0,
                _ => -1,
            };
            if (index is not null && at >= 0)
                at = at < index.Length ? (int)index[at] : -1;
            if (Corners[c] < 0)
                polygon++;
            result[c] = at;
        }

        return result;
    }
}
