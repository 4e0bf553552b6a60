using System.Numerics;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Swatches;

namespace RootCall.Core.Tests.Rendering;

/// <summary>A sphere of one material, lit and looked at.</summary>
public sealed class SwatchTests
{
    private const int Side = 32;

    private static SphereSwatch Of(EnvironmentMap light, float metallic, float roughness, params float[] colour) =>
        new(
            Side,
            light,
            new Everywhere(new("gltf-metallic-roughness", ("baseColor", colour), ("metallic", [metallic]), ("roughness", [roughness])))
        );

    private static Vector3[] Made(SphereSwatch swatch, int threads, params int[] steps)
    {
        foreach (var samples in steps)
            swatch.Advance(samples, threads);
        return swatch.Picture();
    }

    private static EnvironmentMap White => new(8, 4, [.. Enumerable.Repeat(Vector3.One, 32)]);

    [Fact]
    public void Pixels_are_the_same_for_any_number_of_threads_and_steps()
    {
        var studio = Studio.Light();
        var once = Made(Of(studio, 0, 0.4f, 0.8f, 0.3f, 0.1f), 1, 4);
        Assert.Equal(once, Made(Of(studio, 0, 0.4f, 0.8f, 0.3f, 0.1f), 4, 1, 3));
        Assert.All(once, p => Assert.True(float.IsFinite(p.X) && p.X >= 0));
        // The grey field in the corner, and a sphere that is brighter where the key light stands.
        Assert.Equal(0.18f, once[0].X, 1e-5f);
        Assert.True(once[(9 * Side) + 10].X > 2 * once[(24 * Side) + 17].X);
    }

    /// <summary>
    /// A white sphere in light of 1 from all around gives back no more than 1, and nearly all; so does one of clear glass.
    /// </summary>
    [Fact]
    public void A_white_sphere_in_white_light_is_white()
    {
        var middle = (16 * Side) + 16;
        Assert.Equal(0.98f, Made(Of(White, 0, 1, 1, 1, 1), 2, 64)[middle].X, 0.03f);
        var glass = new ModelPoint("open-pbr", ("transmission_weight", [1]), ("specular_roughness", [0.05f]));
        var clear = Made(new(Side, White, new Everywhere(glass)), 2, 32);
        for (var i = 0; i < clear.Length; i++)
            if (SphereSwatch.Shows(Side, i))
                Assert.Equal(1, clear[i].X, 0.06f);
    }

    /// <summary>Beer's law through the middle of a sphere two units thick, and what its two walls mirror.</summary>
    [Fact]
    public void Glass_swallows_what_its_thickness_says()
    {
        var glass = new ModelPoint(
            "open-pbr",
            ("transmission_weight", [1]),
            ("transmission_color", [0.5f, 0.5f, 0.5f]),
            ("transmission_depth", [2]),
            ("specular_ior", [1.001f]),
            ("specular_roughness", [0])
        );
        Assert.Equal(0.5f, Made(new(Side, White, new Everywhere(glass)), 2, 32)[(16 * Side) + 16].X, 0.02f);
    }

    /// <summary>What is not there shows the field behind it, as much as it is not there.</summary>
    [Fact]
    public void Opacity_lets_the_field_through()
    {
        var half = new ModelPoint("gltf-metallic-roughness", ("baseColor", [0, 0, 0]), ("alpha", [0.25f]), ("metallic", [1])).Saying(
            "alphaMode",
            "BLEND"
        );
        var seen = Made(new(Side, White, new Everywhere(half)), 2, 64)[(16 * Side) + 16].X;
        // Through two walls.
        Assert.Equal(0.18f * 0.75f * 0.75f, seen, 0.02f);
    }

    /// <summary>Four times the samples: half the noise or less (Monte Carlo), as the points are spread better than by chance.</summary>
    [Theory]
    [InlineData(0, 0.3f)]
    [InlineData(1, 0.15f)]
    public void Noise_falls_at_least_as_fast_as_the_root_of_the_samples(float metallic, float roughness)
    {
        var studio = Studio.Light();
        var truth = Made(Of(studio, metallic, roughness, 0.7f, 0.7f, 0.7f), 2, 256);
        double Noise(int samples) =>
            Math.Sqrt(
                Made(Of(studio, metallic, roughness, 0.7f, 0.7f, 0.7f), 2, samples)
                    .Zip(truth)
                    .Average(p => (double)Vector3.DistanceSquared(p.First, p.Second))
            );
        Assert.True(Noise(16) <= Noise(1) / 4 * 1.15, $"{Noise(1)} {Noise(16)}");
    }
}
