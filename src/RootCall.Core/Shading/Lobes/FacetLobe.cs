using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>Light mirrored by facets that lie in all directions around the normal.</summary>
/// <param name="facets">How they lie.</param>
/// <param name="reflectance">What each mirrors.</param>
/// <param name="joint">Masking by height for both sides at once; otherwise each side by itself.</param>
/// <param name="gain">Makes up for light that bounces between facets; 1 where a model leaves it out.</param>
public sealed class FacetLobe(Ggx facets, Reflectance reflectance, bool joint, Vector3 gain) : ILobe
{
    /// <summary>
    /// With the light that bounces between facets, as MaterialX's reference implementation adds it (“Practical multiple scattering
    /// compensation for microfacet models”, 2019): all of it comes back where all is mirrored.
    /// </summary>
    public static FacetLobe Kept(Ggx facets, Reflectance reflectance, Vector3 view)
    {
        var (start, rest) = FacetAlbedo.Of(view.Z, facets.AlphaFrom(view));
        var single = MathF.Max(0.05f, start + rest);
        return new(facets, reflectance, true, Vector3.One + (reflectance.At(view.Z) * ((1 - single) / single)));
    }

    /// <summary>What comes back under light from all around.</summary>
    public Vector3 Albedo(Vector3 view) => Vector3.Min(Vector3.One, reflectance.Albedo(view.Z, facets.AlphaFrom(view)) * gain);

    public Vector3 Evaluate(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return Vector3.Zero;
        var half = Vector3.Normalize(view + light);
        var seen = joint ? facets.JointVisibility(view, light) : facets.Visibility(view, light);
        return reflectance.At(Vector3.Dot(view, half)) * gain * (facets.Distribution(half) * seen);
    }

    public float Density(Vector3 view, Vector3 light) =>
        view.Z <= 0 || light.Z <= 0 ? 0 : facets.ReflectedDensity(view, Vector3.Normalize(view + light));

    public Vector3? Sample(Vector3 view, Vector2 u)
    {
        if (view.Z <= 0)
            return null;
        var half = facets.SampleFacet(view, u);
        var light = (2 * Vector3.Dot(view, half) * half) - view;
        return light.Z > 0 ? light : null;
    }
}
