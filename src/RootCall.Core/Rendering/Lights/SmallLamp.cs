using System.Numerics;

namespace RootCall.Core.Rendering.Lights;

/// <summary>One small lamp from the upper left in a dark room: what a highlight's shape and a rim's light are seen by.</summary>
public static class SmallLamp
{
    private const int Width = 256,
        Height = 128;

    private const float Around = -38,
        Up = 36,
        Half = 6,
        Radiance = 160,
        Room = 0.25f;

    /// <summary>A white matte surface that faces the viewer gives back as much as in the studio.</summary>
    public static EnvironmentMap Light() => Studio.Exposed(Width, Height, (around, up) =>
        {
            float x = (around - Around) * MathF.Cos(float.DegreesToRadians(Up)),
                y = up - Up;
            // A soft edge of a fifth: a lamp's picture in a smooth surface is no staircase.
            var inside = Math.Clamp((1 - (MathF.Sqrt((x * x) + (y * y)) / Half)) * 5, 0, 1);
            return new Vector3(Room + (Radiance * inside));
        });
}
