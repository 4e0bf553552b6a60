using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>
/// What lies below OpenPBR's coat: it mirrors by the ratio of both indices, is rougher and darker (OpenPBR 1.1, “Coat”, “Roughening”,
/// “Darkening”). In the other models it is as it would be without a coat.
/// </summary>
internal static class CoatedOver
{
    private const string Ratio = "below a coat the ratio of both indices mirrors (OpenPBR 1.1, “Coat”)",
        Rougher = "below a coat r' = ⁴√(r⁴ + 2 r_coat⁴) (OpenPBR 1.1, “Roughening”)",
        Darker = "light that bounces below a coat makes the base darker (OpenPBR 1.1, “Darkening”)";

    /// <summary>Says what is below as it looks.</summary>
    public static void Read(Look look, Sums sums, Carried darkening)
    {
        var (coat, index, above) = (look.Peek(Coat, 0), look.Peek(CoatIndexOfRefraction, 1.6), look.Peek(CoatRoughness, 0));
        var own = look.Peek(IndexOfRefraction, 1.5);
        var relative = sums.Divide(own, index);
        var turned = sums.AtLeast(relative, 1, relative, sums.Divide(index, own));
        look[IndexOfRefraction] = sums.Mix(own, turned, coat).Same(Ratio);
        if (!above.Is(0))
            look[Roughness] = Roughened(sums, look.Peek(Roughness, 0.3), above, coat, 2);
        if (darkening.Is(0))
            return;
        var (colour, flesh) = (look.Peek(BaseColour, 0.8, 0.8, 0.8), look.Peek(SubsurfaceColour, 0.8, 0.8, 0.8));
        var below = sums.Multiply(look.Peek(Subsurface, 0), sums.Invert(look.Peek(Metalness, 0)));
        var all = sums.Mix(colour, flesh, below);
        // What is kept below: K = 1 − (1 − F0)/n².
        var kept = sums.Invert(sums.Divide(sums.Invert(Formulas.F0(sums, index)), sums.Multiply(index, index)));
        var darker = sums.Divide(sums.Wide(sums.Invert(kept)), sums.Invert(sums.Multiply(all, kept)));
        var weighed = sums.Mix(Carried.Of(1, 1, 1), darker, sums.Multiply(coat, darkening));
        look[BaseColour] = sums.Multiply(colour, weighed).Near(Darker);
        if (!below.Is(0))
            look[SubsurfaceColour] = sums.Multiply(flesh, weighed).Near(Darker);
    }

    /// <summary>A look whose coat does nothing to what is below, with what is below as OpenPBR has to have it for that.</summary>
    public static Look Below(Look look, Sums sums)
    {
        var (coat, index, above) = (look.Take(Coat, 0), look.Take(CoatIndexOfRefraction, 1.5), look.Take(CoatRoughness, 0));
        // n (1 − c + c/k) is what is to be seen.
        var share = sums.Add(sums.Invert(coat), sums.Divide(coat, index));
        var raised = sums.Divide(look.Take(IndexOfRefraction, 1.5), share);
        var roughness = look.Take(Roughness, 0.3);
        if (!above.Is(0))
            roughness = Roughened(sums, roughness, above, coat, -2);
        return look.With(look.Mirrored, (IndexOfRefraction, raised.Same(Ratio)), (Roughness, roughness));
    }

    private static Carried Roughened(Sums sums, Carried roughness, Carried above, Carried coat, double times)
    {
        var wider = sums.Multiply(sums.Power(above, 4), Carried.Of(times));
        var fourth = sums.Clamp(sums.Add(sums.Power(roughness, 4), wider), 0, 1);
        return sums.Mix(roughness, sums.Power(fourth, 0.25), coat).Near(Rougher);
    }
}
