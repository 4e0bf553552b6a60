using System.Numerics;

namespace RootCall.Core.Rendering.Lights;

/// <summary>An evening outdoors: a low warm sun behind the left shoulder, an orange horizon under a blue sky, dark ground.</summary>
public static class Dusk
{
    private const int Width = 256,
        Height = 128;

    private static readonly Vector3 Sun = new(40, 22, 9),
        Horizon = new(1.6f, 0.75f, 0.32f),
        Haze = new(0.42f, 0.32f, 0.46f),
        Zenith = new(0.05f, 0.08f, 0.2f),
        Ground = new(0.03f, 0.026f, 0.02f);

    /// <summary>What the sun's disc and its glow cover, around and up.</summary>
    private const float SunAround = -40,
        SunUp = 14,
        SunWidth = 7,
        GlowWidth = 26;

    /// <summary>A white matte surface that faces the viewer gives back as much as in the studio.</summary>
    public static EnvironmentMap Light() => Studio.Exposed(Width, Height, Radiance);

    private static Vector3 Radiance(float around, float up)
    {
        if (up < 0)
            return Ground;
        var height = up / 90;
        var sky = Vector3.Lerp(Vector3.Lerp(Horizon, Haze, Ramp(height / 0.3f)), Zenith, Ramp((height - 0.2f) / 0.75f));
        float x = around - SunAround,
            y = up - SunUp,
            away = (x * x) + (y * y);
        return sky + (Sun * MathF.Exp(-away / (SunWidth * SunWidth))) + (Sun * (0.05f * MathF.Exp(-away / (GlowWidth * GlowWidth))));
    }

    private static float Ramp(float at)
    {
        var t = Math.Clamp(at, 0, 1);
        return t * t * (3 - (2 * t));
    }
}
