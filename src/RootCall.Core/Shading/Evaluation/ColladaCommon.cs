using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// COLLADA's common profile (1.4.1, chapter 8): constant gives off its emission, lambert adds diffuse, phong a highlight (R·V)^shininess,
/// blinn (N·H)^shininess.
/// </summary>
internal sealed class ColladaCommon(Slots slots) : IShadingModel
{
    private enum Lighting
    {
        Constant,
        Lambert,
        Phong,
        Blinn,
    }

    private readonly Slot emission = slots["emission"],
        diffuse = slots["diffuse"],
        specular = slots["specular"],
        shininess = slots["shininess"],
        transparent = slots["transparent"],
        transparency = slots["transparency"];

    private readonly Lighting lighting = Enum.TryParse<Lighting>(slots.Word("lighting"), ignoreCase: true, out var l) ? l : Lighting.Phong;
    private readonly bool isZeroOpaque = slots.Word("opaque") is "RGB_ZERO" or "A_ZERO",
        saysTransparent = slots.IsSaid("transparent"),
        saysTransparency = slots.IsSaid("transparency");

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        if (lighting != Lighting.Constant)
            build.Add(inputs.Colour(diffuse), LambertLobe.White);
        var exponent = Math.Clamp(inputs.Number(shininess), 0, MtlPhong.MostExponent);
        if (lighting is Lighting.Phong or Lighting.Blinn)
            build.Add(
                inputs.Colour(specular),
                lighting == Lighting.Phong ? new MirrorHighlightLobe(exponent) : new HalfHighlightLobe(exponent)
            );
        return build.Build(inputs.Colour(emission), Opacity(inputs));
    }

    /// <summary>“Determining Transparency (Opacity)”: the product of both, which is what shows or what does not.</summary>
    private float Opacity(in Inputs inputs)
    {
        if (!saysTransparent)
            return 1;
        var amount = saysTransparency ? inputs.Share(transparency) : 1;
        var colour = inputs.Reflectance(transparent);
        // Rec. 709's luminance, as the specification gives it for RGB_ZERO.
        var light = Vector3.Dot(colour, new(0.212671f, 0.715160f, 0.072169f));
        return isZeroOpaque ? 1 - (light * amount) : amount;
    }
}
