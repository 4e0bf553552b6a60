using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// The core of glTF's metallic-roughness model, by the sample implementation of its specification (glTF 2.0, appendix B.3.5). Light that
/// bounces between facets is lost there, and so it is here.
/// </summary>
public readonly struct GltfMetallicRoughness : ILobe
{
    /// <summary>Reflectance of a dielectric at normal incidence (B.3.5).</summary>
    private const float DielectricF0 = 0.04f;

    private readonly Vector3 diffuse;
    private readonly Vector3 f0;
    private readonly Ggx facets;

    /// <summary>The model at one point.</summary>
    /// <param name="baseColour">Linear, 0 to 1.</param>
    /// <param name="metallic">0 to 1.</param>
    /// <param name="roughness">0 to 1; its square is the width of the facets' distribution (B.2.3).</param>
    public GltfMetallicRoughness(Vector3 baseColour, float metallic, float roughness)
    {
        diffuse = Vector3.Lerp(baseColour, Vector3.Zero, metallic);
        f0 = Vector3.Lerp(new(DielectricF0), baseColour, metallic);
        facets = new(MathF.Max(Ggx.Least, roughness * roughness));
    }

    public Vector3 Evaluate(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return Vector3.Zero;
        var half = Vector3.Normalize(view + light);
        var fresnel = Fresnel.Schlick(f0, Vector3.Dot(view, half));
        return ((Vector3.One - fresnel) * diffuse / MathF.PI)
            + (fresnel * (facets.Distribution(half.Z) * facets.Visibility(view.Z, light.Z)));
    }

    public float Density(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return 0;
        var mirror = MirrorShare(view);
        var half = Vector3.Normalize(view + light);
        return (mirror * facets.ReflectedDensity(view, half)) + ((1 - mirror) * light.Z / MathF.PI);
    }

    public Vector3? Sample(Vector3 view, Vector2 u)
    {
        if (view.Z <= 0)
            return null;
        var mirror = MirrorShare(view);
        // One number chooses, and what is left of it is used again.
        if (u.X < mirror)
        {
            var facet = facets.SampleFacet(view, u with { X = u.X / mirror });
            var reflected = (2 * Vector3.Dot(view, facet) * facet) - view;
            return reflected.Z > 0 ? reflected : null;
        }

        var r = MathF.Sqrt((u.X - mirror) / (1 - mirror));
        var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
        return new(r * cosine, r * sine, MathF.Sqrt(MathF.Max(0, 1 - (r * r))));
    }

    /// <summary>How often the facets are followed: by what both parts can reflect.</summary>
    private float MirrorShare(Vector3 view)
    {
        var mirror = Brightness(Fresnel.Schlick(f0, view.Z));
        var matte = Brightness(diffuse) * (1 - mirror);
        return mirror + matte > 0 ? Math.Clamp(mirror / (mirror + matte), 0.1f, 1) : 1;
    }

    private static float Brightness(Vector3 colour) => (colour.X + colour.Y + colour.Z) / 3;
}
