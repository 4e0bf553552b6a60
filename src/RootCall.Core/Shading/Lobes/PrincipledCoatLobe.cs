using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// The clear coat of the principled model (“Physically-Based Shading”, SIGGRAPH 2012 course, 5.4): longer tails than GGX (exponent 1),
/// Schlick from 0.04, masking of a fixed width 0.25.
/// </summary>
/// <param name="alpha">Width, from 0.001 for a gloss of 1 to 0.1 for 0.</param>
public sealed class PrincipledCoatLobe(float alpha) : ILobe
{
    private static readonly Ggx Mask = new(0.25f);

    private readonly float a2 = alpha * alpha;

    private float Distribution(float cosine) =>
        cosine <= 0 ? 0 : (a2 - 1) / (MathF.PI * MathF.Log(a2) * (1 + ((a2 - 1) * cosine * cosine)));

    public Vector3 Evaluate(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return Vector3.Zero;
        var half = Vector3.Normalize(view + light);
        return Fresnel.Schlick(new(0.04f), Vector3.Dot(light, half)) * (Distribution(half.Z) * Mask.Visibility(view, light));
    }

    public float Density(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return 0;
        var half = Vector3.Normalize(view + light);
        return Distribution(half.Z) * half.Z / (4 * MathF.Max(1e-6f, Vector3.Dot(view, half)));
    }

    public Vector3? Sample(Vector3 view, Vector2 u)
    {
        var cos2 = (1 - MathF.Pow(a2, 1 - u.X)) / (1 - a2);
        var (z, r) = (MathF.Sqrt(Math.Clamp(cos2, 0, 1)), MathF.Sqrt(Math.Clamp(1 - cos2, 0, 1)));
        var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
        var half = new Vector3(r * cosine, r * sine, z);
        var light = (2 * Vector3.Dot(view, half) * half) - view;
        return view.Z > 0 && light.Z > 0 ? light : null;
    }
}

/// <summary>The sheen of the principled model: Schlick's rise towards grazing light, 5.4 of the same notes.</summary>
public sealed class PrincipledSheenLobe : WideLobe
{
    protected override Vector3 Value(Vector3 view, Vector3 light) => new(Fresnel.Rim(Vector3.Dot(light, Vector3.Normalize(view + light))));
}
