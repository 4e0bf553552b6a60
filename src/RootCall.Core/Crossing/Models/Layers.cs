using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>Layers that Standard Surface and OpenPBR say alike but for the names of their inputs.</summary>
internal static class Layers
{
    /// <summary>What a coat's inputs are called.</summary>
    public sealed record Coat(string Weight, string Roughness, string Index, string Colour);

    /// <summary>What the inputs of a layer of fibres are called.</summary>
    public sealed record Sheen(string Weight, string Colour, string Roughness);

    public static void Read(Look look, Source from, Coat names)
    {
        if (from[names.Weight].Is(0))
            return;
        (look[LookPart.Coat], look[CoatRoughness]) = (from[names.Weight], from[names.Roughness]);
        (look[CoatIndexOfRefraction], look[CoatColour]) = (from[names.Index], from[names.Colour]);
    }

    public static void Read(Look look, Source from, Sums sums, Sheen names)
    {
        if (!from[names.Weight].Is(0))
            (look[SheenColour], look[SheenRoughness]) = (sums.Multiply(from[names.Colour], from[names.Weight]), from[names.Roughness]);
    }

    public static void Write(Look look, Target to, Coat names)
    {
        if (look.Find(LookPart.Coat) is not { } coat)
            return;
        to.Set(names.Weight, coat);
        to.Set(names.Roughness, look.Take(CoatRoughness, 0));
        to.Set(names.Index, look.Take(CoatIndexOfRefraction, 1.5));
        to.Set(names.Colour, look.Take(CoatColour, 1, 1, 1));
    }

    public static void Write(Look look, Target to, Sheen names)
    {
        if (look.Find(SheenColour) is not { } sheen)
            return;
        to.Set(names.Weight, Carried.Of(1));
        to.Set(names.Colour, sheen);
        to.Set(names.Roughness, look.Take(SheenRoughness, 0.3));
    }
}
