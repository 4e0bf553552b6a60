using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>Classic MTL: a matte colour under a highlight (N·H)^Ns.</summary>
internal sealed class MtlPhongCrossing : ICrossedModel
{
    public string Id => "mtl-phong";

    /// <summary>What a material shows that writes no colour (common practice).</summary>
    private const double Unsaid = 0.8;

    public Look Read(Source from, Sums sums)
    {
        var model = from.IsSaid("illum") ? from["illum", 2].Number ?? 2 : 2;
        var colour = from["Kd", Unsaid, Unsaid, Unsaid];
        var hasHighlight = model >= 2 && from.IsSaid("Ks");
        var look = Highlights.Read(sums, colour, hasHighlight ? from["Ks", 0, 0, 0] : Carried.Of(0, 0, 0), from["Ns", 0]);
        look.IsUnlit = model == 0;
        look[Emission] = from["Ke"];
        var opacity = sums.Multiply(from["d"], sums.Invert(from["Tr"]));
        if (!opacity.Is(1))
            look[Opacity] = opacity;
        return look;
    }

    public void Write(Look look, Target to, Sums sums)
    {
        if (look.IsUnlit)
            to.Set("illum", Carried.Of(0));
        var (diffuse, mirrored) = Highlights.Of(look, sums);
        to.Set("Kd", diffuse);
        if (!mirrored.Is(0))
        {
            var (exponent, colour) = Formulas.ToHighlight(sums, look.Take(Roughness, 1), mirrored);
            to.Set("Ks", colour);
            to.Set("Ns", exponent);
        }

        to.Set("Ke", look.Take(Emission, 0, 0, 0));
        to.Set("d", Highlights.Opacity(look, sums));
    }
}
