using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// Classic MTL (“MTL material format”, “Illumination models”): illum 0 is the colour alone, 1 is Lambert, 2 and more add the highlight
/// (N·H)^Ns. A light that makes a white matte surface 1 gives a highlight of 1.
/// </summary>
internal sealed class MtlPhong(Slots slots) : IShadingModel
{
    private readonly Slot diffuse = slots["Kd"],
        specular = slots["Ks"],
        emissive = slots["Ke"],
        exponent = slots["Ns"],
        dissolve = slots["d"],
        transparency = slots["Tr"],
        illumination = slots["illum"];

    private readonly bool saysModel = slots.IsSaid("illum"),
        saysColour = slots.IsSaid("Kd"),
        saysHighlight = slots.IsSaid("Ks");

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        var opacity = inputs.Share(dissolve) * (1 - inputs.Share(transparency));
        var colour = saysColour ? inputs.Colour(diffuse) : Unsaid;
        var model = saysModel ? inputs.Number(illumination) : 2;
        if (model == 0)
            return build.Build(colour + inputs.Colour(emissive), opacity);
        build.Add(colour, LambertLobe.White);
        if (model >= 2 && saysHighlight)
            build.Add(inputs.Colour(specular), new HalfHighlightLobe(Math.Clamp(inputs.Number(exponent), 0, MostExponent)));
        return build.Build(inputs.Colour(emissive), opacity);
    }

    internal const float MostExponent = 1e5f;

    /// <summary>What a material shows that writes no colour: light grey (common practice).</summary>
    internal static readonly Vector3 Unsaid = new(0.8f);
}
