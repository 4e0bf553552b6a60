using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// MaterialX's gltf_pbr 2.0.1 by the node graph that defines it: the inputs of glTF, layered by albedo scaling, with the light that
/// bounces between facets.
/// </summary>
internal sealed class MaterialXGltfPbr(Slots slots) : IShadingModel
{
    private readonly Slot baseColour = slots["base_color"],
        alpha = slots["alpha"],
        alphaMode = slots["alpha_mode"],
        alphaCutoff = slots["alpha_cutoff"],
        metallic = slots["metallic"],
        roughness = slots["roughness"],
        emissive = slots["emissive"],
        emissiveStrength = slots["emissive_strength"],
        ior = slots["ior"],
        specular = slots["specular"],
        specularColour = slots["specular_color"],
        transmission = slots["transmission"],
        thickness = slots["thickness"],
        attenuationDistance = slots["attenuation_distance"],
        attenuationColour = slots["attenuation_color"],
        clearcoat = slots["clearcoat"],
        clearcoatRoughness = slots["clearcoat_roughness"],
        sheenColour = slots["sheen_color"],
        sheenRoughness = slots["sheen_roughness"],
        anisotropyStrength = slots["anisotropy_strength"],
        anisotropyRotation = slots["anisotropy_rotation"],
        iridescence = slots["iridescence"],
        iridescenceIor = slots["iridescence_ior"],
        iridescenceThickness = slots["iridescence_thickness"];

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        var mode = (GltfAlpha)Math.Clamp(inputs.Number(alphaMode), 0, 2);
        var opacity = mode.Opacity(inputs.Share(alpha), inputs.Number(alphaCutoff));
        var colour = inputs.Reflectance(baseColour);
        var a = inputs.Share(roughness) is var r ? r * r : 0;
        var strength = inputs.Share(anisotropyStrength);
        var facets = Parts.Width(a + ((1 - a) * strength * strength), a);
        var index = inputs.Number(ior) is > 0 and var n ? n : 1.5f;
        var glass = inputs.Share(transmission);
        var isSolid = glass > 0 && inputs.Number(thickness) > 0;
        var absorption = isSolid ? Parts.Absorption(inputs.Reflectance(attenuationColour), inputs.Number(attenuationDistance)) : default;
        if (seen.Inside && isSolid)
            return Parts.Inside(facets, index, colour, absorption, opacity);

        var coat = FacetLobe.Kept(Parts.Facets(inputs.Share(clearcoatRoughness)), Reflectance.Dielectric(1.5f), seen.View);
        var left = build.Cover(Vector3.One, new(inputs.Share(clearcoat)), coat);
        var sheen = inputs.Reflectance(sheenColour);
        left = build.Cover(left, sheen, new SheenLobe(inputs.Share(sheenRoughness) is var s ? s * s : 0, false));

        var metal = inputs.Share(metallic);
        var weight = inputs.Share(specular);
        var f0 = Vector3.Min(Parts.F0(index) * inputs.Colour(specularColour), Vector3.One) * weight;
        var film = inputs.Share(iridescence);
        var thin = new ThinFilm(inputs.Number(iridescenceIor), inputs.Number(iridescenceThickness));
        var turns = -inputs.Number(anisotropyRotation) / (2 * MathF.PI);
        var covered = 0f;
        void Mirror(float share, Reflectance metals, Reflectance dielectrics)
        {
            if (share == 0)
                return;
            if (metal > 0)
                build.Add(left * metal * share, Parts.Turned(FacetLobe.Kept(facets, metals, seen.View), turns));
            var lobe = FacetLobe.Kept(facets, dielectrics, seen.View);
            build.Add(left * (1 - metal) * share, Parts.Turned(lobe, turns));
            covered += share * Surface.Builder.Largest(lobe.Albedo(seen.View));
        }

        Mirror(1 - film, Reflectance.Schlick(colour, Vector3.One), Reflectance.Schlick(f0, new(weight)));
        Mirror(film, Reflectance.Film(thin, colour), Reflectance.Film(thin, f0));
        var under = left * (1 - metal) * (1 - covered) * colour;
        build.Add(under * (1 - glass), LambertLobe.White);
        build.Add(
            under * glass,
            isSolid
                ? new GlassLobe(facets, index, Vector3.Zero, Vector3.One)
                : new ThroughLobe(new FacetLobe(facets, Reflectance.Schlick(Vector3.One, Vector3.One), true, Vector3.One))
        );
        return build.Build(inputs.Colour(emissive) * MathF.Max(0, inputs.Number(emissiveStrength)), opacity, absorption);
    }
}
