using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Frames;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Shapes;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Tracing;
using RootCall.Native;

namespace RootCall.Core.Tests.Rendering;

/// <summary>Triangles, traced and drawn.</summary>
public sealed class FrameTests
{
    private static readonly RayTracers Tracers = new(Bounds.Default, 2);

    private static EnvironmentMap White => new(8, 4, [.. Enumerable.Repeat(Vector3.One, 32)]);

    private static Everywhere Of(float metallic, float roughness, params float[] colour) =>
        new(new("gltf-metallic-roughness", ("baseColor", colour), ("metallic", [metallic]), ("roughness", [roughness])));

    private static FramePainter Painter(
        FrameGeometry geometry,
        IRayTracer tracer,
        FrameCamera camera,
        EnvironmentMap light,
        int side,
        params ISurfaces[] materials
    ) => new(geometry, materials, new PlainSurfaces(), camera, new(light, [], geometry.Radius), tracer, side, side);

    private static FrameGeometry Geometry(params (Vector3 A, Vector3 B, Vector3 C, int Material)[] triangles) =>
        new()
        {
            Points = [.. triangles.SelectMany(t => new[] { t.A, t.B, t.C })],
            Normals = [.. triangles.SelectMany(t => Enumerable.Repeat(Vector3.Normalize(Vector3.Cross(t.B - t.A, t.C - t.A)), 3))],
            Uvs = new Vector2[triangles.Length * 3],
            Materials = [.. triangles.Select(t => t.Material)],
        };

    /// <summary>A square that faces upwards, or downwards where its side is negative.</summary>
    private static (Vector3, Vector3, Vector3, int)[] Square(float half, float height, int material)
    {
        Vector3 At(float x, float z) => new(x * half, height, z * MathF.Abs(half));
        return [(At(-1, 1), At(1, 1), At(1, -1), material), (At(-1, 1), At(1, -1), At(-1, -1), material)];
    }

    /// <summary>Each ray against each triangle in doubles (“Fast, Minimum Storage Ray/Triangle Intersection”, JGT 2(1), 1997).</summary>
    [Fact]
    public void Rays_meet_what_they_meet_when_each_triangle_is_asked()
    {
        var random = new Random(7);
        Vector3 Place() => new Vector3(random.NextSingle(), random.NextSingle(), random.NextSingle()) * 2 - Vector3.One;
        var points = Enumerable.Range(0, 300).Select(_ => Place()).ToArray();
        var triangles = Enumerable.Range(0, 600).Select(_ => random.Next(points.Length)).ToArray();
        var rays = Enumerable.Range(0, 5000).Select(_ => new TraceRay(Place() * 2, 0, Vector3.Normalize(Place()), 100)).ToArray();
        var (hits, blocked) = (new TraceHit[rays.Length], new byte[rays.Length]);
        using var tracer = Tracers.Build(points, triangles, default);
        tracer.Nearest(rays, hits, default);
        tracer.Blocked(rays, blocked, default);
        var met = 0;
        for (var i = 0; i < rays.Length; i++)
        {
            var (at, distance) = Nearest(rays[i], points, triangles);
            // A ray through an edge may be counted to either side.
            if (distance is not null && hits[i].Triangle != at && Math.Abs(hits[i].Distance - distance.Value) < 1e-4)
                continue;
            Assert.Equal(distance is null ? -1 : at, hits[i].Triangle);
            Assert.Equal(distance is null ? 0 : 1, blocked[i]);
            if (distance is not { } d)
                continue;
            met++;
            Assert.Equal(d, hits[i].Distance, 1e-4);
        }

        Assert.InRange(met, 500, 4500);
    }

    private static (int At, double? Distance) Nearest(TraceRay ray, Vector3[] points, int[] triangles)
    {
        (int At, double? Distance) best = (-1, null);
        for (var t = 0; t < triangles.Length / 3; t++)
        {
            var (a, b, c) = (Wide(points[triangles[t * 3]]), Wide(points[triangles[(t * 3) + 1]]), Wide(points[triangles[(t * 3) + 2]]));
            var (o, d) = (Wide(ray.Origin), Wide(ray.Direction));
            var (e1, e2) = (Less(b, a), Less(c, a));
            var p = Cross(d, e2);
            var det = Dot(e1, p);
            if (Math.Abs(det) < 1e-14)
                continue;
            var s = Less(o, a);
            var u = Dot(s, p) / det;
            var q = Cross(s, e1);
            var v = Dot(d, q) / det;
            var distance = Dot(e2, q) / det;
            if (u >= 0 && v >= 0 && u + v <= 1 && distance > 0 && !(distance >= best.Distance))
                best = (t, distance);
        }

        return best;
    }

    private static double[] Wide(Vector3 v) => [v.X, v.Y, v.Z];

    private static double[] Less(double[] a, double[] b) => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

    private static double Dot(double[] a, double[] b) => (a[0] * b[0]) + (a[1] * b[1]) + (a[2] * b[2]);

    private static double[] Cross(double[] a, double[] b) =>
        [(a[1] * b[2]) - (a[2] * b[1]), (a[2] * b[0]) - (a[0] * b[2]), (a[0] * b[1]) - (a[1] * b[0])];

