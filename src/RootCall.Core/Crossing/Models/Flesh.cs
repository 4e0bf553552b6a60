using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>Light below the surface, where the other model has one colour for it and for what is matte.</summary>
internal static class Flesh
{
    /// <summary>A metal has nothing below: the colours are mixed by what of the material is none.</summary>
    public static Carried In(Carried colour, Look look, Sums sums)
    {
        if (look.Find(Subsurface) is not { } below)
            return colour;
        var share = sums.Multiply(below, sums.Invert(look.Peek(Metalness, 0)));
        return sums.Mix(colour, look.Take(SubsurfaceColour, 1, 1, 1), share).Near("light below the surface as matte");
    }
}
