using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// A rough interface between two dielectrics: mirrors and lets through (“Microfacet Models for Refraction through Rough Surfaces”, EGSR
/// 2007). Radiance is not scaled where it enters, since what enters a solid leaves it again.
/// </summary>
/// <param name="ior">Index of refraction of the far side by the side of the view.</param>
/// <param name="mirrored">Tint of what is mirrored.</param>
/// <param name="through">Tint of what comes through.</param>
public sealed class GlassLobe(Ggx facets, float ior, Vector3 mirrored, Vector3 through) : ILobe
{
    /// <summary>An interface between two sides of nearly one index bends too little to tell facets apart.</summary>
    private readonly float eta = MathF.Abs(ior - 1) < 1e-3f ? 1 + 1e-3f : ior;

    public Vector3 Evaluate(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z == 0)
            return Vector3.Zero;
        if (light.Z > 0)
        {
            var half = Vector3.Normalize(view + light);
            var mirror = Fresnel.Dielectric(Vector3.Dot(view, half), eta);
            return mirrored * (mirror * facets.Distribution(half) * facets.JointVisibility(view, light));
        }

        if (Facet(view, light) is not { } facet)
            return Vector3.Zero;
        float seen = Vector3.Dot(view, facet),
            lit = Vector3.Dot(light, facet);
        var bend = lit + (seen / eta);
        var value =
            (1 - Fresnel.Dielectric(seen, eta))
            * facets.Distribution(facet)
            * facets.JointVisibility(view, light)
            * 4
            * MathF.Abs(lit * seen)
            / (bend * bend);
        return through * value;
    }

    public float Density(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z == 0)
            return 0;
        var mirror = MirrorShare(view);
        if (light.Z > 0)
            return mirror * facets.ReflectedDensity(view, Vector3.Normalize(view + light));
        if (Facet(view, light) is not { } facet)
            return 0;
        float seen = Vector3.Dot(view, facet),
            lit = Vector3.Dot(light, facet);
        var bend = lit + (seen / eta);
        return (1 - mirror) * facets.FacetDensity(view, facet) * MathF.Abs(lit) / (bend * bend);
    }

    public Vector3? Sample(Vector3 view, Vector2 u)
    {
        if (view.Z <= 0)
            return null;
        var mirror = MirrorShare(view);
        if (u.X < mirror)
        {
            var half = facets.SampleFacet(view, u with { X = u.X / mirror });
            var light = (2 * Vector3.Dot(view, half) * half) - view;
            return light.Z > 0 ? light : null;
        }

        var facet = facets.SampleFacet(view, u with { X = (u.X - mirror) / (1 - mirror) });
        var cosine = Vector3.Dot(view, facet);
        var inside2 = 1 - ((1 - (cosine * cosine)) / (eta * eta));
        if (inside2 <= 0)
            return null;
        var bent = (-view / eta) + (((cosine / eta) - MathF.Sqrt(inside2)) * facet);
        return bent.Z < 0 ? Vector3.Normalize(bent) : null;
    }

    /// <summary>The facet that bends one direction into the other; null when none does.</summary>
    private Vector3? Facet(Vector3 view, Vector3 light)
    {
        var sum = view + (light * eta);
        if (sum.LengthSquared() < 1e-12f)
            return null;
        var facet = Vector3.Normalize(sum);
        if (facet.Z < 0)
            facet = -facet;
        return Vector3.Dot(view, facet) > 0 && Vector3.Dot(light, facet) < 0 ? facet : null;
    }

    /// <summary>How often the mirror is followed.</summary>
    private float MirrorShare(Vector3 view)
    {
        var f = Fresnel.Dielectric(view.Z, eta);
        return f >= 1 ? 1 : Math.Clamp(f, 0.1f, 0.9f);
    }
}
