using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// KHR_materials_pbrSpecularGlossiness (archived): diffuse × (1 - the largest of specular) below facets that mirror specular.
/// </summary>
internal sealed class GltfSpecularGlossiness(Slots slots) : IShadingModel
{
    private readonly Slot diffuse = slots["diffuse"],
        alpha = slots["alpha"],
        alphaCutoff = slots["alphaCutoff"],
        specular = slots["specular"],
        glossiness = slots["glossiness"],
        emissive = slots["emissive"];

    private readonly bool isUnlit = slots.IsSaid("unlit");
    private readonly GltfAlpha mode = GltfAlphas.Of(slots);

    public Surface At(in Inputs inputs, Seen seen)
    {
        var opacity = mode.Opacity(inputs.Share(alpha), inputs.Number(alphaCutoff));
        var build = new Surface.Builder(seen.View);
        var colour = inputs.Reflectance(diffuse);
        if (isUnlit)
            return build.Build(colour, opacity);
        var f0 = inputs.Reflectance(specular);
        var mirror = Reflectance.Schlick(f0, Vector3.One);
        build.Add(Vector3.One, new FacetLobe(Parts.Facets(1 - inputs.Share(glossiness)), mirror, false, Vector3.One));
        build.Add(colour * (1 - Surface.Builder.Largest(f0)), new UnderFacetsLobe(mirror));
        return build.Build(inputs.Colour(emissive), opacity);
    }
}
