using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// A film so thin that light interferes in it (“A Practical Extension to Microfacet Theory for the Modeling of Varying Iridescence”,
/// SIGGRAPH 2017), as KHR_materials_iridescence writes it down: Schlick's curve at both interfaces, two orders of interference.
/// </summary>
/// <param name="Ior">Index of refraction of the film.</param>
/// <param name="Nanometres">Its thickness.</param>
public readonly record struct ThinFilm(float Ior, float Nanometres)
{
    private static readonly Vector3 Height = new(5.4856e-13f, 4.4201e-13f, 5.2481e-13f);
    private static readonly Vector3 Place = new(1.6810e6f, 1.7953e6f, 2.2084e6f);
    private static readonly Vector3 Width = new(4.3278e9f, 9.3046e9f, 6.6121e9f);

    /// <param name="under">What is below the film, as its reflectance at normal incidence in air.</param>
    public Vector3 Reflectance(float cosine, Vector3 under)
    {
        // A film of no thickness is none.
        var t = Math.Clamp(Nanometres / 0.03f, 0, 1);
        var ior = 1 + ((Ior - 1) * t * t * (3 - (2 * t)));
        var inside2 = 1 - ((1 - (cosine * cosine)) / (ior * ior));
        if (inside2 < 0)
            return Vector3.One;
        var inside = MathF.Sqrt(inside2);
        var first = Normal(ior, 1);
        first += (1 - first) * Fresnel.Rim(cosine);
        var through = 1 - first;
        var path = 2 * ior * Nanometres * inside;
        var result = Vector3.Zero;
        Span<float> back = stackalloc float[3],
            shift = stackalloc float[3];
        for (var i = 0; i < 3; i++)
        {
            var root = MathF.Sqrt(Math.Clamp(under[i], 0, 0.9999f));
            var below = (1 + root) / (1 - root);
            var f0 = Normal(below, ior);
            back[i] = f0 + ((1 - f0) * Fresnel.Rim(inside));
            shift[i] = (ior < 1 ? 0 : MathF.PI) + (below < ior ? MathF.PI : 0);
        }

        var second = new Vector3(back);
        var both = Vector3.Clamp(first * second, new(1e-5f), new(0.9999f));
        var rest = through * through * second / (Vector3.One - both);
        result = new Vector3(first) + rest;
        var term = rest - new Vector3(through);
        for (var order = 1; order <= 2; order++)
        {
            term *= Vector3.SquareRoot(both);
            result += term * 2 * Sensitivity(order * path, new Vector3(shift) * order);
        }

        return Vector3.Clamp(result, Vector3.Zero, Vector3.One);
    }

    private static float Normal(float far, float near)
    {
        var r = (far - near) / (far + near);
        return r * r;
    }

    /// <summary>What the eye sees of a wave of that path, by sums of Gaussians, in the primaries of Rec. 709.</summary>
    private static Vector3 Sensitivity(float path, Vector3 shift)
    {
        var phase = 2 * MathF.PI * path * 1e-9f;
        var xyz = Vector3.Zero;
        for (var i = 0; i < 3; i++)
            xyz[i] =
                Height[i]
                * MathF.Sqrt(2 * MathF.PI * Width[i])
                * MathF.Cos((Place[i] * phase) + shift[i])
                * MathF.Exp(-phase * phase * Width[i]);
        xyz.X +=
            9.7470e-14f
            * MathF.Sqrt(2 * MathF.PI * 4.5282e9f)
            * MathF.Cos((2.2399e6f * phase) + shift.X)
            * MathF.Exp(-4.5282e9f * phase * phase);
        xyz /= 1.0685e-7f;
        return new(
            (3.2404542f * xyz.X) - (1.5371385f * xyz.Y) - (0.4985314f * xyz.Z),
            (-0.9692660f * xyz.X) + (1.8760108f * xyz.Y) + (0.0415560f * xyz.Z),
            (0.0556434f * xyz.X) - (0.2040259f * xyz.Y) + (1.0572252f * xyz.Z)
        );
    }
}
