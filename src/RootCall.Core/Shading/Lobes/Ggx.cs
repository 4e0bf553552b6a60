using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// Facets that are distributed like the outside of an ellipsoid (“Microfacet Models for Refraction through Rough Surfaces”, EGSR 2007),
/// wider along one axis of the surface than along the other where the two widths differ.
/// </summary>
/// <param name="AlphaX">Width of the distribution along x, above 0; the square of a model's roughness.</param>
/// <param name="AlphaY">Along y.</param>
public readonly record struct Ggx(float AlphaX, float AlphaY)
{
    /// <summary>Below this the peak is beyond what single precision holds.</summary>
    public const float Least = 1e-4f;

    public Ggx(float alpha)
        : this(alpha, alpha) { }

    /// <summary>
    /// The one width by which facets of two widths send back as much: near the root of the mean square, and towards the other axis' the
    /// lower the view (fitted to sums over the half sphere; within 3 % down to 30° above the surface).
    /// </summary>
    public float AlphaFrom(Vector3 view)
    {
        if (AlphaX == AlphaY)
            return AlphaX;
        float x2 = AlphaX * AlphaX,
            y2 = AlphaY * AlphaY,
            mean2 = (x2 + y2) / 2,
            level2 = (view.X * view.X) + (view.Y * view.Y);
        if (level2 < 1e-6f)
            return MathF.Sqrt(mean2);
        var along2 = ((view.X * view.X * x2) + (view.Y * view.Y * y2)) / level2;
        var low = (1 - view.Z) * (1 - view.Z);
        return MathF.Sqrt(Math.Clamp(mean2 - (low * (along2 - mean2)), 0, 1));
    }

    /// <summary>Facets that face a direction, per steradian and area of surface.</summary>
    public float Distribution(Vector3 half)
    {
        if (half.Z <= 0)
            return 0;
        var (x, y) = (half.X / AlphaX, half.Y / AlphaY);
        var t = (x * x) + (y * y) + (half.Z * half.Z);
        return 1 / (MathF.PI * AlphaX * AlphaY * t * t);
    }

    /// <summary>Share of the facets that is seen from a direction (Smith).</summary>
    public float Masking(Vector3 direction)
    {
        var c = MathF.Abs(direction.Z);
        return 2 * c / (c + Slope(direction));
    }

    /// <summary>
    /// The term V of glTF 2.0, appendix B.3.2: masking from both sides, each by itself, divided by four times both cosines.
    /// </summary>
    public float Visibility(Vector3 view, Vector3 light) => 1 / ((MathF.Abs(view.Z) + Slope(view)) * (MathF.Abs(light.Z) + Slope(light)));

    /// <summary>The same where the height of a facet counts for both sides at once (“Understanding the Masking-Shadowing Function in
    /// Microfacet-Based BRDFs”, JCGT 3(2), 2014, equation 99).</summary>
    public float JointVisibility(Vector3 view, Vector3 light) =>
        0.5f / ((MathF.Abs(light.Z) * Slope(view)) + (MathF.Abs(view.Z) * Slope(light)));

    /// <summary>
    /// Picks a facet among those that are seen (“Sampling the GGX Distribution of Visible Normals”, JCGT 7(4), 2018).
    /// </summary>
    public Vector3 SampleFacet(Vector3 view, Vector2 u)
    {
        var stretched = Vector3.Normalize(new(AlphaX * view.X, AlphaY * view.Y, view.Z));
        var length2 = (stretched.X * stretched.X) + (stretched.Y * stretched.Y);
        var across = length2 > 0 ? new Vector3(-stretched.Y, stretched.X, 0) / MathF.Sqrt(length2) : Vector3.UnitX;
        var up = Vector3.Cross(stretched, across);
        var r = MathF.Sqrt(u.X);
        var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
        var (t1, t2) = (r * cosine, r * sine);
        var s = 0.5f * (1 + stretched.Z);
        t2 = ((1 - s) * MathF.Sqrt(1 - (t1 * t1))) + (s * t2);
        var facet = (t1 * across) + (t2 * up) + (MathF.Sqrt(MathF.Max(0, 1 - (t1 * t1) - (t2 * t2))) * stretched);
        return Vector3.Normalize(new(AlphaX * facet.X, AlphaY * facet.Y, MathF.Max(0, facet.Z)));
    }

    /// <summary>How likely a facet is picked, per steradian of its normal.</summary>
    public float FacetDensity(Vector3 view, Vector3 half) =>
        Distribution(half) * Masking(view) * MathF.Max(0, Vector3.Dot(view, half)) / MathF.Abs(view.Z);

    /// <summary>How likely the mirror image of the view in a picked facet is that direction, per steradian.</summary>
    /// <param name="half">The facet between both.</param>
    public float ReflectedDensity(Vector3 view, Vector3 half) => Distribution(half) * Masking(view) / (4 * view.Z);

    private float Slope(Vector3 direction)
    {
        var (x, y) = (AlphaX * direction.X, AlphaY * direction.Y);
        return MathF.Sqrt((x * x) + (y * y) + (direction.Z * direction.Z));
    }
}
