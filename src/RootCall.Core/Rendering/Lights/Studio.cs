using System.Numerics;

namespace RootCall.Core.Rendering.Lights;

/// <summary>A soft studio without hue: a large key light from the upper left, a strip from the right, a low fill, dim walls.</summary>
public static class Studio
{
    private const int Width = 256,
        Height = 128;

    /// <summary>Soft edge of a light, as a share of its half size.</summary>
    private const float Edge = 0.25f;

    /// <param name="Around">Degrees to the right of the viewer's back.</param>
    /// <param name="Up">Degrees above the horizon.</param>
    /// <param name="Wide">Half the width, in degrees.</param>
    /// <param name="High">Half the height, in degrees.</param>
    /// <param name="Radiance">Beside the others'.</param>
    private sealed record Panel(float Around, float Up, float Wide, float High, float Radiance);

    private static readonly Panel[] Panels =
    [
        new(-45, 42, 28, 22, 9),
        new(70, 20, 9, 38, 4),
        new(-140, 25, 14, 30, 3),
        new(20, -30, 40, 14, 0.6f),
    ];

    private const float Walls = 0.12f;

    /// <summary>What a white matte surface that faces the viewer gives back: as bright as paper, and nothing burns out.</summary>
    public const float Paper = 0.8f;

    public static EnvironmentMap Light() =>
        Exposed(Width, Height, (around, up) => new(Walls + Panels.Sum(p => p.Radiance * Inside(p, around, up))));

    /// <summary>An environment in which a white matte surface that faces the viewer is as bright as paper.</summary>
    /// <param name="radiance">By degrees to the right of the viewer's back, and above the horizon.</param>
    internal static EnvironmentMap Exposed(int width, int height, Func<float, float, Vector3> radiance)
    {
        var cells = new Vector3[width * height];
        var onto = 0f;
        for (var y = 0; y < height; y++)
        for (var x = 0; x < width; x++)
        {
            var around = ((x + 0.5f) / width * 360) - 180;
            var up = 90 - ((y + 0.5f) / height * 180);
            var cell = cells[(y * width) + x] = radiance(around, up);
            var level = MathF.Cos(float.DegreesToRadians(up));
            // Cosine to the viewer, times the cell's area on the unit sphere.
            onto +=
                ((cell.X + cell.Y + cell.Z) / 3)
                * MathF.Max(0, level * MathF.Cos(float.DegreesToRadians(around)))
                * level
                * (2 * MathF.PI * MathF.PI / cells.Length);
        }

        return new(width, height, [.. cells.Select(c => c * (Paper * MathF.PI / onto))]);
    }

    private static float Inside(Panel panel, float around, float up)
    {
        var apart = MathF.Abs(around - panel.Around);
        var u = MathF.Min(apart, 360 - apart) / panel.Wide;
        var v = MathF.Abs(up - panel.Up) / panel.High;
        return Ramp(u) * Ramp(v);
    }

    private static float Ramp(float distance)
    {
        var t = Math.Clamp((1 - distance) / Edge, 0, 1);
        return t * t * (3 - (2 * t));
    }
}
