using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// Standard Surface 1.0.1 by the node graph that defines it (MaterialX 1.39, standard_surface.mtlx): coat, metal, specular,
/// transmission, sheen, subsurface and diffuse, from the top.
/// </summary>
internal sealed class StandardSurface(Slots slots) : IShadingModel
{
    private readonly Slot baseWeight = slots["base"],
        baseColour = slots["base_color"],
        diffuseRoughness = slots["diffuse_roughness"],
        metalness = slots["metalness"],
        specular = slots["specular"],
        specularColour = slots["specular_color"],
        specularRoughness = slots["specular_roughness"],
        specularIor = slots["specular_IOR"],
        specularAnisotropy = slots["specular_anisotropy"],
        specularRotation = slots["specular_rotation"],
        transmission = slots["transmission"],
        transmissionColour = slots["transmission_color"],
        transmissionDepth = slots["transmission_depth"],
        transmissionExtraRoughness = slots["transmission_extra_roughness"],
        subsurface = slots["subsurface"],
        subsurfaceColour = slots["subsurface_color"],
        sheen = slots["sheen"],
        sheenColour = slots["sheen_color"],
        sheenRoughness = slots["sheen_roughness"],
        coat = slots["coat"],
        coatColour = slots["coat_color"],
        coatRoughness = slots["coat_roughness"],
        coatAnisotropy = slots["coat_anisotropy"],
        coatRotation = slots["coat_rotation"],
        coatIor = slots["coat_IOR"],
        coatAffectColour = slots["coat_affect_color"],
        coatAffectRoughness = slots["coat_affect_roughness"],
        filmThickness = slots["thin_film_thickness"],
        filmIor = slots["thin_film_IOR"],
        emission = slots["emission"],
        emissionColour = slots["emission_color"],
        opacity = slots["opacity"],
        thinWalled = slots["thin_walled"];

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        var coated = inputs.Share(coat);
        // coat_affected_roughness and its kin.
        var rougher = inputs.Share(coatAffectRoughness) * coated * inputs.Share(coatRoughness);
        float Affected(float roughness) => roughness + ((1 - roughness) * rougher);
        var own = inputs.Share(specularRoughness);
        var anisotropy = inputs.Share(specularAnisotropy);
        var facets = Parts.Facets(Affected(own), anisotropy);
        var clear = Parts.Facets(Affected(Math.Clamp(own + inputs.Number(transmissionExtraRoughness), 0, 1)), anisotropy);
        var index = MathF.Max(1e-3f, inputs.Number(specularIor));
        var isWall = inputs.Is(thinWalled);
        var depth = inputs.Number(transmissionDepth);
        var tint = inputs.Reflectance(transmissionColour);
        var glass = inputs.Share(transmission) * (1 - inputs.Share(metalness));
        var absorption = isWall || glass == 0 ? default : Parts.Absorption(tint, depth);
        // Over a depth the colour is what the inside leaves; without one it is a tint of the surface.
        var filter = depth > 0 && !isWall ? Vector3.One : tint;
        // opacity_luminance of the graph: the weights of MaterialX's luminance (ACEScg).
        var there = Vector3.Dot(inputs.Reflectance(opacity), new(0.2722287f, 0.6740818f, 0.0536895f));
        if (seen.Inside && !isWall && glass > 0)
            return Parts.Inside(clear, index, Vector3.One, absorption, there);

        var left = Vector3.One;
        var coatIndex = MathF.Max(1e-3f, inputs.Number(coatIor));
        var over = FacetLobe.Kept(
            Parts.Facets(inputs.Share(coatRoughness), inputs.Share(coatAnisotropy)),
            Reflectance.Dielectric(coatIndex),
            seen.View
        );
        build.Add(new(coated), Parts.Turned(over, inputs.Number(coatRotation)));
        left *= Vector3.One - (coated * over.Albedo(seen.View));
        left *= Vector3.Lerp(Vector3.One, inputs.Colour(coatColour), coated);

        var metal = inputs.Share(metalness);
        var colour = inputs.Colour(baseColour);
        var weight = inputs.Share(baseWeight);
        var edge = inputs.Reflectance(specularColour);
        var turns = inputs.Number(specularRotation);
        var film = new ThinFilm(inputs.Number(filmIor), inputs.Number(filmThickness));
        var reflectivity = Vector3.Min(colour * weight, Vector3.One);
        var metals =
            film.Nanometres > 0 ? Reflectance.Film(film, reflectivity) : Reflectance.Artistic(reflectivity, edge * inputs.Share(specular));
        if (metal > 0)
            build.Add(left * metal, Parts.Turned(FacetLobe.Kept(facets, metals, seen.View), turns));
        left *= 1 - metal;

        var mirror = film.Nanometres > 0 ? Reflectance.Film(film, new(Parts.F0(index))) : Reflectance.Dielectric(index);
        var mirrors = FacetLobe.Kept(facets, mirror, seen.View);
        var strength = inputs.Share(specular);
        // A solid's interface mirrors and lets through as one; the rest is a layer over what is below.
        var solid = isWall ? 0 : glass;
        build.Add(left * solid, new GlassLobe(clear, index, strength * edge, filter));
        build.Add(left * (1 - solid) * strength * edge, Parts.Turned(mirrors, turns));
        left *= 1 - (strength * Surface.Builder.Largest(mirrors.Albedo(seen.View)));
        if (isWall)
            build.Add(
                left * glass * filter,
                new ThroughLobe(new FacetLobe(clear, Reflectance.Schlick(Vector3.One, Vector3.One), true, Vector3.One))
            );
        left *= 1 - glass;

        left = build.Cover(left, inputs.Share(sheen) * inputs.Reflectance(sheenColour), new SheenLobe(inputs.Share(sheenRoughness), false));
        // coat_gamma: a coat makes what is below darker and richer.
        var gamma = 1 + (coated * inputs.Share(coatAffectColour));
        Vector3 Richer(Vector3 c) => gamma == 1 ? c : new(MathF.Pow(c.X, gamma), MathF.Pow(c.Y, gamma), MathF.Pow(c.Z, gamma));
        var below = inputs.Share(subsurface);
        var flesh = Richer(inputs.Reflectance(subsurfaceColour));
        build.Add(left * below * flesh, isWall ? new ThroughLobe(LambertLobe.White) : LambertLobe.White);
        build.Add(
            left * (1 - below) * weight * Vector3.Min(Richer(colour), Vector3.One),
            inputs.Share(diffuseRoughness) is > 0 and var rough ? new RoughDiffuseLobe(rough) : LambertLobe.White
        );
        // coat_emission_edf: what is given off passes the coat.
        var light = inputs.Colour(emissionColour) * MathF.Max(0, inputs.Number(emission));
        var passed = (1 - Parts.F0(coatIndex)) * (1 - Fresnel.Rim(seen.View.Z));
        return build.Build(Vector3.Lerp(light, light * inputs.Colour(coatColour) * passed, coated), there, absorption);
    }
}
