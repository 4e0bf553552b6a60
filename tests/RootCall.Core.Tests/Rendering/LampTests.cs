using System.Numerics;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Sampling;
using RootCall.Core.Scenes;

namespace RootCall.Core.Tests.Rendering;

/// <summary>What lamps throw onto a level place at the origin, found in both ways that a path finds it.</summary>
public sealed class LampTests
{
    private const int Samples = 1 << 16;

    private static PlacedLamp Above(LampShape shape, Vector3 at, Vector3 right, Vector3 up) =>
        new(shape, at, -Vector3.UnitY, new(3, 2, 1)) { Right = right, Up = up };

    /// <summary>By picking places on the lamp.</summary>
    private static double Picked(FrameLight light) =>
        Enumerable
            .Range(0, Samples)
            .Average(i =>
                light.Sample(Vector3.Zero, Sobol.Point((uint)i, 5).X, Sobol.Point((uint)i, 11)) is { } s
                    ? s.Light.X * Math.Max(0, s.Direction.Y) / s.Density
                    : 0
            );

    /// <summary>By looking in all directions, each as often as its cosine says.</summary>
    private static double Found(FrameLight light) =>
        Enumerable
            .Range(0, Samples)
            .Average(i =>
            {
                var u = Sobol.Point((uint)i, 3);
                var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
                var beside = MathF.Sqrt(u.X);
                var direction = new Vector3(beside * sine, MathF.Sqrt(1 - u.X), beside * cosine);
                return light.Met(Vector3.Zero, direction, float.PositiveInfinity, 0).X * Math.PI;
            });

    /// <summary>
    /// Configuration factors from a small level surface (a disk above its middle, a sphere, a rectangle with a corner above it): radiance
    /// times pi times these (“A Catalog of Radiation Heat Transfer Configuration Factors”, B-14, B-39, B-4).
    /// </summary>
    [Theory]
    [InlineData(LampShape.Disk)]
    [InlineData(LampShape.Sphere)]
    [InlineData(LampShape.Rectangle)]
    public void A_lamp_with_an_extent_throws_what_the_tables_say(LampShape shape)
    {
        const double Height = 2,
            Radius = 0.8,
            Wide = 3,
            Deep = 1.5;
        var at = shape == LampShape.Rectangle ? new Vector3((float)Wide / 2, (float)Height, (float)Deep / 2) : new(0, (float)Height, 0);
        var (right, up) =
            shape == LampShape.Rectangle
                ? (Vector3.UnitX * (float)Wide / 2, Vector3.UnitZ * (float)Deep / 2)
                : (Vector3.UnitX * (float)Radius, Vector3.UnitZ * (float)Radius);
        double x = Wide / Height,
            y = Deep / Height;
        double Corner(double a, double b) => a / Math.Sqrt(1 + (a * a)) * Math.Atan(b / Math.Sqrt(1 + (a * a)));
        var factor = shape switch
        {
            LampShape.Disk => Radius * Radius / ((Radius * Radius) + (Height * Height)),
            LampShape.Sphere => Radius * Radius / (Height * Height),
            _ => (Corner(x, y) + Corner(y, x)) / (2 * Math.PI),
        };
        var light = new FrameLight(null, [Above(shape, at, right, up)], 5);
        Assert.Equal(3 * Math.PI * factor, Picked(light), 0.005 * 3 * Math.PI * factor);
        Assert.Equal(3 * Math.PI * factor, Found(light), 0.01 * 3 * Math.PI * factor);
    }

    [Fact]
    public void Lights_of_all_kinds_add_up_whichever_is_asked()
    {
        var sky = new EnvironmentMap(4, 2, [.. Enumerable.Repeat(Vector3.One, 8)]);
        var point = new PlacedLamp(LampShape.Point, new(0, 3, 4), Vector3.UnitX, new(50));
        var far = new PlacedLamp(LampShape.Parallel, Vector3.Zero, -Vector3.Normalize(new(3, 4, 0)), new(2));
        var light = new FrameLight(sky, [point, far, Above(LampShape.Disk, new(0, 2, 0), Vector3.UnitX, Vector3.UnitZ)], 5);
        // Half the sphere of radiance 1; inverse square and cosine; the cosine; the disk as above.
        var wanted = Math.PI + (50.0 / 25 * 3 / 5) + (2 * 0.8) + (3 * Math.PI / 5);
        Assert.Equal(wanted, Picked(light), 0.02 * wanted);
    }

    /// <summary>KHR_lights_punctual, “Inner and Outer Cone Angles”: its recommended attenuation, in doubles.</summary>
    [Theory]
    [InlineData(5)]
    [InlineData(24)]
    [InlineData(33)]
    [InlineData(41)]
    public void A_spot_fades_between_its_cones(double angle)
    {
        double inner = Math.Cos(Math.PI / 9),
            outer = Math.Cos(Math.PI * 2 / 9),
            scale = 1 / Math.Max(0.001, inner - outer),
            attenuation = Math.Clamp((Math.Cos(double.DegreesToRadians(angle)) * scale) - (outer * scale), 0, 1);
        var (sine, cosine) = Math.SinCos(double.DegreesToRadians(angle));
        var spot = new PlacedLamp(LampShape.Point, new((float)sine * 2, (float)cosine * 2, 0), -Vector3.UnitY, Vector3.One)
        {
            Cone = ((float)inner, (float)outer, 0),
        };
        var picked = spot.Sample(Vector3.Zero, Vector2.Zero);
        Assert.Equal(attenuation * attenuation / 4, picked?.Light.X ?? 0, 1e-5);
    }
}
