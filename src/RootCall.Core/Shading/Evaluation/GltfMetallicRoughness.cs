using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// glTF's metallic-roughness model by the sample implementation of its specification (glTF 2.0, appendix B.3), and the ratified
/// extensions KHR_materials_anisotropy, clearcoat, diffuse_transmission, emissive_strength, ior, iridescence, sheen, specular,
/// transmission, unlit and volume by the equations of their own pages. Light that bounces between facets is lost there, and so it is here.
/// </summary>
internal sealed class GltfMetallicRoughness(Slots slots) : IShadingModel
{
    private readonly Slot baseColour = slots["baseColor"],
        alpha = slots["alpha"],
        alphaCutoff = slots["alphaCutoff"],
        metallic = slots["metallic"],
        roughness = slots["roughness"],
        emissive = slots["emissive"],
        emissiveStrength = slots["emissiveStrength"],
        ior = slots["ior"],
        specular = slots["specular"],
        specularColour = slots["specularColor"],
        transmission = slots["transmission"],
        diffuseTransmission = slots["diffuseTransmission"],
        diffuseTransmissionColour = slots["diffuseTransmissionColor"],
        thickness = slots["thickness"],
        attenuationDistance = slots["attenuationDistance"],
        attenuationColour = slots["attenuationColor"],
        clearcoat = slots["clearcoat"],
        clearcoatRoughness = slots["clearcoatRoughness"],
        sheenColour = slots["sheenColor"],
        sheenRoughness = slots["sheenRoughness"],
        anisotropyStrength = slots["anisotropyStrength"],
        anisotropyRotation = slots["anisotropyRotation"],
        iridescence = slots["iridescence"],
        iridescenceIor = slots["iridescenceIor"],
        iridescenceThickness = slots["iridescenceThicknessMaximum"];

    private readonly bool isUnlit = slots.IsSaid("unlit"),
        hasVolume = slots.IsSaid("thickness");

    private readonly GltfAlpha mode = GltfAlphas.Of(slots);

    public Surface At(in Inputs inputs, Seen seen)
    {
        var colour = inputs.Reflectance(baseColour);
        var opacity = mode.Opacity(inputs.Share(alpha), inputs.Number(alphaCutoff));
        var build = new Surface.Builder(seen.View);
        if (isUnlit)
            return build.Build(colour, opacity);
        // B.2.3, and KHR_materials_anisotropy: the roughness along the direction grows towards 1.
        var a = inputs.Share(roughness) is var r ? r * r : 0;
        var strength = inputs.Share(anisotropyStrength);
        var facets = Parts.Width(a + ((1 - a) * strength * strength), a);
        var index = inputs.Number(ior) is > 0 and var n ? n : 1.5f;
        var glass = inputs.Share(transmission);
        var solid = hasVolume && inputs.Number(thickness) > 0;
        // KHR_materials_volume: attenuation = attenuationColor^(distance / attenuationDistance).
        var absorption = solid ? Parts.Absorption(inputs.Reflectance(attenuationColour), inputs.Number(attenuationDistance)) : default;
        if (seen.Inside && solid && glass > 0)
            return Parts.Inside(facets, index, colour, absorption, opacity);

        var left = Vector3.One;
        var emission = inputs.Colour(emissive) * MathF.Max(0, inputs.Number(emissiveStrength));
        // KHR_materials_clearcoat, “Layering”: the coat's Fresnel at the view decides what is left.
        if (inputs.Share(clearcoat) is > 0 and var coat)
        {
            var width = inputs.Share(clearcoatRoughness);
            build.Add(new(coat), new FacetLobe(Parts.Facets(width), Reflectance.Schlick(new(0.04f), Vector3.One), false, Vector3.One));
            left *= 1 - (coat * Fresnel.Schlick(new(0.04f), seen.View.Z).X);
            emission *= left;
        }

        // KHR_materials_sheen, “Albedo-scaling technique”.
        var sheen = inputs.Reflectance(sheenColour);
        if (sheen != Vector3.Zero)
            left = build.Cover(left, sheen, new SheenLobe(inputs.Share(sheenRoughness) is var s ? s * s : 0, true));

        // KHR_materials_ior and KHR_materials_specular; without them 0.04 and 1.
        var metal = inputs.Share(metallic);
        var weight = inputs.Share(specular);
        var dielectric = Vector3.Min(Parts.F0(index) * inputs.Colour(specularColour), Vector3.One) * weight;
        var f0 = Vector3.Lerp(dielectric, colour, metal);
        var mirror = Reflectance.Schlick(f0, new(weight + ((1 - weight) * metal)));
        var turns = inputs.Number(anisotropyRotation) / (2 * MathF.PI);
        // KHR_materials_iridescence: the film's Fresnel is mixed in.
        var film = inputs.Share(iridescence);
        void Mirror(float share, Reflectance by)
        {
            if (share > 0)
                build.Add(left * share, Parts.Turned(new FacetLobe(facets, by, false, Vector3.One), turns));
        }

        Mirror(1 - film, mirror);
        Mirror(film, Reflectance.Film(new(inputs.Number(iridescenceIor), inputs.Number(iridescenceThickness)), f0));

        // B.3.5: what is below the facets. KHR_materials_transmission and diffuse_transmission take their shares of it.
        var under = left * (1 - metal);
        var matte = under * colour * (1 - glass);
        var behind = inputs.Share(diffuseTransmission);
        build.Add(matte * (1 - behind), new UnderFacetsLobe(mirror));
        build.Add(
            under * (1 - glass) * behind * inputs.Reflectance(diffuseTransmissionColour),
            new ThroughLobe(new UnderFacetsLobe(mirror))
        );
        if (solid)
            build.Add(under * glass, new GlassLobe(facets, index, Vector3.Zero, colour));
        else
            build.Add(under * glass * colour, new ThroughLobe(new FacetLobe(facets, mirror.Rest, false, Vector3.One)));
        return build.Build(emission, opacity, absorption);
    }
}

/// <summary>What glTF's alphaMode makes of an alpha (glTF 2.0, section 3.9.4).</summary>
internal enum GltfAlpha
{
    Opaque,
    Mask,
    Blend,
}

internal static class GltfAlphas
{
    public static GltfAlpha Of(Slots slots) =>
        slots.Word("alphaMode") switch
        {
            "MASK" => GltfAlpha.Mask,
            "BLEND" => GltfAlpha.Blend,
            _ => GltfAlpha.Opaque,
        };

    public static float Opacity(this GltfAlpha mode, float alpha, float cutoff) =>
        mode switch
        {
            GltfAlpha.Mask => alpha >= cutoff ? 1 : 0,
            GltfAlpha.Blend => alpha,
            _ => 1,
        };
}
