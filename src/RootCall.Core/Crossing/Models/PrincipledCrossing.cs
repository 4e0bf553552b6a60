using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>The principled model of 2012 and 2015.</summary>
internal sealed class PrincipledCrossing : ICrossedModel
{
    public string Id => "principled";

    private const string Eight = "F0 = 0.08 specular (“Physically-Based Shading”, SIGGRAPH 2012 course notes, 5.5)",
        Coated = "a coat of weight 1 is a quarter of a lobe of index 1.5, with longer tails",
        Fibres = "sheen is a rim by Schlick, without roughness",
        Narrower = "anisotropy counts 0.9 (αx = r²/√(1 − 0.9 a))";

    public Look Read(Source from, Sums sums)
    {
        var look = new Look();
        var colour = from["baseColor"];
        (look[BaseColour], look[Metalness], look[Roughness]) = (colour, from["metallic"], from["roughness"]);
        var glass = from["specTrans"];
        if (glass.Is(0))
        {
            // The index is that of glass alone.
            look[Specular] = sums.Multiply(from["specular"], Carried.Of(0.08 / Formulas.Common)).Same(Eight);
            if (look.Peek(Specular, 1) is { Number: > 1 } above)
                (look[IndexOfRefraction], look[Specular]) = (
                    Formulas.Ior(sums, sums.Multiply(above, Carried.Of(Formulas.Common))),
                    Carried.Of(1)
                );
        }
        else
        {
            (look[Transmission], look[IndexOfRefraction]) = (glass, from["ior"]);
            // Each of two walls tints by the root.
            look[TransmissionColour] = sums.Root(colour).Near("light passes two walls, and each tints by the root of the base colour");
        }

        if (!from["specularTint"].Is(0))
            look[SpecularColour] = sums.Mix(Carried.Of(1, 1, 1), Hue(sums, colour), from["specularTint"]);
        if (!from["anisotropic"].Is(0))
            look[Anisotropy] = sums.Multiply(from["anisotropic"], Carried.Of(0.9)).Same(Narrower);
        if (!from["clearcoat"].Is(0))
        {
            look[Coat] = sums.Multiply(from["clearcoat"], Carried.Of(0.25)).Near(Coated);
            look[CoatRoughness] = sums.Root(sums.Mix(Carried.Of(0.1), Carried.Of(0.001), from["clearcoatGloss"])).Near(Coated);
            look[CoatIndexOfRefraction] = Carried.Of(1.5);
        }

        if (!from["sheen"].Is(0))
        {
            var hue = sums.Mix(Carried.Of(1, 1, 1), Hue(sums, colour), from["sheenTint"]);
            (look[SheenColour], look[SheenRoughness]) = (sums.Multiply(hue, from["sheen"]).Near(Fibres), Carried.Of(0.3));
        }

        if (!from["subsurface"].Is(0))
            (look[Subsurface], look[SubsurfaceColour], look[SubsurfaceRadius]) = (from["subsurface"], colour, from["subsurfaceDistance"]);
        return look;
    }

    /// <summary>The colour at luminance 1.</summary>
    private static Carried Hue(Sums sums, Carried colour) => sums.Divide(colour, sums.Max(sums.Sum(colour, 0.3, 0.6, 0.1), 1e-4));

    public void Write(Look look, Target to, Sums sums)
    {
        look = Formulas.Metallic(look, sums);
        var colour = look.Take(BaseColour, 0.16, 0.16, 0.16);
        to.Set("metallic", look.Take(Metalness, 0));
        to.Set("roughness", look.Take(Roughness, 0.5));
        if (look.Find(Anisotropy) is { } anisotropy)
            to.Set("anisotropic", sums.Divide(anisotropy, Carried.Of(0.9)).Same(Narrower));
        if (look.Find(Transmission) is { } glass)
        {
            to.Set("specTrans", glass);
            to.Set("ior", look.Take(IndexOfRefraction, 1.5));
            var through = sums.Power(look.Take(TransmissionColour, 1, 1, 1), 2);
            colour = sums.Mix(colour, through, glass).Near("light passes two walls, and each tints by the root of the base colour");
        }
        else
        {
            var f0 = sums.Multiply(Formulas.F0(sums, look.Take(IndexOfRefraction, 1.5)), look.Take(Specular, 1));
            to.Set("specular", sums.Divide(f0, Carried.Of(0.08)).Same(Eight));
        }

        if (look.Find(Coat) is { } coat)
        {
            to.Set("clearcoat", sums.Multiply(coat, Carried.Of(4)).Near(Coated));
            var alpha = sums.Power(look.Take(CoatRoughness, 0), 2);
            to.Set("clearcoatGloss", sums.Clamp(sums.Divide(sums.Subtract(Carried.Of(0.1), alpha), Carried.Of(0.099)), 0, 1).Near(Coated));
            look.Find(CoatIndexOfRefraction);
        }

        if (look.Find(SheenColour) is { } sheen)
        {
            to.Set("sheen", sums.Largest(sheen).Near(Fibres));
            to.Set("sheenTint", Carried.Of(0));
            look.Find(SheenRoughness);
        }

        if (look.Find(Subsurface) is { } below)
        {
            to.Set("subsurface", below);
            to.Set("subsurfaceDistance", look.Take(SubsurfaceRadius, 1, 1, 1));
            colour = sums.Mix(colour, look.Take(SubsurfaceColour, 1, 1, 1), below);
        }

        to.Set("baseColor", colour);
    }
}