    /// <summary>A sphere of triangles looks like the sphere that is exact: for matte, gloss, metal and glass.</summary>
    [Theory]
    [InlineData("gltf-metallic-roughness", "metallic", 0)]
    [InlineData("gltf-metallic-roughness", "metallic", 1)]
    [InlineData("open-pbr", "transmission_weight", 1)]
    public void A_sphere_of_triangles_looks_like_the_exact_one(string model, string input, float value)
    {
        const int Side = 32;
        var material = new Everywhere(new(model, (input, [value]), ("roughness", [0.4f]), ("specular_roughness", [0.2f])));
        var exact = new SphereSwatch(Side, Studio.Light(), material);
        exact.Advance(64, 2);
        var geometry = Ball(96);
        using var tracer = geometry.Traced(Tracers, default);
        var camera = new FrameCamera(new(0, 0, 5), -Vector3.UnitZ, Vector3.UnitY, 1.08f, IsParallel: true);
        var drawn = Painter(geometry, tracer, camera, Studio.Light(), Side, material);
        drawn.Advance(256, 2);
        var apart = LookDifference.Of(exact.Picture(), drawn.Picture(), i => SphereSwatch.Shows(Side, i));
        Assert.True(apart.Mean < 0.8 && apart.High < 3, $"{apart}");
    }

    private static FrameGeometry Ball(int steps)
    {
        var corners = new List<(Vector3 Point, Vector3 Normal, Vector2 Uv)>();
        SwatchShapes.Grid(
            steps * 2,
            steps,
            (x, y) =>
            {
                var (s, c) = MathF.SinCos(MathF.PI * x / steps);
                var (up, level) = MathF.SinCos(MathF.PI * ((y / (float)steps) - 0.5f));
                var at = new Vector3(s * level, up, c * level);
                return (at, at, new(x / (float)steps, y / (float)steps));
            },
            corners
        );
        return SwatchShapes.Geometry(corners);
    }

    [Fact]
    public void Pixels_are_the_same_for_any_number_of_threads_and_steps()
    {
        var (geometry, camera) = SwatchShape.Drape.Made();
        Vector3[] Made(int threads, params int[] steps)
        {
            using var tracer = new RayTracers(Bounds.Default, threads).Build(
                geometry.Points,
                [.. Enumerable.Range(0, geometry.Points.Length)],
                default
            );
            var painter = Painter(geometry, tracer, camera, Studio.Light(), 24, Of(0, 0.5f, 0.8f, 0.3f, 0.1f));
            foreach (var samples in steps)
                painter.Advance(samples, threads);
            return painter.Picture();
        }

        Assert.Equal(Made(1, 3), Made(3, 1, 2));
    }

    /// <summary>In light of 1 from all around a white bowl is white to its ground: what falls on it goes on until it is out.</summary>
    [Fact]
    public void A_white_bowl_in_white_light_is_white()
    {
        var geometry = Geometry([
            .. Square(1, 0, 0),
            .. Wall(-Vector3.UnitX),
            .. Wall(Vector3.UnitX),
            .. Wall(-Vector3.UnitZ),
            .. Wall(Vector3.UnitZ),
        ]);
        var camera = new FrameCamera(new(0, 5, 0), -Vector3.UnitY, -Vector3.UnitZ, 0.1f);
        using var tracer = geometry.Traced(Tracers, default);
        var painter = Painter(geometry, tracer, camera, White, 8, new Everywhere(new("mtl-phong", ("Kd", [1, 1, 1]))));
        painter.Advance(256, 2);
        Assert.Equal(1, painter.Picture().Average(p => p.X), 0.03f);
        Assert.True(painter.Rays > 8 * 8 * 256 * 3);
    }

    private static (Vector3, Vector3, Vector3, int)[] Wall(Vector3 side)
    {
        var along = Vector3.Cross(Vector3.UnitY, side);
        Vector3 a = side - along,
            b = side + along;
        return [(a, b, b + Vector3.UnitY, 0), (a, b + Vector3.UnitY, a + Vector3.UnitY, 0)];
    }

    /// <summary>A veil that is half there, over all of the sky, lets half of the light to a white ground under it.</summary>
    [Fact]
    public void Light_comes_through_what_is_not_there()
    {
        var geometry = Geometry([.. Square(1, 0, 0), .. Square(-400, 0.5f, 1)]);
        var veil = new ModelPoint("gltf-metallic-roughness", ("baseColor", [0, 0, 0]), ("metallic", [1]), ("alpha", [0.5f]));
        ISurfaces[] materials =
        [
            new Everywhere(new("mtl-phong", ("Kd", [1, 1, 1]))),
            new Everywhere(veil.Saying("alphaMode", "BLEND")) { MayBeAbsent = true },
        ];
        var camera = new FrameCamera(new(0, 0.25f, 0), -Vector3.UnitY, -Vector3.UnitZ, 0.5f);
        using var tracer = geometry.Traced(Tracers, default);
        var painter = Painter(geometry, tracer, camera, White, 8, materials);
        painter.Advance(256, 2);
        Assert.Equal(0.5f, painter.Picture().Average(p => p.X), 0.03f);
    }

    [Fact]
    public void A_tracer_that_gets_too_little_memory_says_so_and_ends_alone()
    {
        var small = new RayTracers(Bounds.Default with { RayMemory = 1 << 20 }, 1);
        var points = Enumerable.Range(0, 300_000).Select(i => new Vector3(i % 100, i / 100 % 100, i / 10_000)).ToArray();
        var refused = Assert.Throws<CannotUseException>(() => small.Build(points, [.. Enumerable.Range(0, points.Length)], default));
        Assert.Contains("more than is traced in 1 MB", refused.Message, StringComparison.Ordinal);
        Assert.Throws<CannotUseException>(() => Tracers.Build(points, [0, 1, 300_000], default));
        Assert.Throws<CannotUseException>(() => Tracers.Build([new(float.NaN, 0, 0)], [0, 0, 0], default));
    }
}
