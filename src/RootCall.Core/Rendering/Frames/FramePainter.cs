using System.Diagnostics;
using System.Numerics;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Paths;
using RootCall.Core.Rendering.Sampling;
using RootCall.Core.Rendering.Tracing;

namespace RootCall.Core.Rendering.Frames;

/// <summary>
/// A picture of triangles among lights, by following light backwards. All paths of a batch take a step together, so that their rays
/// can be traced at once. Pixels are the same for any number of threads.
/// </summary>
/// <param name="materials">By their index in the geometry.</param>
/// <param name="none">What has no material.</param>
public sealed class FramePainter(
    FrameGeometry geometry,
    IReadOnlyList<ISurfaces> materials,
    ISurfaces none,
    FrameCamera camera,
    FrameLight light,
    IRayTracer tracer,
    int width,
    int height
)
{
    /// <summary>Steps of a path, those through what is not there counted too.</summary>
    private const int MostSteps = 32;

    /// <summary>Surfaces that may not be there, between a place and a light.</summary>
    private const int MostVeils = 8;

    /// <summary>Paths that a thread takes at a time.</summary>
    private const int Piece = 256;

    private readonly Vector3[] sums = new Vector3[width * height];
    private readonly int batch = Math.Min(tracer.Most, width * height);

    /// <summary>How far a ray starts from where it is thrown back: what single precision leaves open.</summary>
    private readonly float skin = geometry.Radius * 1e-5f;

    private readonly bool hasVeils = materials.Any(m => m.MayBeAbsent);

    /// <summary>Whoever looks past all that is shown sees the light itself, and not the field.</summary>
    public bool ShowsLight { get; init; }

    /// <summary>What all light is multiplied by in the picture.</summary>
    public float Exposure { get; init; } = 1;

    /// <summary>What a brighter path counts as in the picture; infinite to measure.</summary>
    public float MostRadiance { get; init; } = Scattering.MostRadiance;

    /// <summary>Behind all that is shown, in the picture.</summary>
    public Vector3 Field { get; init; } = Scattering.Field;

    /// <summary>Paths that were followed for each pixel.</summary>
    public int Samples { get; private set; }

    /// <summary>Rays that were traced.</summary>
    public long Rays { get; private set; }

    /// <summary>The picture as it stands: linear light, rows from the top.</summary>
    public Vector3[] Picture() => [.. sums.Select(s => s / Math.Max(1, Samples))];

    /// <summary>Makes the picture better.</summary>
    /// <param name="samples">More paths for each pixel.</param>
    /// <param name="most">What it may take; the clock is looked at between batches, so that a busy machine cannot miss it.</param>
    /// <exception cref="OperationCanceledException">It was stopped or took too long; the picture is then of no use any more.</exception>
    public void Advance(int samples, int threads, TimeSpan? most = null, CancellationToken stop = default)
    {
        var late =
            most is { } bound && bound < TimeSpan.MaxValue
                ? Stopwatch.GetTimestamp() + (bound.TotalSeconds * Stopwatch.Frequency)
                : double.MaxValue;
        var work = new Batch(batch);
        for (var n = 0; n < samples; n++, Samples++)
        for (var first = 0; first < sums.Length; first += batch)
            Follow(work, first, Math.Min(batch, sums.Length - first), (uint)Samples, threads, late, stop);
    }

    /// <summary>A path on its way.</summary>
    private struct Walker
    {
        public int Pixel;
        public uint Seed;
        public Vector3 Sum;

        /// <summary>What share of the light from ahead reaches the pixel.</summary>
        public Vector3 Weight;

        /// <summary>What the inside that it goes through swallows.</summary>
        public Vector3 Absorption;

        /// <summary>How likely its direction was picked; 0 while nothing has turned it.</summary>
        public float Density;

        /// <summary>How wide it is where it started.</summary>
        public float Width;

        public int Bounces;
        public bool IsOver;
    }

    /// <summary>Room for the paths of a batch, used again and again.</summary>
    private sealed class Batch(int size)
    {
        public readonly Walker[] Walkers = new Walker[size];
        public readonly TraceRay[] Rays = new TraceRay[size];
        public readonly TraceHit[] Hits = new TraceHit[size];

        /// <summary>For each path, the way to a light and what it would bring; a far end of 0 for none.</summary>
        public readonly TraceRay[] ToLight = new TraceRay[size];
        public readonly Vector3[] Lit = new Vector3[size];

        /// <summary>The ways to lights that are asked for, and the paths that they belong to.</summary>
        public readonly TraceRay[] Asked = new TraceRay[size];
        public readonly int[] AskedBy = new int[size];
        public readonly byte[] Blocked = new byte[size];
    }

    private void Follow(Batch b, int first, int count, uint sample, int threads, double late, CancellationToken stop)
    {
        var options = new ParallelOptions { MaxDegreeOfParallelism = threads, CancellationToken = stop };
        void Each(int of, Action<int> act) => Parallel.For(0, (of + Piece - 1) / Piece, options, piece =>
            {
                for (var i = piece * Piece; i < Math.Min(of, (piece + 1) * Piece); i++)
                    act(i);
            });
        Each(count, i => Start(b, i, first + i, sample));
        for (var step = 0; count > 0 && step < MostSteps; step++)
        {
            if (Stopwatch.GetTimestamp() > late)
                throw new OperationCanceledException("The picture takes too long.");
            tracer.Nearest(b.Rays.AsSpan(0, count), b.Hits, stop);
            Rays += count;
            var steps = step;
            Each(count, i => Step(b, i, sample, steps));
            Light(b, count, sample, steps, stop);
            count = Kept(b, count);
        }

        for (var i = 0; i < count; i++)
            sums[b.Walkers[i].Pixel] += Scattering.Counted(b.Walkers[i].Sum * Exposure, MostRadiance);
    }

    private void Start(Batch b, int i, int pixel, uint sample)
    {
        var seed = PathNumbers.SeedOf(pixel);
        var jitter = PathNumbers.Of(sample, seed, PathUse.Pixel, 0);
        float x = (pixel % width) + jitter.X,
            y = (pixel / width) + jitter.Y;
        var (origin, direction) = camera.Through(new((((2 * x) - width) / height), 1 - (2 * y / height)));
        b.Walkers[i] = new()
        {
            Pixel = pixel,
            Seed = seed,
            Weight = Vector3.One,
            Width = camera.Width(height).Start,
        };
        b.Rays[i] = new(origin, 0, direction, float.PositiveInfinity);
    }

    /// <summary>What a path meets, and where it goes on to.</summary>
    private void Step(Batch b, int i, uint sample, int step)
    {
        ref var walker = ref b.Walkers[i];
        ref var ray = ref b.Rays[i];
        ref readonly var hit = ref b.Hits[i];
        b.ToLight[i] = default;
        walker.Sum +=
            walker.Weight * light.Met(ray.Origin, ray.Direction, hit.Triangle < 0 ? float.PositiveInfinity : hit.Distance, walker.Density);
        if (hit.Triangle < 0)
        {
            walker.Sum += walker.Weight * Beyond(walker, ray.Direction);
            walker.IsOver = true;
            return;
        }

        Vector2 Numbers(in Walker w, PathUse use) => PathNumbers.Of(sample, w.Seed, use, step);
        var facing = geometry.Facing(hit.Triangle);
        walker.Weight *= Scattering.Passed(walker.Absorption, hit.Distance);
        walker.Width += camera.Width(height).Spread * hit.Distance;
        var (material, isInside) = (Of(hit.Triangle), Vector3.Dot(facing, ray.Direction) > 0);
        var point = geometry.At(hit, facing, -ray.Direction, walker.Width);
        var (surface, frame) = material.At(point, isInside);
        if (surface.Opacity < 1 && Numbers(walker, PathUse.Presence).X >= surface.Opacity)
        {
            ray = From(point.Position, facing, ray.Direction);
            return;
        }

        var view = frame.ToLocal(-ray.Direction);
        walker.Sum += walker.Weight * surface.Emission;
        if (
            light.Sample(point.Position, Numbers(walker, PathUse.Lamp).X, Numbers(walker, PathUse.Light)) is { } picked
            && Scattering.Lit(picked, surface, frame, view, facing, isInside) is { } lit
        )
        {
            b.ToLight[i] = From(point.Position, facing, picked.Direction, picked.Distance);
            b.Lit[i] = walker.Weight * lit;
        }

        if (
            ++walker.Bounces > Scattering.MostBounces
            || Scattering.Next(surface, frame, view, facing, isInside, Numbers(walker, PathUse.Lobe)) is not { } turn
        )
        {
            walker.IsOver = true;
            return;
        }

        walker.Weight *= turn.Weight;
        walker.Density = turn.Density;
        walker.Absorption = turn.Leaves ? Vector3.Zero : surface.Absorption;
        walker.IsOver = !Scattering.Survives(ref walker.Weight, walker.Bounces - 1, Numbers(walker, PathUse.Chance));
        ray = From(point.Position, facing, turn.Direction);
    }

    /// <summary>What comes from where nothing stands: what is behind, for whoever looks straight at it.</summary>
    private Vector3 Beyond(in Walker walker, Vector3 direction)
    {
        if (walker.Density == 0)
            return ShowsLight ? light.Smooth(direction) : Field / Exposure;
        var (radiance, other) = light.From(direction);
        return radiance * Balance.Share(walker.Density, other);
    }

    private ISurfaces Of(int triangle) => geometry.Materials[triangle] is var at and >= 0 ? materials[at] : none;

    /// <summary>A ray from a place on a surface, that does not meet this place again.</summary>
    private TraceRay From(Vector3 place, Vector3 facing, Vector3 direction, float far = float.PositiveInfinity) =>
        new(place + (facing * (Vector3.Dot(direction, facing) > 0 ? skin : -skin)), 0, direction, far);

    /// <summary>Adds the light that is seen from where the paths are.</summary>
    private void Light(Batch b, int count, uint sample, int step, CancellationToken stop)
    {
        var asked = 0;
        for (var i = 0; i < count; i++)
            if (b.ToLight[i].Far > 0)
                (b.Asked[asked], b.AskedBy[asked++]) = (b.ToLight[i], i);
        for (var veil = 0; hasVeils && veil < MostVeils && asked > 0; veil++)
            asked = ThroughVeils(b, asked, sample, step, veil, stop);
        if (asked == 0)
            return;
        tracer.Blocked(b.Asked.AsSpan(0, asked), b.Blocked, stop);
        Rays += asked;
        for (var i = 0; i < asked; i++)
            if (b.Blocked[i] == 0)
                b.Walkers[b.AskedBy[i]].Sum += b.Lit[b.AskedBy[i]];
    }

    /// <summary>Takes ways to lights up to what may not be there, and past it where it is not.</summary>
    /// <returns>How many are still to be asked for; those are the first ones.</returns>
    private int ThroughVeils(Batch b, int asked, uint sample, int step, int veil, CancellationToken stop)
    {
        tracer.Nearest(b.Asked.AsSpan(0, asked), b.Hits, stop);
        Rays += asked;
        var kept = 0;
        for (var i = 0; i < asked; i++)
        {
            var (hit, ray, by) = (b.Hits[i], b.Asked[i], b.AskedBy[i]);
            ref var walker = ref b.Walkers[by];
            if (hit.Triangle < 0)
            {
                walker.Sum += b.Lit[by];
                continue;
            }

            var material = Of(hit.Triangle);
            if (!material.MayBeAbsent)
                continue;
            var facing = geometry.Facing(hit.Triangle);
            var point = geometry.At(hit, facing, -ray.Direction, walker.Width);
            var opacity = material.OpacityAt(point, Vector3.Dot(facing, ray.Direction) > 0);
            var chance = PathNumbers.Of(sample, walker.Seed + (uint)veil + 1, PathUse.Presence, step).Y;
            if (chance < opacity)
                continue;
            (b.Asked[kept], b.AskedBy[kept++]) = (From(point.Position, facing, ray.Direction, ray.Far - hit.Distance), by);
        }

        return kept;
    }

    /// <summary>Moves the paths that go on to the front; what the others found is counted.</summary>
    private int Kept(Batch b, int count)
    {
        var kept = 0;
        for (var i = 0; i < count; i++)
        {
            if (b.Walkers[i].IsOver)
                sums[b.Walkers[i].Pixel] += Scattering.Counted(b.Walkers[i].Sum * Exposure, MostRadiance);
            else
                (b.Walkers[kept], b.Rays[kept++]) = (b.Walkers[i], b.Rays[i]);
        }

        return kept;
    }
}
