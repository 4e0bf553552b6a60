using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>Looks for models that know a matte colour and a highlight, and nothing of what happens between them.</summary>
internal static class Highlights
{
    public const string Mirror = "(R·V)^n is about (N·H)^(4 n) (common practice)";

    /// <summary>
    /// A matte colour beside a highlight. It is whole there; in the other models the highlight takes its share.
    /// </summary>
    /// <param name="exponent">Of a highlight (N·H)^N.</param>
    public static Look Read(Sums sums, Carried diffuse, Carried highlight, Carried exponent)
    {
        var (roughness, mirrored) = highlight.Is(0)
            ? (Carried.Of(1), Carried.Of(0, 0, 0))
            : Formulas.OfHighlight(sums, exponent, highlight);
        var look = new Look { Mirrored = mirrored };
        look[BaseColour] = sums.Min(sums.Divide(diffuse, sums.Max(sums.Invert(sums.Largest(mirrored)), 0.02)), 1);
        look[Roughness] = roughness;
        return look;
    }

    /// <summary>The matte colour, less what is mirrored of it, and what is mirrored.</summary>
    public static (Carried Diffuse, Carried Mirrored) Of(Look look, Sums sums)
    {
        var (diffuse, mirrored) = Formulas.Split(look, sums);
        var below = look.Find(Subsurface) is { } part
            ? sums.Mix(diffuse, look.Take(SubsurfaceColour, 1, 1, 1), part).Near("light below the surface as matte")
            : diffuse;
        return (sums.Multiply(below, sums.Invert(sums.Largest(mirrored))), mirrored);
    }

    /// <summary>What comes through is not there.</summary>
    public static Carried Opacity(Look look, Sums sums)
    {
        var opacity = Cut.Out(look, sums);
        return look.Find(Transmission) is { } glass
            ? sums.Multiply(opacity, sums.Invert(glass)).Near("what comes through is not bent, not roughened and not tinted")
            : opacity;
    }
}
