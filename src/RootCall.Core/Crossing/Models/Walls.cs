using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>Light below the surface of a thin wall: what comes through it is matte, too.</summary>
internal static class Walls
{
    /// <param name="through">What share of it goes through; the rest comes back.</param>
    public static void Read(Look look, Sums sums, double through)
    {
        var below = look.Peek(Subsurface, 0);
        if (below.Is(0))
            return;
        var (colour, flesh) = (look.Peek(BaseColour, 1, 1, 1), look.Peek(SubsurfaceColour, 1, 1, 1));
        var behind = sums.Multiply(below, Carried.Of(through));
        var back = sums.Add(
            sums.Multiply(sums.Wide(colour), sums.Invert(below)),
            sums.Multiply(sums.Wide(flesh), sums.Multiply(below, Carried.Of(1 - through)))
        );
        const string How = "light below the surface of a thin wall is matte light through it";
        look.Drop(Subsurface, SubsurfaceColour, SubsurfaceRadius);
        (look[DiffuseTransmission], look[DiffuseTransmissionColour]) = (behind.Same(How), flesh.Same(How));
        look[BaseColour] = behind.Is(1) ? flesh : sums.Divide(back, sums.Max(sums.Invert(behind), 1e-3)).Same(How);
    }

    /// <summary>The same said as light below the surface, by models that have nothing else for it.</summary>
    /// <param name="through">As <see cref="Read"/> has it.</param>
    public static Look Below(Look look, Sums sums, double through)
    {
        if (look.Find(DiffuseTransmission) is not { } behind)
            return look;
        var (colour, flesh) = (look.Take(BaseColour, 1, 1, 1), look.Take(DiffuseTransmissionColour, 1, 1, 1));
        var weight = sums.Min(sums.Divide(behind, Carried.Of(through)), 1);
        var back = sums.Subtract(
            sums.Multiply(sums.Wide(colour), sums.Invert(behind)),
            sums.Multiply(sums.Wide(flesh), sums.Subtract(weight, behind))
        );
        const string How = "matte light through a sheet is light below the surface of a thin wall";
        return look.With(
            look.Mirrored,
            (Subsurface, weight.Near(How)),
            (SubsurfaceColour, flesh.Near(How)),
            (ThinWalled, Carried.Of(1)),
            (BaseColour, weight.Is(1) ? colour : sums.Clamp(sums.Divide(back, sums.Max(sums.Invert(weight), 1e-3)), 0, 1).Near(How))
        );
    }
}
