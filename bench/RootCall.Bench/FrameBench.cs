using System.Diagnostics;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Frames;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Shapes;
using RootCall.Core.Rendering.Tracing;
using RootCall.Native;

namespace RootCall.Bench;

/// <summary>Rays a second when a scene is drawn, beside the bare loop of the library over the same rays.</summary>
internal static class FrameBench
{
    /// <summary>Drapes along each side: 51,200 triangles each.</summary>
    private const int Side = 5;

    private const int Width = 640,
        Height = 360,
        Samples = 4;

    public static void Run()
    {
        var geometry = Cloths();
        var threads = Environment.ProcessorCount;
        var clock = Stopwatch.StartNew();
        using var tracer = new Watched(geometry.Traced(new RayTracers(Bounds.Default, threads), default));
        Console.WriteLine($"{geometry.Count:N0} triangles built in {clock.ElapsedMilliseconds:N0} ms");
        var grey = new PlainSurfaces();
        var camera = FrameCamera.Around(new(-3, -1, -3), new(3, 1, 3), (float)Width / Height);
        var light = new FrameLight(Studio.Light(), [], geometry.Radius);
        // Warm: what is compiled late is compiled.
        new FramePainter(geometry, [grey], grey, camera, light, tracer, Width, Height).Advance(2, threads);
        tracer.Reset();
        clock.Restart();
        var painter = new FramePainter(geometry, [grey], grey, camera, light, tracer, Width, Height);
        painter.Advance(Samples, threads);
        var drawn = clock.Elapsed;
        Console.WriteLine($"asked for in batches: {tracer.Ratio(tracer.Outside):0.00} of the bare loop (bar 0.4)");
        Console.WriteLine(
            $"a matte scene drawn, {Width} x {Height} px, {Samples} samples: {painter.Rays:N0} rays, "
                + $"{painter.Rays / drawn.TotalSeconds / 1e6:0.0} million a second, {tracer.Ratio(drawn):0.00} of the bare loop, "
                + "shading, sampling and light in it"
        );
    }

    private static FrameGeometry Cloths()
    {
        var (one, _) = SwatchShape.Drape.Made();
        Vector3 Place(int i) => new((i % Side) - (Side / 2), 0, (i / Side) - (Side / 2));
        var places = Enumerable.Range(0, Side * Side).Select(i => Place(i) * 1.2f).ToList();
        return new()
        {
            Points = [.. places.SelectMany(at => one.Points.Select(p => (p * 0.6f) + at))],
            Normals = [.. places.SelectMany(_ => one.Normals)],
            Uvs = [.. places.SelectMany(_ => one.Uvs)],
            Materials = new int[one.Count * places.Count],
        };
    }

    /// <summary>Counts what the library takes, and what a call takes.</summary>
    private sealed class Watched(IRayTracer tracer) : IRayTracer
    {
        private TimeSpan inside;

        public TimeSpan Outside { get; private set; }

        public int Most => tracer.Most;

        public TimeSpan Took => tracer.Took;

        public double Ratio(TimeSpan whole) => inside / whole;

        public void Reset() => (inside, Outside) = (default, default);

        public void Nearest(ReadOnlySpan<TraceRay> rays, Span<TraceHit> hits, CancellationToken stop)
        {
            var start = Stopwatch.GetTimestamp();
            tracer.Nearest(rays, hits, stop);
            Add(start);
        }

        public void Blocked(ReadOnlySpan<TraceRay> rays, Span<byte> blocked, CancellationToken stop)
        {
            var start = Stopwatch.GetTimestamp();
            tracer.Blocked(rays, blocked, stop);
            Add(start);
        }

        public void Dispose() => tracer.Dispose();

        private void Add(long start)
        {
            Outside += Stopwatch.GetElapsedTime(start);
            inside += tracer.Took;
        }
    }
}
