using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// Facets that are distributed like the outside of an ellipsoid (“Microfacet Models for Refraction through Rough Surfaces”, EGSR 2007),
/// the same in all directions around the normal.
/// </summary>
/// <param name="Alpha">Width of the distribution, above 0; the square of a model's roughness.</param>
public readonly record struct Ggx(float Alpha)
{
    /// <summary>Below this the peak is beyond what single precision holds.</summary>
    public const float Least = 1e-4f;

    /// <summary>Facets that face a direction, per steradian and area of surface.</summary>
    /// <param name="cosine">Of the angle between that direction and the normal of the surface.</param>
    public float Distribution(float cosine)
    {
        if (cosine <= 0)
            return 0;
        var a2 = Alpha * Alpha;
        var t = (cosine * cosine * (a2 - 1)) + 1;
        return a2 / (MathF.PI * t * t);
    }

    /// <summary>Share of the facets that is seen from a direction (Smith).</summary>
    /// <param name="cosine">Of the angle between the direction and the normal.</param>
    public float Masking(float cosine)
    {
        var (c, a2) = (MathF.Abs(cosine), Alpha * Alpha);
        return 2 * c / (c + MathF.Sqrt(a2 + ((1 - a2) * c * c)));
    }

    /// <summary>
    /// The term V of glTF 2.0, appendix B.3.2: masking from both sides, each by itself, divided by four times both cosines.
    /// </summary>
    public float Visibility(float view, float light)
    {
        var a2 = Alpha * Alpha;
        float One(float c) => 1 / (c + MathF.Sqrt(a2 + ((1 - a2) * c * c)));
        return One(view) * One(light);
    }

    /// <summary>
    /// Picks a facet among those that are seen (“Sampling the GGX Distribution of Visible Normals”, JCGT 7(4), 2018).
    /// </summary>
    public Vector3 SampleFacet(Vector3 view, Vector2 u)
    {
        var stretched = Vector3.Normalize(new(Alpha * view.X, Alpha * view.Y, view.Z));
        var length2 = (stretched.X * stretched.X) + (stretched.Y * stretched.Y);
        var across = length2 > 0 ? new Vector3(-stretched.Y, stretched.X, 0) / MathF.Sqrt(length2) : Vector3.UnitX;
        var up = Vector3.Cross(stretched, across);
        var r = MathF.Sqrt(u.X);
        var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
        var (t1, t2) = (r * cosine, r * sine);
        var s = 0.5f * (1 + stretched.Z);
        t2 = ((1 - s) * MathF.Sqrt(1 - (t1 * t1))) + (s * t2);
        var facet = (t1 * across) + (t2 * up) + (MathF.Sqrt(MathF.Max(0, 1 - (t1 * t1) - (t2 * t2))) * stretched);
        return Vector3.Normalize(new(Alpha * facet.X, Alpha * facet.Y, MathF.Max(0, facet.Z)));
    }

    /// <summary>How likely the mirror image of the view in a picked facet is that direction, per steradian.</summary>
    /// <param name="half">The facet between both.</param>
    public float ReflectedDensity(Vector3 view, Vector3 half) => Distribution(half.Z) * Masking(view.Z) / (4 * view.Z);
}
