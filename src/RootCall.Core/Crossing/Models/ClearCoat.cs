using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>A coat's colour where the other model's coat is clear, or has none: what lies below has it.</summary>
internal static class ClearCoat
{
    private const string How = "a coat's colour tints all that is below it (MaterialX, translation graphs)";

    public static Look Of(Look look, Sums sums)
    {
        if (look.Find(CoatColour) is not { } hue || hue.Is(1))
            return look;
        var tint = sums.Mix(Carried.Of(1, 1, 1), hue, look.Peek(Coat, 0)).Near(How);
        var below = new List<(LookPart, Carried)>
        {
            (BaseColour, sums.Multiply(look.Peek(BaseColour, 1, 1, 1), tint)),
            (SpecularColour, sums.Multiply(look.Peek(SpecularColour, 1, 1, 1), tint)),
        };
        foreach (var part in (LookPart[])[SubsurfaceColour, TransmissionTint, Emission])
            if (look.Peek(part, 0) is var there && !there.Is(0))
                below.Add((part, sums.Multiply(there, tint)));
        return look.With(look.Mirrored is { } mirrored ? sums.Multiply(mirrored, tint) : null, [.. below]);
    }
}
