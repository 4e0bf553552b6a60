using System.Collections.Immutable;
using System.Numerics;

namespace RootCall.Core.Geometry;

/// <summary>
/// The polygons of a mesh as its format stores them: points, faces as rows of corners, and values that hang on corners. In the
/// mesh's own space, units and axes; nothing is welded, turned or converted.
/// </summary>
public sealed record MeshGeometry
{
    /// <summary>x y z of each point.</summary>
    public required ReadOnlyMemory<float> Points { get; init; }

    /// <summary>Corners of each face, at least three; empty when all are triangles.</summary>
    public ReadOnlyMemory<int> FaceSizes { get; init; }

    /// <summary>The point of each corner, face after face; each is one of <see cref="Points"/>.</summary>
    public required ReadOnlyMemory<int> Corners { get; init; }

    /// <summary>For each face its part, an index into <c>Mesh.Parts</c>; empty when all are of the first.</summary>
    public ReadOnlyMemory<int> FaceParts { get; init; }

    /// <summary>Normals, tangents, UV sets and colours, in the order of the file.</summary>
    public ImmutableArray<GeometryStream> Streams { get; init; } = [];

    /// <summary>What the polygons stand for.</summary>
    public SurfaceKind Surface { get; init; }

    /// <summary>Front faces wind clockwise, seen from the front.</summary>
    public bool IsLeftHanded { get; init; }

    /// <summary>What could not be taken, in sentences; the rest is here.</summary>
    public ImmutableArray<string> Notes { get; init; } = [];

    /// <summary>The surface lies inside the polygons and is smooth.</summary>
    public bool IsSmoothCage => Surface is SurfaceKind.CatmullClarkCage or SurfaceKind.LoopCage;

    public int PointCount => Points.Length / 3;

    public int FaceCount => FaceSizes.IsEmpty ? Corners.Length / 3 : FaceSizes.Length;

    public GeometryStream? Stream(GeometryUse use, int set = 0) => Streams.Where(s => s.Use == use).ElementAtOrDefault(set);

    /// <summary>The part of a face.</summary>
    public int PartOf(int face) => FaceParts.IsEmpty ? 0 : FaceParts.Span[face];

    /// <summary>
    /// Cuts each face of n corners into n - 2 triangles that share its first corner: right for convex faces.
    /// </summary>
    /// <param name="part">Only faces of that part; null for all.</param>
    /// <returns>Three corners (indices into <see cref="Corners"/>) for each triangle.</returns>
    public int[] Triangles(int? part = null)
    {
        var triangles = new List<int>(Corners.Length);
        var first = 0;
        for (var face = 0; face < FaceCount; face++)
        {
            var size = FaceSizes.IsEmpty ? 3 : FaceSizes.Span[face];
            if (part is null || PartOf(face) == part)
                for (var k = 2; k < size; k++)
                    triangles.AddRange([first, first + k - 1, first + k]);
            first += size;
        }

        return [.. triangles];
    }

    /// <summary>Of each point the mean direction of the faces around it, by their areas, of any length.</summary>
    public Vector3[] SmoothNormals()
    {
        var sums = new Vector3[PointCount];
        var corners = Corners.Span;
        var points = Points.Span;
        var triangles = Triangles();
        for (var t = 0; t + 2 < triangles.Length; t += 3)
        {
            var (a, b, c) = (corners[triangles[t]], corners[triangles[t + 1]], corners[triangles[t + 2]]);
            Vector3 from = new(points.Slice(a * 3, 3)),
                to = new(points.Slice(b * 3, 3)),
                on = new(points.Slice(c * 3, 3));
            var across = Vector3.Cross(to - from, on - from) * (IsLeftHanded ? -1 : 1);
            (sums[a], sums[b], sums[c]) = (sums[a] + across, sums[b] + across, sums[c] + across);
        }

        return sums;
    }
}

/// <summary>What the values of a stream are.</summary>
public enum GeometryUse
{
    /// <summary>A direction, three numbers.</summary>
    Normal,

    /// <summary>A direction and the sign of the bitangent where there are four numbers.</summary>
    Tangent,

    /// <summary>Texture coordinates, u and v as the format counts them.</summary>
    Uv,

    /// <summary>Red, green, blue and perhaps alpha, 0 to 1 where the format has integers.</summary>
    Colour,
}

/// <summary>What the polygons of a mesh stand for.</summary>
public enum SurfaceKind
{
    /// <summary>The surface itself.</summary>
    Polygons,

    /// <summary>The control cage of a Catmull-Clark subdivision surface: the surface lies inside it.</summary>
    CatmullClarkCage,

    /// <summary>The control cage of a Loop subdivision surface.</summary>
    LoopCage,

    /// <summary>The control cage of a bilinear subdivision surface, which has its shape.</summary>
    BilinearCage,
}

/// <summary>Values that hang on the corners of a mesh.</summary>
/// <param name="Name">As the format calls the set, which is how a material asks for it.</param>
/// <param name="Width">Numbers in one value.</param>
/// <param name="Values">All values, one after the other.</param>
/// <param name="Indices">
/// For each corner its value, or -1 for none; empty when a corner has the value of its point.
/// </param>
public sealed record GeometryStream(GeometryUse Use, string Name, int Width, ReadOnlyMemory<float> Values, ReadOnlyMemory<int> Indices)
{
    public int Count => Values.Length / Width;

    /// <summary>The value of a corner; empty where it has none.</summary>
    public ReadOnlySpan<float> At(MeshGeometry mesh, int corner)
    {
        var index = Indices.IsEmpty ? mesh.Corners.Span[corner] : Indices.Span[corner];
        return (uint)index < (uint)Count ? Values.Span.Slice(index * Width, Width) : [];
    }
}
