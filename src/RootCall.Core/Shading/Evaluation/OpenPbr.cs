using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// OpenPBR Surface 1.1 (“Formalism”, “Model” and its sections), with the formulas of the node graph that its specification ships
/// (open_pbr_surface.mtlx): fuzz, coat, metal, glossy or transparent dielectric, subsurface and diffuse, from the top.
/// </summary>
internal sealed class OpenPbr(Slots slots) : IShadingModel
{
    private readonly Slot baseWeight = slots["base_weight"],
        baseColour = slots["base_color"],
        diffuseRoughness = slots["base_diffuse_roughness"],
        metalness = slots["base_metalness"],
        specularWeight = slots["specular_weight"],
        specularColour = slots["specular_color"],
        specularRoughness = slots["specular_roughness"],
        specularIor = slots["specular_ior"],
        specularAnisotropy = slots["specular_roughness_anisotropy"],
        transmissionWeight = slots["transmission_weight"],
        transmissionColour = slots["transmission_color"],
        transmissionDepth = slots["transmission_depth"],
        subsurfaceWeight = slots["subsurface_weight"],
        subsurfaceColour = slots["subsurface_color"],
        subsurfaceAnisotropy = slots["subsurface_scatter_anisotropy"],
        fuzzWeight = slots["fuzz_weight"],
        fuzzColour = slots["fuzz_color"],
        fuzzRoughness = slots["fuzz_roughness"],
        coatWeight = slots["coat_weight"],
        coatColour = slots["coat_color"],
        coatRoughness = slots["coat_roughness"],
        coatAnisotropy = slots["coat_roughness_anisotropy"],
        coatIor = slots["coat_ior"],
        coatDarkening = slots["coat_darkening"],
        filmWeight = slots["thin_film_weight"],
        filmThickness = slots["thin_film_thickness"],
        filmIor = slots["thin_film_ior"],
        emissionLuminance = slots["emission_luminance"],
        emissionColour = slots["emission_color"],
        opacity = slots["geometry_opacity"],
        thinWalled = slots["geometry_thin_walled"];

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        var there = inputs.Share(opacity);
        var coated = inputs.Share(coatWeight);
        // “Roughening”: r' = min(1, r⁴ + 2 r_coat⁴)^¼.
        var (own, above) = (inputs.Share(specularRoughness), inputs.Share(coatRoughness));
        var rougher = MathF.Pow(MathF.Min(1, MathF.Pow(own, 4) + (2 * MathF.Pow(above, 4))), 0.25f);
        var facets = Facets(own + ((rougher - own) * coated), inputs.Share(specularAnisotropy));
        var coatIndex = MathF.Max(1e-3f, inputs.Number(coatIor));
        // “Coat”, the relative index below it, turned round where it would mirror all.
        var index = MathF.Max(1e-3f, inputs.Number(specularIor));
        var relative = index / coatIndex is var q && q < 1 ? 1 / q : index / coatIndex;
        var eta = Modulated(index + ((relative - index) * coated), inputs.Number(specularWeight));

        var isWall = inputs.Is(thinWalled);
        var depth = inputs.Number(transmissionDepth);
        var tint = inputs.Reflectance(transmissionColour);
        var metal = inputs.Share(metalness);
        var glass = inputs.Share(transmissionWeight);
        var isSolid = !isWall && glass > 0 && metal < 1;
        var absorption = isSolid ? Parts.Absorption(tint, depth) : default;
        var filter = depth > 0 ? Vector3.One : tint;
        if (seen.Inside && isSolid)
            return Parts.Inside(facets, eta, Vector3.One, absorption, there);

        var left = Vector3.One;
        left = build.Cover(
            left,
            inputs.Share(fuzzWeight) * inputs.Reflectance(fuzzColour),
            new SheenLobe(inputs.Share(fuzzRoughness), false)
        );
        var passedFuzz = left;
        left = build.Cover(
            left,
            new(coated),
            FacetLobe.Kept(Facets(above, inputs.Share(coatAnisotropy)), Reflectance.Dielectric(coatIndex), seen.View)
        );
        left *= Vector3.Lerp(Vector3.One, inputs.Colour(coatColour), coated) * Darkened(inputs, coated, coatIndex, metal);

        var colour = inputs.Reflectance(baseColour);
        var weight = inputs.Share(baseWeight);
        var specular = MathF.Max(0, inputs.Number(specularWeight));
        var edge = inputs.Reflectance(specularColour);
        var film = new ThinFilm(inputs.Number(filmIor), inputs.Number(filmThickness) * 1000);
        var filmed = inputs.Share(filmWeight);

