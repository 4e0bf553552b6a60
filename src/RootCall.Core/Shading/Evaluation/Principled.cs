using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// The principled model (“Physically-Based Shading”, SIGGRAPH 2012 course notes, 5; glass from “Extending the BRDF to a BSDF with
/// Integrated Subsurface Scattering”, 2015 course notes).
/// </summary>
internal sealed class Principled(Slots slots) : IShadingModel
{
    private readonly Slot baseColour = slots["baseColor"],
        metallic = slots["metallic"],
        roughness = slots["roughness"],
        anisotropic = slots["anisotropic"],
        specular = slots["specular"],
        specularTint = slots["specularTint"],
        sheen = slots["sheen"],
        sheenTint = slots["sheenTint"],
        clearcoat = slots["clearcoat"],
        clearcoatGloss = slots["clearcoatGloss"],
        transmission = slots["specTrans"],
        ior = slots["ior"],
        subsurface = slots["subsurface"];

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        var colour = inputs.Reflectance(baseColour);
        var rough = inputs.Share(roughness);
        var aspect = MathF.Sqrt(1 - (0.9f * inputs.Share(anisotropic)));
        var facets = Parts.Width(MathF.Max(0.001f, rough * rough / aspect), MathF.Max(0.001f, rough * rough * aspect));
        var metal = inputs.Share(metallic);
        var glass = inputs.Share(transmission) * (1 - metal);
        var index = MathF.Max(1e-3f, inputs.Number(ior));
        if (seen.Inside && glass > 0)
            return Parts.Inside(facets, index, Vector3.SquareRoot(colour), default);

        var luminance = Vector3.Dot(colour, new(0.3f, 0.6f, 0.1f));
        var hue = luminance > 0 ? colour / luminance : Vector3.One;
        var matte = (1 - metal) * (1 - glass);
        build.Add(colour * matte, new PrincipledDiffuseLobe(rough, inputs.Share(subsurface)));
        build.Add(matte * inputs.Share(sheen) * Vector3.Lerp(Vector3.One, hue, inputs.Share(sheenTint)), new PrincipledSheenLobe());
        // Specular 0 to 1 stands for 0 to 8 % at normal incidence.
        var tint = Vector3.Lerp(Vector3.One, hue, inputs.Share(specularTint));
        var f0 = Vector3.Lerp(0.08f * inputs.Share(specular) * tint, colour, metal);
        build.Add(new(1 - glass), new FacetLobe(facets, Reflectance.Schlick(f0, Vector3.One), false, Vector3.One));
        // Light passes two walls of a solid: each tints by the root.
        build.Add(new(glass), new GlassLobe(facets, index, Vector3.One, Vector3.SquareRoot(colour)));
        build.Add(new(0.25f * inputs.Share(clearcoat)), new PrincipledCoatLobe(0.1f + ((0.001f - 0.1f) * inputs.Share(clearcoatGloss))));
        return build.Build();
    }
}
