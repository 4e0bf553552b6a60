using System.Numerics;
using RootCall.Core.Rendering.Frames;

namespace RootCall.Core.Rendering.Shapes;

/// <summary>A square cloth that hangs over a ball, in folds that grow towards its hem. An image lies twice across it.</summary>
internal static class Drape
{
    private const int Side = 160;

    /// <summary>Half the side of the cloth, and the radius of the ball.</summary>
    private const float Half = 1.05f,
        Ball = 0.62f;

    /// <summary>How far down the ball the cloth lies on it, in radians; from there it hangs.</summary>
    private const float Lies = 1.15f;

    private const int Folds = 9;
    private const float Deep = 0.16f;

    public static FrameGeometry Made()
    {
        var corners = new List<(Vector3, Vector3, Vector2)>();
        SwatchShapes.Grid(
            Side,
            Side,
            (x, y) =>
            {
                const float Step = 1e-3f;
                float u = ((2f * x / Side) - 1) * Half,
                    v = ((2f * y / Side) - 1) * Half;
                var across = At(u + Step, v) - At(u - Step, v);
                var along = At(u, v + Step) - At(u, v - Step);
                return (At(u, v), Vector3.Normalize(Vector3.Cross(across, along)), new((u / Half) + 1, (v / Half) + 1));
            },
            corners
        );
        return SwatchShapes.Geometry(corners);
    }

    /// <summary>Where a place of the flat cloth comes to lie.</summary>
    private static Vector3 At(float u, float v)
    {
        var away = MathF.Sqrt((u * u) + (v * v));
        var around = MathF.Atan2(v, u);
        var angle = MathF.Min(away / Ball, Lies);
        var hangs = MathF.Max(0, away - (Lies * Ball));
        var (sine, cosine) = MathF.SinCos(angle);
        // Hanging, it goes on along the ball's slope and is drawn in and out around.
        var radius = (Ball * sine) + (hangs * 0.32f) + (Deep * Ease(hangs / 0.5f) * MathF.Cos(Folds * around));
        var height = (Ball * cosine) - (hangs * 0.95f);
        return new(radius * MathF.Cos(around), height, -radius * MathF.Sin(around));
    }

    private static float Ease(float at)
    {
        var t = Math.Clamp(at, 0, 1);
        return t * t * (3 - (2 * t));
    }
}
