using System.Numerics;
using RootCall.Core.Rendering.Frames;

namespace RootCall.Core.Rendering.Shapes;

/// <summary>A plate with round edges. An image lies once across its top, and runs on over the sides.</summary>
internal static class Slab
{
    private static readonly Vector3 Half = new(1, 0.2f, 1);

    private const float Edge = 0.1f;

    /// <summary>Steps around a quarter of an edge.</summary>
    private const int Steps = 8;

    public static FrameGeometry Made()
    {
        var corners = new List<(Vector3, Vector3, Vector2)>();
        // Each side by the axis it faces, and the axes along which u and v grow on it.
        ReadOnlySpan<(Vector3 Out, Vector3 U, Vector3 V)> sides =
        [
            (Vector3.UnitY, Vector3.UnitX, -Vector3.UnitZ),
            (-Vector3.UnitY, Vector3.UnitX, Vector3.UnitZ),
            (Vector3.UnitZ, Vector3.UnitX, Vector3.UnitY),
            (-Vector3.UnitZ, -Vector3.UnitX, Vector3.UnitY),
            (Vector3.UnitX, -Vector3.UnitZ, Vector3.UnitY),
            (-Vector3.UnitX, Vector3.UnitZ, Vector3.UnitY),
        ];
        foreach (var (facing, u, v) in sides)
        {
            var (across, along) = (Stops(Vector3.Dot(Half, Vector3.Abs(u))), Stops(Vector3.Dot(Half, Vector3.Abs(v))));
            SwatchShapes.Grid(
                across.Length - 1,
                along.Length - 1,
                (x, y) =>
                {
                    var point = (facing * Half) + (u * across[x]) + (v * along[y]);
                    var inner = Vector3.Clamp(point, -Half + new Vector3(Edge), Half - new Vector3(Edge));
                    var normal = Vector3.Normalize(point - inner);
                    return (inner + (normal * Edge), normal, new((across[x] + 1) / 2, (along[y] + 1) / 2));
                },
                corners
            );
        }

        return SwatchShapes.Geometry(corners);
    }

    /// <summary>Places along a side: close together where it is round.</summary>
    private static float[] Stops(float half)
    {
        var round = Enumerable.Range(0, Steps + 1).Select(i => Edge * MathF.Tan(MathF.PI / 4 * i / Steps)).ToList();
        return [.. round.AsEnumerable().Reverse().Select(r => -half + Edge - r), .. round.Select(r => half - Edge + r)];
    }
}
