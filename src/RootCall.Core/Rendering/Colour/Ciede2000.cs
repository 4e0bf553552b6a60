namespace RootCall.Core.Rendering.Colour;

/// <summary>
/// How far apart two colours look (ISO/CIE 11664-6:2014, CIEDE2000), all weights 1: about 1 is just seen, side by side. Written after
/// “The CIEDE2000 Color-Difference Formula: Implementation Notes, Supplementary Test Data, and Mathematical Observations”, Color Research
/// &amp; Application 30(1), 2005; the numbers in brackets are its equations.
/// </summary>
public static class Ciede2000
{
    private const double Turn = 2 * Math.PI;
    private static readonly double Pow25To7 = Math.Pow(25, 7);

    public static double Difference(Lab a, Lab b)
    {
        // (2) to (7): a' makes greys rounder.
        var chroma = (Math.Sqrt((a.A * a.A) + (a.B * a.B)) + Math.Sqrt((b.A * b.A) + (b.B * b.B))) / 2;
        var g = 0.5 * (1 - Math.Sqrt(Math.Pow(chroma, 7) / (Math.Pow(chroma, 7) + Pow25To7)));
        var (a1, a2) = ((1 + g) * a.A, (1 + g) * b.A);
        var (c1, c2) = (Math.Sqrt((a1 * a1) + (a.B * a.B)), Math.Sqrt((a2 * a2) + (b.B * b.B)));
        var (h1, h2) = (Hue(a1, a.B), Hue(a2, b.B));

        // (8) to (11): differences; the hue's goes the shorter way around.
        var (dL, dC) = (b.L - a.L, c2 - c1);
        var grey = c1 * c2 == 0;
        var turn =
            grey ? 0
            : h2 - h1 > Math.PI ? h2 - h1 - Turn
            : h2 - h1 < -Math.PI ? h2 - h1 + Turn
            : h2 - h1;
        var dH = 2 * Math.Sqrt(c1 * c2) * Math.Sin(turn / 2);

        // (12) to (14): means.
        var (l, c) = ((a.L + b.L) / 2, (c1 + c2) / 2);
        var h =
            grey ? h1 + h2
            : Math.Abs(h1 - h2) <= Math.PI ? (h1 + h2) / 2
            : h1 + h2 < Turn ? (h1 + h2 + Turn) / 2
            : (h1 + h2 - Turn) / 2;

        // (15) to (21): weights.
        var t =
            1
            - (0.17 * Math.Cos(h - Degrees(30)))
            + (0.24 * Math.Cos(2 * h))
            + (0.32 * Math.Cos((3 * h) + Degrees(6)))
            - (0.20 * Math.Cos((4 * h) - Degrees(63)));
        var blue = Degrees(30) * Math.Exp(-Math.Pow((h - Degrees(275)) / Degrees(25), 2));
        var rotation = -Math.Sin(2 * blue) * 2 * Math.Sqrt(Math.Pow(c, 7) / (Math.Pow(c, 7) + Pow25To7));
        var fromMiddle = (l - 50) * (l - 50);
        var sL = 1 + (0.015 * fromMiddle / Math.Sqrt(20 + fromMiddle));
        var (sC, sH) = (1 + (0.045 * c), 1 + (0.015 * c * t));

        // (22)
        var (wL, wC, wH) = (dL / sL, dC / sC, dH / sH);
        return Math.Sqrt(Math.Max(0, (wL * wL) + (wC * wC) + (wH * wH) + (rotation * wC * wH)));
    }

    private static double Hue(double a, double b) => a == 0 && b == 0 ? 0 : (Math.Atan2(b, a) + Turn) % Turn;

    private static double Degrees(double degrees) => degrees * Math.PI / 180;
}
