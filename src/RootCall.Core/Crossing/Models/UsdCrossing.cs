using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>UsdPreviewSurface in both workflows.</summary>
internal sealed class UsdCrossing : ICrossedModel
{
    public string Id => "usd-preview-surface";

    public Look Read(Source from, Sums sums)
    {
        var isSpecular = from["useSpecularWorkflow"].Number is > 0.5;
        var look = new Look { Mirrored = isSpecular ? from["specularColor"] : null };
        look[BaseColour] = from["diffuseColor"];
        from.Pass(isSpecular ? "metallic" : "specularColor");
        if (!isSpecular)
            look[Metalness] = from["metallic"];
        var index = from["ior"];
        (look[Roughness], look[IndexOfRefraction]) = (from["roughness"], index);
        look[Emission] = from["emissiveColor"];
        if (!from["clearcoat"].Is(0))
            (look[Coat], look[CoatRoughness], look[CoatIndexOfRefraction]) = (from["clearcoat"], from["clearcoatRoughness"], index);
        var opacity = from["opacity"];
        var cut = from["opacityThreshold"];
        var isPresence = from.Word("opacityMode") == "presence" || from["opacityMode"].Is(1);
        if (!opacity.Is(1))
        {
            if (!cut.Is(0))
                (look[Opacity], look[OpacityThreshold]) = (opacity, cut);
            else if (isPresence)
                look[Opacity] = opacity;
            else
                // What comes through a sheet is not bent and not tinted.
                (look[Transmission], look[ThinWalled], look[StraightThrough]) = (sums.Invert(opacity), Carried.Of(1), Carried.Of(1));
        }
        return look;
    }

    public void Write(Look look, Target to, Sums sums)
    {
        var tint = look.Take(SpecularColour, 1, 1, 1);
        var weight = look.Take(Specular, 1);
        var index = look.Take(IndexOfRefraction, 1.5);
        Carried colour;
        if (look.Mirrored is not null || !tint.Is(1))
        {
            to.Set("useSpecularWorkflow", Carried.Of(1));
            (colour, var specular) = Formulas.Split(look, sums);
            to.Set("specularColor", specular);
        }
        else
        {
            colour = look.Take(BaseColour, 0.18, 0.18, 0.18);
            to.Set("metallic", look.Take(Metalness, 0));
            to.Set("ior", weight.Is(1) ? index : Formulas.Ior(sums, sums.Multiply(Formulas.F0(sums, index), weight)));
        }

        to.Set("roughness", look.Take(Roughness, 0.5));
        to.Set("emissiveColor", look.Take(Emission, 0, 0, 0));
        if (look.Find(Coat) is { } coat)
        {
            to.Set("clearcoat", coat);
            to.Set("clearcoatRoughness", look.Take(CoatRoughness, 0.01));
            if (look.Take(CoatIndexOfRefraction, 1.5) is { Number: { } own } i && index.Number is { } whole && Math.Abs(own - whole) > 1e-6)
                to.Lose(i.From, "coat and base have one index");
        }

        colour = Flesh.In(colour, look, sums);
        to.Set("diffuseColor", colour);
        Opacities(look, to, sums);
    }

    private static void Opacities(Look look, Target to, Sums sums)
    {
        var opacity = look.Take(Opacity, 1);
        if (!opacity.Is(1))
        {
            to.Set("opacity", opacity);
            if (look.Find(OpacityThreshold) is { } cut)
                to.Set("opacityThreshold", cut);
            else
                to.Set("opacityMode", Carried.Of(1));
            return;
        }

        if (look.Find(Transmission) is not { } glass)
            return;
        var isStraight = look.Find(StraightThrough) is not null & look.Take(ThinWalled, 0).Is(1);
        var through = sums.Invert(glass);
        to.Set("opacity", isStraight ? through : through.Near("what comes through is not bent, not roughened and not tinted"));
    }
}
