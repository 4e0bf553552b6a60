using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// FBX's lambert and phong: colours times their factors, a highlight (R·V)^exponent (common practice: no equations are published).
/// </summary>
internal sealed class FbxPhong(Slots slots) : IShadingModel
{
    private readonly Slot diffuse = slots["DiffuseColor"],
        diffuseFactor = slots["DiffuseFactor"],
        specular = slots["SpecularColor"],
        specularFactor = slots["SpecularFactor"],
        exponent = slots["ShininessExponent"],
        shininess = slots["Shininess"],
        emissive = slots["EmissiveColor"],
        emissiveFactor = slots["EmissiveFactor"],
        transparencyFactor = slots["TransparencyFactor"],
        transparentColour = slots["TransparentColor"],
        opacity = slots["Opacity"];

    private readonly bool saysColour = slots.IsSaid("DiffuseColor"),
        saysDiffuseFactor = slots.IsSaid("DiffuseFactor"),
        saysSpecularFactor = slots.IsSaid("SpecularFactor"),
        saysExponent = slots.IsSaid("ShininessExponent"),
        saysEmissiveFactor = slots.IsSaid("EmissiveFactor"),
        saysTransparency = slots.IsSaid("TransparencyFactor") && slots.IsSaid("TransparentColor"),
        saysOpacity = slots.IsSaid("Opacity");

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        float Factor(bool isSaid, float written) => isSaid ? MathF.Max(0, written) : 1;
        var colour = saysColour ? inputs.Colour(diffuse) : MtlPhong.Unsaid;
        build.Add(colour * Factor(saysDiffuseFactor, inputs.Number(diffuseFactor)), LambertLobe.White);
        var sharp = Math.Clamp(inputs.Number(saysExponent ? exponent : shininess), 0, MtlPhong.MostExponent);
        build.Add(inputs.Colour(specular) * Factor(saysSpecularFactor, inputs.Number(specularFactor)), new MirrorHighlightLobe(sharp));
        var see = saysTransparency
            ? 1 - (inputs.Share(transparencyFactor) * Surface.Builder.Largest(inputs.Reflectance(transparentColour)))
            : 1;
        return build.Build(
            inputs.Colour(emissive) * Factor(saysEmissiveFactor, inputs.Number(emissiveFactor)),
            saysOpacity ? inputs.Share(opacity) : see
        );
    }
}
