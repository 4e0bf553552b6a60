using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// Fibres that stand up: bright at the rim (“Production Friendly Microfacet Sheen BRDF”, SIGGRAPH 2017 course), the inverted Gaussian of
/// KHR_materials_sheen and of MaterialX's sheen_bsdf.
/// </summary>
/// <param name="alpha">Width, 0 to 1.</param>
/// <param name="shadowed">
/// With the shadowing that was fitted to it, as KHR_materials_sheen has it; otherwise the softer term of MaterialX's reference.
/// </param>
public sealed class SheenLobe(float alpha, bool shadowed) : WideLobe
{
    private const int Steps = 32;
    private static readonly Lazy<Vector2[]> Albedos = new(Make);

    private readonly float alpha = MathF.Max(0.005f, alpha);

    /// <summary>What comes back under light from all around, 0 to 1.</summary>
    public float Albedo(float cosine)
    {
        var both = Grid.Read(Albedos.Value, Steps, cosine, alpha);
        return Math.Clamp(shadowed ? both.X : both.Y, 0, 1);
    }

    protected override Vector3 Value(Vector3 view, Vector3 light)
    {
        var half = Vector3.Normalize(view + light);
        var sine2 = MathF.Max(0, 1 - (half.Z * half.Z));
        var d = (2 + (1 / alpha)) * MathF.Pow(sine2, 0.5f / alpha) / (2 * MathF.PI);
        var v = shadowed
            ? Math.Clamp(1 / ((1 + Shadow(view.Z) + Shadow(light.Z)) * 4 * view.Z * light.Z), 0, 1)
            : 1 / (4 * (light.Z + view.Z - (light.Z * view.Z)));
        return new(d * v);
    }

    private float Shadow(float cosine) => cosine < 0.5f ? MathF.Exp(Curve(cosine)) : MathF.Exp((2 * Curve(0.5f)) - Curve(1 - cosine));

    /// <summary>The fit of the paper, table 1, between the widths 0 and 1.</summary>
    private float Curve(float x)
    {
        var t = (1 - alpha) * (1 - alpha);
        float Mix(float a, float b) => a + ((b - a) * t);
        return (Mix(21.5473f, 25.3245f) / (1 + (Mix(3.82987f, 3.32435f) * MathF.Pow(x, Mix(0.19823f, 0.16801f)))))
            + (Mix(-1.97760f, -1.27393f) * x)
            + Mix(-4.32054f, -4.85967f);
    }

    private static Vector2[] Make() => Grid.Make(Steps, (cosine, alpha) =>
        {
            const int Samples = 512;
            var (fitted, soft) = (new SheenLobe(alpha, true), new SheenLobe(alpha, false));
            var view = Grid.View(cosine);
            var sum = Vector2.Zero;
            for (var i = 0; i < Samples; i++)
            {
                // Evenly over the half sphere: what it sends back is largest where a cosine picks seldom.
                var u = Grid.Even(i, Samples);
                var radius = MathF.Sqrt(1 - (u.X * u.X));
                var (sine, cos) = MathF.SinCos(2 * MathF.PI * u.Y);
                var light = new Vector3(radius * cos, radius * sine, u.X);
                sum += new Vector2(fitted.Value(view, light).X, soft.Value(view, light).X) * u.X;
            }

            return sum * (2 * MathF.PI / Samples);
        });
}
