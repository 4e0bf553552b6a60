using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// What GGX facets send back under light of 1 from all around, by the height of the view and the width of the facets: one table, summed
/// up once. It is split at Schlick's curve, so that reflectance f0 to f90 gives f0 × start + f90 × rest.
/// </summary>
public static class FacetAlbedo
{
    private const int Steps = 32,
        Samples = 512;

    private static readonly Lazy<Vector2[]> Table = new(Make);

    /// <param name="cosine">Of the view, 0 to 1.</param>
    /// <param name="alpha">Width of the facets, 0 to 1.</param>
    public static (float Start, float Rim) Of(float cosine, float alpha)
    {
        var found = Grid.Read(Table.Value, Steps, cosine, MathF.Sqrt(alpha));
        return (found.X, found.Y);
    }

    /// <summary>Layers of the dielectrics' table, by the root of what they mirror at normal incidence.</summary>
    private const int Indices = 16,
        IndexSamples = 128;

    private static readonly Lazy<Vector2[][]> Dielectrics = new(() =>
        [.. Enumerable.Range(0, Indices).Select(i => Make(IndexSamples, Index(i / (float)Indices)))]
    );

    /// <summary>The same for facets that mirror as an interface between air and a dielectric does.</summary>
    /// <param name="root">The root of what it mirrors at normal incidence: (n - 1) / (n + 1).</param>
    public static float OfDielectric(float cosine, float alpha, float root)
    {
        var at = Math.Clamp(root * Indices, 0, Indices - 1.001f);
        var (low, share) = ((int)at, at - (int)at);
        float Layer(int i) => Grid.Read(Dielectrics.Value[i], Steps, cosine, MathF.Sqrt(alpha)).X;
        return float.Lerp(Layer(low), Layer(low + 1), share);
    }

    private static float Index(float root) => (1 + root) / (1 - root);

    private static Vector2[] Make() => Make(Samples, null);

    /// <param name="ior">Of a dielectric, whose sum stands first; null for the two parts of Schlick's curve.</param>
    private static Vector2[] Make(int samples, float? ior) => Grid.Make(Steps, (cosine, roughness) =>
        {
            var facets = new Ggx(MathF.Max(Ggx.Least, roughness * roughness));
            var view = Grid.View(cosine);
            var sum = Vector2.Zero;
            for (var i = 0; i < samples; i++)
            {
                var half = facets.SampleFacet(view, Grid.Even(i, samples));
                var dot = Vector3.Dot(view, half);
                var light = (2 * dot * half) - view;
                if (light.Z <= 0)
                    continue;
                var weight = facets.JointVisibility(view, light) * 4 * view.Z * light.Z / facets.Masking(view);
                var rim = Fresnel.Rim(dot);
                sum += (ior is { } n ? new Vector2(Fresnel.Dielectric(dot, n), 0) : new(1 - rim, rim)) * weight;
            }

            return sum / samples;
        });
}

/// <summary>Tables over two numbers from 0 to 1, read with straight lines between their entries.</summary>
internal static class Grid
{
    public static Vector2[] Make(int steps, Func<float, float, Vector2> at)
    {
        var table = new Vector2[steps * steps];
        for (var y = 0; y < steps; y++)
        for (var x = 0; x < steps; x++)
            table[(y * steps) + x] = at(MathF.Max(1e-3f, x / (steps - 1f)), y / (steps - 1f));
        return table;
    }

    public static Vector2 Read(Vector2[] table, int steps, float x, float y)
    {
        var (u, v) = (Math.Clamp(x, 0, 1) * (steps - 1), Math.Clamp(y, 0, 1) * (steps - 1));
        var (i, j) = (Math.Min((int)u, steps - 2), Math.Min((int)v, steps - 2));
        var at = (j * steps) + i;
        return Vector2.Lerp(
            Vector2.Lerp(table[at], table[at + 1], u - i),
            Vector2.Lerp(table[at + steps], table[at + steps + 1], u - i),
            v - j
        );
    }

    public static Vector3 View(float cosine) => new(MathF.Sqrt(MathF.Max(0, 1 - (cosine * cosine))), 0, cosine);

    /// <summary>Points that lie evenly (Hammersley: a ratio, and its number with the bits turned round).</summary>
    public static Vector2 Even(int index, int count)
    {
        var bits = 0u;
        for (var i = 0; i < 16; i++)
            bits |= (((uint)index >> i) & 1) << (15 - i);
        return new((index + 0.5f) / count, bits / 65536f);
    }
}
