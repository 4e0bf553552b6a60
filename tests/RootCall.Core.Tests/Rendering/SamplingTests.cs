using System.Numerics;
using RootCall.Core.Rendering;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Sampling;

namespace RootCall.Core.Tests.Rendering;

/// <summary>Points that are spread evenly, and directions that follow light.</summary>
public sealed class SamplingTests
{
    /// <summary>What a (0,2)-sequence is: of 2^m points each rectangle of area 2^-m, however it is cut, holds one.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(0xDEADBEEF)]
    public void Every_elementary_rectangle_holds_one_point(uint seed)
    {
        for (var m = 0; m <= 8; m++)
        {
            var points = Enumerable.Range(0, 1 << m).Select(i => Sobol.Point((uint)i, seed)).ToList();
            for (var wide = 0; wide <= m; wide++)
            {
                var cells = points.Select(p => ((int)(p.X * (1 << wide)), (int)(p.Y * (1 << (m - wide))))).Distinct().Count();
                Assert.Equal(1 << m, cells);
            }
        }
    }

    [Fact]
    public void Axes_are_at_right_angles_whichever_way_the_surface_faces()
    {
        foreach (var normal in Directions(2000).Append(-Vector3.UnitZ).Append(Vector3.UnitZ))
        {
            var frame = Frame.Around(normal);
            Assert.True(Vector3.Distance(frame.ToWorld(Vector3.UnitZ), normal) < 1e-6f);
            Assert.True(Vector3.Distance(Vector3.Cross(frame.Tangent, frame.Bitangent), normal) < 1e-5f, $"{normal}");
            Assert.Equal(0.6f, frame.ToLocal(frame.ToWorld(new(0, 0.6f, 0.8f))).Y, 1e-5f);
        }
    }

    [Fact]
    public void Directions_are_picked_as_often_as_light_comes_from_there()
    {
        var studio = Studio.Light();
        var sphere = Directions(200_000);
        Assert.Equal(1, sphere.Average(d => studio.From(d).Density) * 4 * Math.PI, 0.01);

        // A white matte surface that faces the viewer is as bright as paper.
        Assert.Equal(0.8, sphere.Average(d => studio.From(d).Radiance.X * Math.Max(0, d.Z)) * 4, 0.02);

        // Light on a level surface: added up over the sphere, and by what is picked.
        static double Onto(Vector3 d) => Math.Max(0, d.Y);
        var whole = sphere.Average(d => studio.From(d).Radiance.X * Onto(d)) * 4 * Math.PI;
        var picked = Enumerable
            .Range(0, 4096)
            .Select(i => studio.Sample(Sobol.Point((uint)i, 7)))
            .Average(s => s.Light.X * Onto(s.Direction) / s.Density);
        Assert.Equal(whole, picked, whole * 0.01);
    }

    /// <summary>Spread evenly over the sphere: equal steps of height, equal areas (Archimedes).</summary>
    internal static List<Vector3> Directions(int count) =>
        [
            .. Enumerable
                .Range(0, count)
                .Select(i =>
                {
                    var u = Sobol.Point((uint)i, 42);
                    var z = 1 - (2 * u.X);
                    var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
                    var r = MathF.Sqrt(MathF.Max(0, 1 - (z * z)));
                    return new Vector3(r * cosine, r * sine, z);
                }),
        ];
}
