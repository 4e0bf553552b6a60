using System.Numerics;

namespace RootCall.Core.Rendering.Colour;

/// <summary>What glows.</summary>
internal static class BlackBody
{
    /// <summary>
    /// Colour of a black body, of luminance 1, in Rec. 709 (CIE xy by the cubic fit of “Design of Advanced Color Temperature Control System
    /// for HDTV Applications”, 2002, which MaterialX's blackbody uses).
    /// </summary>
    /// <param name="kelvin">1,667 to 25,000; clamped.</param>
    public static Vector3 Hue(float kelvin)
    {
        var t = 1000 / Math.Clamp(kelvin, 1667, 25_000);
        var (t2, t3) = (t * t, t * t * t);
        var x =
            kelvin < 4000
                ? (-0.2661239f * t3) - (0.2343580f * t2) + (0.8776956f * t) + 0.179910f
                : (-3.0258469f * t3) + (2.1070379f * t2) + (0.2226347f * t) + 0.240390f;
        var (x2, x3) = (x * x, x * x * x);
        var y = kelvin switch
        {
            < 2222 => (-1.1063814f * x3) - (1.34811020f * x2) + (2.18555832f * x) - 0.20219683f,
            < 4000 => (-0.9549476f * x3) - (1.37418593f * x2) + (2.09137015f * x) - 0.16748867f,
            _ => (3.0817580f * x3) - (5.87338670f * x2) + (3.75112997f * x) - 0.37001483f,
        };
        y = MathF.Max(y, 1e-6f);
        float X = x / y,
            Z = (1 - x - y) / y;
        return Vector3.Max(
            Vector3.Zero,
            new(
                (3.2404542f * X) - 1.5371385f - (0.4985314f * Z),
                (-0.9692660f * X) + 1.8760108f + (0.0415560f * Z),
                (0.0556434f * X) - 0.2040259f + (1.0572252f * Z)
            )
        );
    }
}
