using System.Collections.Immutable;
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
            [.. UvLayers.Select((u, i) => u.TextOf("Name") is { Length: > 0 } n ? n : $"UV {i}")],
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

    /// <summary>The values of a layer element for each corner, by its mapping and reference types; null when it does not fit.</summary>
    /// <param name="values">Name of the record with the values.</param>
    /// <param name="indices">Name of the record with the indices into them.</param>
    /// <param name="width">Numbers in a value.</param>
    public float[]? PerCorner(FbxNode layer, string values, string indices, int width)
    {
        var data = layer.Child(values)?.Numbers() ?? [];
        var index = layer.TextOf("ReferenceInformationType") == "Direct" ? null : layer.Child(indices)?.Numbers();
        var mapping = layer.TextOf("MappingInformationType");
        var result = new float[Corners.Length * width];
        var polygon = 0;
        for (var c = 0; c < Corners.Length; c++)
        {
            var point = Corners[c] < 0 ? -(int)Corners[c] - 1 : (int)Corners[c];
            var at = mapping switch
            {
                "ByPolygonVertex" => c,
                "ByVertice" or "ByVertex" => point,
                "ByPolygon" => polygon,
                "AllSame" => 0,
                _ => -1,
            };
            if (index is not null && at >= 0)
                at = at < index.Length ? (int)index[at] : -1;
            if (Corners[c] < 0)
                polygon++;
            // A corner without a value is written with index -1.
            if (at < 0)
                continue;
            if ((at + 1) * width > data.Length)
                return null;
            for (var k = 0; k < width; k++)
                result[(c * width) + k] = (float)data[(at * width) + k];
        }

        return result;
    }
}
