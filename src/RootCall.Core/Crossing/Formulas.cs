using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing;

/// <summary>Formulas that several models share, each with its source.</summary>
internal static class Formulas
{
    /// <summary>What a dielectric of index 1.5 mirrors at normal incidence.</summary>
    public const double Common = 0.04;

    private const string FresnelSaid = "F0 = ((n − 1)/(n + 1))² (Fresnel, at normal incidence)",
        Exponent = "α² = 2/(N + 2) (“Microfacet Models for Refraction through Rough Surfaces”, EGSR 2007, 5.2)",
        Peak = "F0 = 8 Ks/(N + 2): the highlight is as bright in its middle",
        Solved = "metalness and base colour by the quadratic of KHR_materials_pbrSpecularGlossiness",
        Weighed = "specular = mix(F0, base colour, metalness), diffuse = base colour (1 − metalness)/(1 − max specular)";

    /// <summary>What an index mirrors at normal incidence.</summary>
    public static Carried F0(Sums sums, Carried ior)
    {
        if (ior.Is(1.5))
            return ior with { Numbers = [Common] };
        return sums.Power(sums.Divide(sums.Add(ior, Carried.Of(-1)), sums.Add(ior, Carried.Of(1))), 2).Same(FresnelSaid);
    }

    /// <summary>The index that mirrors so much.</summary>
    /// <param name="f0">0 to less than 1.</param>
    public static Carried Ior(Sums sums, Carried f0)
    {
        if (f0.Is(Common))
            return f0 with { Numbers = [1.5] };
        var root = sums.Root(sums.Clamp(f0, 0, 0.98));
        return sums.Divide(sums.Add(root, Carried.Of(1)), sums.Invert(root)).Same(FresnelSaid);
    }

    /// <summary>What the dielectric part of a look mirrors at normal incidence, as a colour.</summary>
    public static Carried Dielectric(Look look, Sums sums) =>
        look.Mirrored
        ?? sums.Wide(
            sums.Multiply(
                sums.Multiply(sums.Wide(look.Take(SpecularColour, 1, 1, 1)), look.Take(Specular, 1)),
                F0(sums, look.Take(IndexOfRefraction, 1.5))
            )
        );

    /// <summary>
    /// Diffuse and specular of a look that has a base colour and a metalness; those of one that says them itself.
    /// </summary>
    public static (Carried Diffuse, Carried Specular) Split(Look look, Sums sums)
    {
        var colour = look.Take(BaseColour, 1, 1, 1);
        if (look.Mirrored is { } mirrored)
            return (colour, mirrored);
        var metal = look.Take(Metalness, 0);
        var specular = sums.Mix(Dielectric(look, sums), colour, metal);
        var below = sums.Multiply(colour, sums.Invert(metal));
        var diffuse = sums.Min(sums.Divide(below, sums.Max(sums.Invert(sums.Largest(specular)), 0.02)), 1);
        return (diffuse.Same(Weighed), specular.Same(Weighed));
    }

    /// <summary>
    /// A look without specular colour of its own: base colour and metalness by the solve that the archived extension published
    /// (KHR_materials_pbrSpecularGlossiness, “convert-between-workflows”).
    /// </summary>
    public static Look Metallic(Look look, Sums sums)
    {
        if (look.Mirrored is not { } specular)
            return look;
        var diffuse = look.Take(BaseColour, 1, 1, 1);
        var left = sums.Invert(sums.Largest(specular));
        var (light, shine) = (Perceived(sums, diffuse), Perceived(sums, specular));
        // Common m² + b m + (Common - specular) = 0.
        var b = sums.Add(sums.Add(sums.Divide(sums.Multiply(light, left), Carried.Of(1 - Common)), shine), Carried.Of(-2 * Common));
        var c = sums.Subtract(Carried.Of(Common), shine);
        var inside = sums.Max(sums.Subtract(sums.Multiply(b, b), sums.Multiply(c, Carried.Of(4 * Common))), 0);
        var root = sums.Divide(sums.Subtract(sums.Root(inside), b), Carried.Of(2 * Common));
        var metal = sums.AtLeast(shine, Common, sums.Clamp(root, 0, 1), Carried.Of(0)).Near(Solved);
        const double Least = 1e-6;
        var fromDiffuse = sums.Multiply(
            diffuse,
            sums.Divide(sums.Divide(left, Carried.Of(1 - Common)), sums.Max(sums.Invert(metal), Least))
        );
        var fromSpecular = sums.Divide(
            sums.Subtract(specular, sums.Wide(sums.Multiply(sums.Invert(metal), Carried.Of(Common)))),
            sums.Max(metal, Least)
        );
        var colour = sums.Clamp(sums.Mix(fromDiffuse, fromSpecular, sums.Multiply(metal, metal)), 0, 1);
        return look.With(null, (BaseColour, colour.Near(Solved)), (Metalness, metal));
    }

    /// <summary>How bright a colour seems, by the archived extension.</summary>
    private static Carried Perceived(Sums sums, Carried colour) => sums.Root(sums.Sum(sums.Multiply(colour, colour), 0.299, 0.587, 0.114));

    /// <summary>Roughness and mirrored colour of a highlight (N·H)^N whose peak is its colour.</summary>
    /// <param name="exponent">Of Blinn-Phong.</param>
    public static (Carried Roughness, Carried Mirrored) OfHighlight(Sums sums, Carried exponent, Carried colour)
    {
        var wider = sums.Add(exponent, Carried.Of(2));
        var roughness = sums.Power(sums.Divide(Carried.Of(2), wider), 0.25).Near(Exponent);
        var mirrored = sums.Clamp(sums.Divide(sums.Multiply(colour, Carried.Of(8)), wider), 0, 1).Near(Peak);
        return (roughness, mirrored);
    }

    /// <summary>Exponent and colour of a highlight, by the same formulas.</summary>
    public static (Carried Exponent, Carried Colour) ToHighlight(Sums sums, Carried roughness, Carried mirrored)
    {
        var alpha = sums.Power(sums.Max(roughness, 0.045), 4);
        var wider = sums.Divide(Carried.Of(2), alpha);
        var colour = sums.Clamp(sums.Divide(sums.Multiply(mirrored, wider), Carried.Of(8)), 0, 1).Near(Peak);
        return (sums.Max(sums.Add(wider, Carried.Of(-2)), 0).Near(Exponent), colour);
    }
}
