using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>What a look mirrors, for models that say an index and a tint.</summary>
internal static class Tinted
{
    /// <summary>
    /// Above it a dielectric is not what is meant: the darkest metals mirror more, the brightest gems less (diamond: 0.172).
    /// </summary>
    private const double MostDielectric = 0.2;

    private const string How = "the index mirrors the largest part of specular, and a tint is the rest of it";

    /// <summary>
    /// A look that says what it mirrors as a colour gets an index and a tint, where it is a dielectric all over; otherwise base colour and
    /// metalness.
    /// </summary>
    public static Look Of(Look look, Sums sums)
    {
        if (look.Mirrored is not { } mirrored)
            return look;
        if (!mirrored.IsNumber || mirrored.Numbers.Max() > MostDielectric)
            return Formulas.Metallic(look, sums);
        var most = sums.Largest(mirrored);
        var tint = most.Is(0) ? Carried.Of(1, 1, 1) : sums.Divide(mirrored, most);
        return look.With(null, (IndexOfRefraction, Formulas.Ior(sums, most).Near(How)), (SpecularColour, tint.Near(How)));
    }
}
