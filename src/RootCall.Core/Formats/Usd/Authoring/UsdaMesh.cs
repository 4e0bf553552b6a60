using System.Numerics;
using RootCall.Core.Geometry;

namespace RootCall.Core.Formats.Usd.Authoring;

/// <summary>The polygons of a mesh as statements of a Mesh prim (OpenUSD, “UsdGeomMesh”, “UsdGeomPrimvar”).</summary>
/// <param name="countsDown">V of its UV sets grows downwards.</param>
internal sealed class UsdaMesh(MeshGeometry geometry, bool countsDown)
{
    /// <summary>What UV sets are called, in their order: the first by the name that all readers look for.</summary>
    public static string SetName(int number) => number == 0 ? "st" : FormattableString.Invariant($"st{number}");

    public void Write(UsdaText text)
    {
        var points = geometry.Points;
        var (low, high) = Extent(points.Span);
        text.Numbers("float3[] extent", 3, [low.X, low.Y, low.Z, high.X, high.Y, high.Z]);
        var sizes = geometry.FaceSizes;
        text.Whole("int[] faceVertexCounts", geometry.FaceCount, i => sizes.IsEmpty ? 3 : sizes.Span[i]);
        text.Whole("int[] faceVertexIndices", geometry.Corners.Length, i => geometry.Corners.Span[i]);
        text.Numbers("point3f[] points", 3, points.Span);
        if (geometry.IsLeftHanded)
            text.Line("uniform token orientation = \"leftHanded\"");
        text.Line($"uniform token subdivisionScheme = \"{Scheme}\"");
        if (geometry.Stream(GeometryUse.Normal) is { } normals)
            Stream(text, "normal3f[] normals", normals, 3, false);
        var set = 0;
        foreach (var stream in geometry.Streams.Where(s => s.Use == GeometryUse.Uv))
            Stream(text, $"texCoord2f[] primvars:{SetName(set++)}", stream, 2, countsDown);
        if (geometry.Stream(GeometryUse.Colour) is { } colours)
            Stream(text, "color3f[] primvars:displayColor", colours, 3, false);
    }

    private string Scheme =>
        geometry.Surface switch
        {
            SurfaceKind.CatmullClarkCage => "catmullClark",
            SurfaceKind.LoopCage => "loop",
            SurfaceKind.BilinearCage => "bilinear",
            _ => "none",
        };

    /// <summary>Values for each point, or for each corner where corners pick them; a corner without one has zeros.</summary>
    private void Stream(UsdaText text, string what, GeometryStream stream, int width, bool flips)
    {
        var isOfPoints = stream.Indices.IsEmpty && stream.Count >= geometry.PointCount;
        var count = isOfPoints ? geometry.PointCount : geometry.Corners.Length;
        var values = new float[count * width];
        for (var i = 0; i < count; i++)
        {
            var from = isOfPoints ? stream.Values.Span.Slice(i * stream.Width, stream.Width) : stream.At(geometry, i);
            var to = values.AsSpan(i * width, width);
            from[..Math.Min(from.Length, width)].CopyTo(to);
            if (flips && !from.IsEmpty)
                to[1] = 1 - to[1];
        }

        text.Numbers(what, width, values, isOfPoints ? "vertex" : "faceVarying");
    }

    private static (Vector3 Low, Vector3 High) Extent(ReadOnlySpan<float> points)
    {
        if (points.Length < 3)
            return default;
        var (low, high) = (new Vector3(points), new Vector3(points));
        for (var i = 3; i + 2 < points.Length; i += 3)
        {
            var p = new Vector3(points[i..]);
            (low, high) = (Vector3.Min(low, p), Vector3.Max(high, p));
        }

        return (low, high);
    }
}
