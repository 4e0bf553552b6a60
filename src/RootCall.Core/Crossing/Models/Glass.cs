using RootCall.Core.Shading;
using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>Glass as Standard Surface and OpenPBR say it, alike but for the names.</summary>
internal static class Glass
{
    public static void Read(Look look, Carried weight, Carried colour, Carried depth, Carried scatter, Carried dispersion)
    {
        (look[Transmission], look[TransmissionColour], look[TransmissionDepth]) = (weight, colour, depth);
        if (!scatter.Is(0))
            look[TransmissionScatter] = scatter;
        if (!dispersion.Is(0))
            look[Dispersion] = dispersion;
    }

    public static void Write(
        Look look,
        Target to,
        string weight,
        string colour,
        string depth,
        string scatter,
        string dispersion,
        string thinWalled
    )
    {
        if (look.Find(Transmission) is { } glass)
        {
            // Here what is not bent is at least as rough as what is mirrored.
            to.Set(weight, look.Find(StraightThrough) is null ? glass : glass.Near("what comes through is as rough as what is mirrored"));
            var hue = look.Take(TransmissionColour, 1, 1, 1);
            var swallowed = look.Take(TransmissionDepth, 0);
            to.Set(colour, hue);
            to.Set(depth, swallowed);
            to.Set(scatter, look.Take(TransmissionScatter, 0, 0, 0));
            if (look.Find(Dispersion) is { } spread)
                to.Set(dispersion, spread.Near("the strength of dispersion is counted otherwise"));
            if (look.Find(TransmissionTint) is { } tint && !tint.Is(1) && !swallowed.Is(0))
                to.Lose(tint.From, "a solid whose inside swallows light has no tint of its surface");
        }

        if (look.Take(ThinWalled, 0) is { } wall && !wall.Is(0))
            to.Say(thinWalled, InputType.Boolean, "true");
    }
}
