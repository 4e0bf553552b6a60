using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>A matte surface: the same to all sides (Lambert).</summary>
public sealed class LambertLobe : WideLobe
{
    public static LambertLobe White { get; } = new();

    protected override Vector3 Value(Vector3 view, Vector3 light) => new(1 / MathF.PI);
}

/// <summary>
/// What is left of a matte surface below facets that mirror: 1 - F of the facet that faces both directions (glTF 2.0, B.3.5).
/// </summary>
public sealed class UnderFacetsLobe(Reflectance facets) : WideLobe
{
    protected override Vector3 Value(Vector3 view, Vector3 light) =>
        (Vector3.One - facets.At(Vector3.Dot(view, Vector3.Normalize(view + light)))) / MathF.PI;
}

/// <summary>
/// Rough matte (“Generalization of Lambert's Reflectance Model”, SIGGRAPH 1994, qualitative model), as MaterialX's
/// oren_nayar_diffuse_bsdf has it. Light that bounces between its facets is lost.
/// </summary>
/// <param name="roughness">Standard deviation of the facets' slope, 0 to 1.</param>
public sealed class RoughDiffuseLobe(float roughness) : WideLobe
{
    private readonly float straight = 1 - (0.5f * roughness * roughness / ((roughness * roughness) + 0.33f));
    private readonly float back = 0.45f * roughness * roughness / ((roughness * roughness) + 0.09f);

    protected override Vector3 Value(Vector3 view, Vector3 light)
    {
        var s = Vector3.Dot(view, light) - (view.Z * light.Z);
        var t = s > 0 ? s / MathF.Max(view.Z, light.Z) : 0;
        return new((straight + (back * t)) / MathF.PI);
    }
}

/// <summary>
/// Rough matte that keeps its light (“EON: A practical energy-preserving rough diffuse BRDF”, JCGT 14(1), 2025), which OpenPBR 1.1 asks
/// for.
/// </summary>
/// <param name="colour">Reflectance, 0 to 1; it is part of the lobe, since light is tinted each time it bounces.</param>
/// <param name="roughness">0 to 1.</param>
public sealed class KeptDiffuseLobe(Vector3 colour, float roughness) : WideLobe
{
    private const float Mean1 = (1 / 2f) - (2 / (3 * MathF.PI)),
        Mean2 = (2 / 3f) - (28 / (15 * MathF.PI));

    private readonly float scale = 1 / (1 + (Mean1 * roughness));

    protected override Vector3 Value(Vector3 view, Vector3 light)
    {
        var s = Vector3.Dot(view, light) - (view.Z * light.Z);
        var t = s > 0 ? s / MathF.Max(view.Z, light.Z) : s;
        var once = colour * (scale * (1 + (roughness * t)));
        var mean = scale * (1 + (Mean2 * roughness));
        var many = colour * colour * mean / (Vector3.One - (colour * MathF.Max(0, 1 - mean)));
        var lost = MathF.Max(0, 1 - Back(view.Z)) * MathF.Max(0, 1 - Back(light.Z)) / MathF.Max(1e-7f, 1 - mean);
        return (once + (many * lost)) / MathF.PI;
    }

    /// <summary>Share that comes back after one bounce: the paper's polynomial (listing 1).</summary>
    private float Back(float cosine)
    {
        var m = 1 - cosine;
        var g = m * (0.0571085289f + (m * (0.491881867f + (m * (-0.332181442f + (m * 0.0714429953f))))));
        return scale * (1 + (roughness * g));
    }
}

/// <summary>
/// The diffuse part of the principled model, darker or brighter at the rim by the roughness (“Physically-Based Shading”,
/// SIGGRAPH 2012 course, 5.3), and its flatter shape that stands in for light below the surface.
/// </summary>
public sealed class PrincipledDiffuseLobe(float roughness, float flatness) : WideLobe
{
    protected override Vector3 Value(Vector3 view, Vector3 light)
    {
        var half = Vector3.Normalize(view + light);
        var cos2 = Vector3.Dot(light, half) is var c ? c * c : 0;
        var (rimL, rimV) = (Fresnel.Rim(light.Z), Fresnel.Rim(view.Z));
        float Turned(float at90) => (1 + ((at90 - 1) * rimL)) * (1 + ((at90 - 1) * rimV));
        var matte = Turned(0.5f + (2 * cos2 * roughness));
        var flat = 1.25f * ((Turned(cos2 * roughness) * ((1 / (light.Z + view.Z)) - 0.5f)) + 0.5f);
        return new((matte + ((flat - matte) * flatness)) / MathF.PI);
    }
}
