using System.Numerics;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Shading.Evaluation;

namespace RootCall.Core.Tests.Rendering;

/// <summary>A sphere of one material, lit and looked at.</summary>
public sealed class SwatchTests
{
    private const int Side = 32;

    private static SphereSwatch<GltfMetallicRoughness> Of(EnvironmentMap light, float metallic, float roughness, Vector3 colour) =>
        new(Side, light, _ => new(colour, metallic, roughness));

    private static Vector3[] Made(SphereSwatch<GltfMetallicRoughness> swatch, int threads, params int[] steps)
    {
        foreach (var samples in steps)
            swatch.Advance(samples, threads);
        return swatch.Picture();
    }

    [Fact]
    public void Pixels_are_the_same_for_any_number_of_threads_and_steps()
    {
        var studio = Studio.Light();
        var once = Made(Of(studio, 0, 0.4f, new(0.8f, 0.3f, 0.1f)), 1, 8);
        Assert.Equal(once, Made(Of(studio, 0, 0.4f, new(0.8f, 0.3f, 0.1f)), 4, 3, 5));
        Assert.All(once, p => Assert.True(float.IsFinite(p.X) && p.X >= 0));
        // The grey field in the corner, and a sphere that is brighter where the key light stands.
        Assert.Equal(0.18f, once[0].X, 1e-5f);
        Assert.True(once[(9 * Side) + 10].X > 2 * once[(24 * Side) + 17].X);
    }

    /// <summary>A white sphere in light of 1 from all around gives back no more than 1, and nearly all.</summary>
    [Fact]
    public void A_white_sphere_in_white_light_is_white()
    {
        var white = new EnvironmentMap(8, 4, [.. Enumerable.Repeat(Vector3.One, 32)]);
        var inside = Made(Of(white, 0, 1, Vector3.One), 2, 256)[(16 * Side) + 16];
        Assert.Equal(0.98f, inside.X, 0.03f);
    }

    /// <summary>Four times the samples: half the noise or less (Monte Carlo), as the points are spread better than by chance.</summary>
    [Theory]
    [InlineData(0, 0.3f)]
    [InlineData(1, 0.15f)]
    public void Noise_falls_at_least_as_fast_as_the_root_of_the_samples(float metallic, float roughness)
    {
        var studio = Studio.Light();
        var truth = Made(Of(studio, metallic, roughness, new(0.7f)), 2, 512);
        double Noise(int samples) =>
            Math.Sqrt(
                Made(Of(studio, metallic, roughness, new(0.7f)), 2, samples)
                    .Zip(truth)
                    .Average(p => (double)Vector3.DistanceSquared(p.First, p.Second))
            );
        Assert.True(Noise(32) <= Noise(2) / 4 * 1.15, $"{Noise(2)} {Noise(32)}");
    }
}