        // “Metal”: F82-tint, weighted by specular_weight.
        var shine = left * metal * MathF.Min(1, specular);
        var reflectivity = colour * weight;
        build.Add(shine * (1 - filmed), FacetLobe.Kept(facets, Reflectance.Metal(reflectivity, edge * MathF.Min(1, specular)), seen.View));
        if (filmed > 0)
            build.Add(shine * filmed, FacetLobe.Kept(facets, Reflectance.Film(film, reflectivity), seen.View));
        left *= 1 - metal;

        // “Translucent base”: one interface that mirrors and lets through, share by share beside the glossy-diffuse one.
        var solid = isWall ? 0 : glass;
        build.Add(left * solid, new GlassLobe(facets, eta, edge, filter));
        var plain = FacetLobe.Kept(facets, Reflectance.Dielectric(eta), seen.View);
        build.Add(left * (1 - solid) * (1 - filmed) * edge, plain);
        var covered = Surface.Builder.Largest(plain.Albedo(seen.View));
        if (filmed > 0)
        {
            var shimmering = FacetLobe.Kept(facets, Reflectance.Film(film, new(Parts.F0(eta))), seen.View);
            build.Add(left * (1 - solid) * filmed * edge, shimmering);
            covered += (Surface.Builder.Largest(shimmering.Albedo(seen.View)) - covered) * filmed;
        }

        left *= 1 - covered;
        if (isWall)
            build.Add(
                left * glass * filter,
                new ThroughLobe(new FacetLobe(facets, Reflectance.Schlick(Vector3.One, Vector3.One), true, Vector3.One))
            );
        left *= 1 - glass;

        var below = inputs.Share(subsurfaceWeight);
        var flesh = inputs.Reflectance(subsurfaceColour);
        if (below > 0 && isWall)
        {
            // “Subsurface” of a wall: half comes back, half goes through, shifted by the scattering's direction.
            var forward = Math.Clamp(inputs.Number(subsurfaceAnisotropy), -1, 1);
            build.Add(left * below * flesh * (0.5f * (1 - forward)), LambertLobe.White);
            build.Add(left * below * flesh * (0.5f * (1 + forward)), new ThroughLobe(LambertLobe.White));
        }
        else
            build.Add(left * below * flesh, LambertLobe.White);

        build.Add(left * (1 - below) * weight, new KeptDiffuseLobe(colour, inputs.Share(diffuseRoughness)));

        var light = inputs.Colour(emissionColour) * MathF.Max(0, inputs.Number(emissionLuminance)) * Exposure;
        var through = (1 - Parts.F0(coatIndex)) * (1 - Fresnel.Rim(seen.View.Z));
        return build.Build(passedFuzz * Vector3.Lerp(light, light * inputs.Colour(coatColour) * through, coated), there, absorption);
    }

    /// <summary>
    /// Radiance of a nit: a lit screen of 1,000 nits stands at 1 beside a white sheet in the studio. The specification gives the unit and
    /// leaves the exposure to the renderer.
    /// </summary>
    private const float Exposure = 1 / 1000f;

    /// <summary>“Microfacet model”: α_t = r² √(2 / (1 + (1 - a)²)), α_b = (1 - a) α_t.</summary>
    private static Ggx Facets(float roughness, float anisotropy)
    {
        var inverse = 1 - anisotropy;
        var x = roughness * roughness * MathF.Sqrt(2 / (1 + (inverse * inverse)));
        return Parts.Width(x, inverse * x);
    }

    /// <summary>“Specular weight”: the index whose reflectance at normal incidence is that many times the own one's.</summary>
    private static float Modulated(float eta, float weight)
    {
        var epsilon = MathF.Sign(eta - 1) * MathF.Sqrt(Math.Clamp(weight * Parts.F0(eta), 0, 0.99999f));
        return (1 + epsilon) / (1 - epsilon);
    }

    /// <summary>“Darkening”: light that bounces between coat and base.</summary>
    private Vector3 Darkened(in Inputs inputs, float coated, float coatIndex, float metal)
    {
        if (coated == 0)
            return Vector3.One;
        var colour = inputs.Reflectance(baseColour);
        var dielectric = Vector3.Lerp(colour, inputs.Reflectance(subsurfaceColour), inputs.Share(subsurfaceWeight));
        var below = Vector3.Lerp(dielectric, colour * inputs.Share(specularWeight), metal);
        var kept = 1 - ((1 - Parts.F0(coatIndex)) / (coatIndex * coatIndex));
        var darkening = new Vector3(1 - kept) / (Vector3.One - (below * kept));
        return Vector3.Lerp(Vector3.One, darkening, coated * inputs.Share(coatDarkening));
    }
}
