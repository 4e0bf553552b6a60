using System.Numerics;
using RootCall.Core.Rendering.Frames;

namespace RootCall.Core.Rendering.Shapes;

/// <summary>What a material is shown on.</summary>
public enum SwatchShape
{
    /// <summary>All angles at once: the swatch that stands wherever a material is spoken of.</summary>
    Sphere,

    /// <summary>A thick plate with round edges: maps without distortion, what happens at an edge, what glass does with thickness.</summary>
    Slab,

    /// <summary>A cloth over a ball: folds, and light that passes from one to the next.</summary>
    Drape,
}

public static class SwatchShapes
{
    /// <summary>
    /// The triangles of a shape, all of the first material, and where they are seen from. The sphere is none: it is exact.
    /// </summary>
    public static (FrameGeometry Geometry, FrameCamera Camera) Made(this SwatchShape shape) =>
        shape == SwatchShape.Drape
            ? (Drape.Made(), Camera(new(0.1f, -0.36f, -1), 2.5f, -0.02f))
            : (Slab.Made(), Camera(new(0.4f, -0.75f, -1), 3.7f, 0));

    private static FrameCamera Camera(Vector3 towards, float away, float height)
    {
        var ahead = Vector3.Normalize(towards);
        var up = Vector3.Normalize(Vector3.UnitY - (ahead * ahead.Y));
        return new(new Vector3(0, height, 0) - (ahead * away), ahead, up, 0.42f);
    }

    /// <summary>Squares of a grid as triangles, as whoever looks from where the normals point sees them.</summary>
    /// <param name="at">The place, the normal and the UV of each point of the grid.</param>
    public static void Grid(
        int columns,
        int rows,
        Func<int, int, (Vector3 Point, Vector3 Normal, Vector2 Uv)> at,
        List<(Vector3 Point, Vector3 Normal, Vector2 Uv)> corners
    )
    {
        for (var y = 0; y < rows; y++)
        for (var x = 0; x < columns; x++)
        {
            var (a, b, c, d) = (at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1));
            corners.AddRange([a, b, c, a, c, d]);
        }
    }

    public static FrameGeometry Geometry(List<(Vector3 Point, Vector3 Normal, Vector2 Uv)> corners) =>
        new()
        {
            Points = [.. corners.Select(c => c.Point)],
            Normals = [.. corners.Select(c => c.Normal)],
            Uvs = [.. corners.Select(c => c.Uv)],
            Materials = new int[corners.Count / 3],
        };
}
