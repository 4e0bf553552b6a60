using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>MTL with the physically based statements.</summary>
internal sealed class MtlPbrCrossing : ICrossedModel
{
    public string Id => "mtl-pbr";

    private const double Unsaid = 0.8,
        SheenAlpha = 0.0625;

    public Look Read(Source from, Sums sums)
    {
        var look = new Look();
        from.IsSaid("illum");
        look[BaseColour] = from["Kd", Unsaid, Unsaid, Unsaid];
        (look[Roughness], look[Metalness]) = (from["Pr", 1], from["Pm"]);
        var packed =
            from.IsSaid("map_rma") ? ("map_rma", 0, 1)
            : from.IsSaid("map_orm") ? ("map_orm", 1, 2)
            : default;
        if (packed is ({ } map, var rough, var metal))
            (look[Roughness], look[Metalness]) = (sums.Part(from[map, 1, 1, 1], rough), sums.Part(from[map, 1, 1, 1], metal));
        if (!from["aniso"].Is(0))
            (look[Anisotropy], look[AnisotropyRotation]) = (from["aniso"], from["anisor"]);
        if (!from["Pc"].Is(0))
            (look[Coat], look[CoatRoughness], look[CoatIndexOfRefraction]) = (from["Pc"], from["Pcr"], Carried.Of(1.5));
        if (!from["Ps"].Is(0))
            (look[SheenColour], look[SheenRoughness]) = (sums.Wide(from["Ps"]), Carried.Of(SheenAlpha));
        look[Emission] = from["Ke"];
        var opacity = sums.Multiply(from["d"], sums.Invert(from["Tr"]));
        if (!opacity.Is(1))
            look[Opacity] = opacity;
        return look;
    }

    public void Write(Look look, Target to, Sums sums)
    {
        look = Formulas.Metallic(look, sums);
        var colour = look.Take(BaseColour, Unsaid, Unsaid, Unsaid);
        colour = Flesh.In(colour, look, sums);
        to.Set("Kd", colour);
        to.Set("Pr", look.Take(Roughness, 1));
        to.Set("Pm", look.Take(Metalness, 0));
        if (look.Find(Anisotropy) is { } anisotropy)
        {
            to.Set("aniso", anisotropy);
            to.Set("anisor", look.Take(AnisotropyRotation, 0));
        }

        if (look.Find(Coat) is { } coat)
        {
            to.Set("Pc", coat);
            to.Set("Pcr", look.Take(CoatRoughness, 0));
            if (look.Take(CoatIndexOfRefraction, 1.5) is { } index && !index.Is(1.5))
                to.Lose(index.From, "the coat's index is always 1.5");
        }

        if (look.Find(SheenColour) is { } sheen)
        {
            to.Set("Ps", sums.Largest(sheen).Near("sheen has no colour and no roughness here"));
            look.Find(SheenRoughness);
        }

        var f0 = Formulas.F0(sums, look.Take(IndexOfRefraction, 1.5));
        var mirrored = sums.Multiply(sums.Multiply(look.Take(SpecularColour, 1, 1, 1), look.Take(Specular, 1)), f0);
        if (!mirrored.Is(Formulas.Common) && !mirrored.From.IsEmpty)
            to.Lose(mirrored.From, "what is not metal always mirrors 4 %");
        to.Set("Ke", look.Take(Emission, 0, 0, 0));
        to.Set("d", Highlights.Opacity(look, sums));
    }
}
