using System.Numerics;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Tracing;

namespace RootCall.Core.Rendering.Frames;

/// <summary>
/// Triangles to be drawn, three corners each, in one space whose y points up. The middle of all lies near the origin, so that single
/// precision is enough.
/// </summary>
public sealed class FrameGeometry
{
    /// <summary>Where each corner is; all finite.</summary>
    public required Vector3[] Points { get; init; }

    /// <summary>For each corner a direction out of the surface, of length 1.</summary>
    public required Vector3[] Normals { get; init; }

    /// <summary>For each corner; v grows upwards.</summary>
    public required Vector2[] Uvs { get; init; }

    /// <summary>For each triangle, its material; -1 for none.</summary>
    public required int[] Materials { get; init; }

    public int Count => Materials.Length;

    /// <summary>The distance from the origin to what lies farthest from it.</summary>
    public float Radius => radius ??= Points.Length == 0 ? 0 : MathF.Sqrt(Points.Max(p => p.LengthSquared()));

    private float? radius;

    /// <exception cref="Files.CannotUseException">It cannot be traced.</exception>
    public IRayTracer Traced(IRayTracers tracers, CancellationToken stop) =>
        tracers.Build(Points, [.. Enumerable.Range(0, Points.Length)], stop);

    /// <summary>Which way the form of a triangle faces: outwards, as its normals say.</summary>
    public Vector3 Facing(int triangle)
    {
        var (a, b, c) = Corners(Points, triangle);
        var across = Vector3.Cross(b - a, c - a);
        var length = across.Length();
        var (na, nb, nc) = Corners(Normals, triangle);
        var sum = na + nb + nc;
        if (!(length > 0))
            return Unit(sum, Vector3.UnitY);
        across /= length;
        return Vector3.Dot(across, sum) < 0 ? -across : across;
    }

    /// <summary>A place on a triangle, as a graph asks for it.</summary>
    /// <param name="view">Towards the viewer.</param>
    /// <param name="width">How wide the ray is there.</param>
    public ShadingPoint At(in TraceHit hit, Vector3 facing, Vector3 view, float width)
    {
        var (a, b, c) = Corners(Points, hit.Triangle);
        var (na, nb, nc) = Corners(Normals, hit.Triangle);
        var (ta, tb, tc) = Corners(Uvs, hit.Triangle);
        float u = hit.U,
            v = hit.V,
            w = 1 - u - v;
        var normal = Unit((na * w) + (nb * u) + (nc * v), facing);
        // How the place moves along U and V (differentials of a triangle).
        Vector3 e1 = b - a,
            e2 = c - a;
        Vector2 d1 = tb - ta,
            d2 = tc - ta;
        var turn = (d1.X * d2.Y) - (d1.Y * d2.X);
        var around = Frame.Around(normal);
        var (tangent, bitangent) = (around.Tangent, around.Bitangent);
        if (MathF.Abs(turn) > 1e-20f)
        {
            tangent = Unit(((d2.Y * e1) - (d1.Y * e2)) / turn, tangent);
            bitangent = Unit(((d1.X * e2) - (d2.X * e1)) / turn, bitangent);
        }

        // UVs for each length: the areas say how many.
        var area = Vector3.Cross(e1, e2).Length();
        var dense = area > 0 ? MathF.Sqrt(MathF.Abs(turn) / area) : 0;
        var slant = MathF.Max(0.1f, MathF.Abs(Vector3.Dot(facing, view)));
        return new((a * w) + (b * u) + (c * v), normal, tangent, bitangent, (ta * w) + (tb * u) + (tc * v), width * dense / slant, view);
    }

    private static (T A, T B, T C) Corners<T>(T[] values, int triangle) =>
        (values[triangle * 3], values[(triangle * 3) + 1], values[(triangle * 3) + 2]);

    private static Vector3 Unit(Vector3 v, Vector3 otherwise)
    {
        var length = v.Length();
        return length > 1e-20f && float.IsFinite(length) ? v / length : otherwise;
    }
}
