using RootCall.Core.Shading;
using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>glTF's opacity: not at all, cut out, or blended (glTF 2.0, 3.9.4).</summary>
internal static class GltfAlphas
{
    /// <summary>As MaterialX counts them.</summary>
    private static readonly string[] Modes = ["OPAQUE", "MASK", "BLEND"];

    public static void Read(Source from, Look look, GltfNames names)
    {
        var mode = names.HasMore ? from.Word("alphaMode") : Modes[(int)Math.Clamp(from["alpha_mode"].Number ?? 0, 0, 2)];
        var (alpha, cutoff) = (from[names["alpha"]], from[names["alphaCutoff"]]);
        if (mode is not ("MASK" or "BLEND"))
            return;
        look[Opacity] = alpha;
        if (mode == "MASK")
            look[OpacityThreshold] = cutoff;
    }

    public static void Write(Look look, Target to, GltfNames names)
    {
        var opacity = look.Take(Opacity, 1);
        if (opacity.Is(1))
            return;
        to.Set(names["alpha"], opacity);
        var cut = look.Find(OpacityThreshold);
        var mode = cut is null ? 2 : 1;
        if (names.HasMore)
            to.Say("alphaMode", InputType.Text, Modes[mode]);
        else
            to.Set("alpha_mode", Carried.Of(mode));
        if (cut is not null)
            to.Set(names["alphaCutoff"], cut);
    }
}
