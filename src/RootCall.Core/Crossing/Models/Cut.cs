using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>Opacity, for models that have no threshold to cut out by.</summary>
internal static class Cut
{
    /// <summary>0 or 1 where the look is cut out.</summary>
    public static Carried Out(Look look, Sums sums)
    {
        var opacity = look.Take(Opacity, 1);
        if (look.Find(OpacityThreshold) is not { } threshold || opacity.Is(1))
            return opacity;
        return threshold.Number is { } limit
            ? sums.AtLeast(opacity, limit, Carried.Of(1), Carried.Of(0)).Same("1 where it reaches the threshold, 0 elsewhere")
            : opacity.Near("there is no threshold: what was cut out is blended");
    }
}
