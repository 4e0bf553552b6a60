using System.Numerics;

namespace RootCall.Core.Rendering.Colour;

/// <summary>A colour in CIELAB (CIE 15:2004, 8.2.1), for the white of D65.</summary>
/// <param name="L">Lightness, 0 to 100.</param>
public readonly record struct Lab(double L, double A, double B)
{
    /// <summary>D65 for the 2° observer, Y = 1 (IEC 61966-2-1: x 0.3127, y 0.3290).</summary>
    private const double WhiteX = 0.3127 / 0.3290,
        WhiteZ = (1 - 0.3127 - 0.3290) / 0.3290;

    /// <summary>Where the cube root gives way to a line: (6/29)³.</summary>
    private const double Break = 216.0 / 24389,
        Slope = 24389.0 / 27;

    /// <param name="linear">Linear light with the primaries of Rec. 709; 1 is white.</param>
    public static Lab Of(Vector3 linear)
    {
        double r = linear.X,
            g = linear.Y,
            b = linear.Z;
        // IEC 61966-2-1, 5.2.
        var x = (0.4124 * r) + (0.3576 * g) + (0.1805 * b);
        var y = (0.2126 * r) + (0.7152 * g) + (0.0722 * b);
        var z = (0.0193 * r) + (0.1192 * g) + (0.9505 * b);
        var (fx, fy, fz) = (Root(x / WhiteX), Root(y), Root(z / WhiteZ));
        return new((116 * fy) - 16, 500 * (fx - fy), 200 * (fy - fz));
    }

    private static double Root(double t) => t > Break ? Math.Cbrt(t) : ((Slope * t) + 16) / 116;
}
