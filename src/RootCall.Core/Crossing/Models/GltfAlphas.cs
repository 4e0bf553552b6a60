using RootCall.Core.Shading;
using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>glTF's opacity: not at all, cut out, or blended (glTF 2.0, 3.9.4).</summary>
internal static class GltfAlphas
{
    public static void Read(Source from, Look look)
    {
        var mode = from.Word("alphaMode");
        var (alpha, cutoff) = (from["alpha"], from["alphaCutoff"]);
        if (mode is not ("MASK" or "BLEND"))
            return;
        look[Opacity] = alpha;
        if (mode == "MASK")
            look[OpacityThreshold] = cutoff;
    }

    public static void Write(Look look, Target to)
    {
        var opacity = look.Take(Opacity, 1);
        if (opacity.Is(1))
            return;
        to.Set("alpha", opacity);
        var cut = look.Find(OpacityThreshold);
        to.Say("alphaMode", InputType.Text, cut is null ? "BLEND" : "MASK");
        if (cut is not null)
            to.Set("alphaCutoff", cut);
    }
}
