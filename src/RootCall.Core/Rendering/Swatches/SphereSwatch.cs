using System.Numerics;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Sampling;
using RootCall.Core.Shading.Evaluation;

namespace RootCall.Core.Rendering.Swatches;

/// <summary>
/// A sphere of one material in an environment, seen from the front without perspective, by following light backwards. From outside
/// nothing on it shadows it; what gets into it is followed until it leaves. Pixels are the same for any number of threads.
/// </summary>
/// <param name="side">Pixels of the square picture.</param>
public sealed class SphereSwatch(int side, EnvironmentMap light, ISurfaces material)
{
    /// <summary>Half the picture's width, in radii of the sphere.</summary>
    private const float Half = 1.08f;

    /// <summary>Linear grey behind the sphere: 18 %, on which colour is judged.</summary>
    private const float Field = 0.18f;

    /// <summary>An image lies twice around the sphere and once from pole to pole, so that its pixels are square in the middle.</summary>
    private const float Around = 2;

    /// <summary>Bounces that are followed; after the fourth one goes on by chance (Russian roulette).</summary>
    private const int MostBounces = 12,
        SureBounces = 4;

    /// <summary>Paths that start at one place of a pixel.</summary>
    public const int Paths = 4;

    /// <summary>Brighter paths count as this: one lucky path would stand as a dot in the picture.</summary>
    private const float MostRadiance = 40;

    /// <summary>What the numbers of a sample are for, at each bounce.</summary>
    private enum Use : uint
    {
        Pixel,
        Lobe,
        Light,
        Presence,
        Chance,
        Count,
    }

    private readonly Vector3[] sums = new Vector3[side * side];

    /// <summary>Places that were looked at in each pixel; <see cref="Paths"/> times as many paths were followed.</summary>
    public int Samples { get; private set; }

    /// <summary>A pixel shows the sphere and nothing of what is behind it.</summary>
    public static bool Shows(int side, int pixel)
    {
        float x = (((pixel % side) + 0.5f) * 2 / side) - 1,
            y = (((pixel / side) + 0.5f) * 2 / side) - 1,
            rim = (1 / Half) - (2f / side);
        return (x * x) + (y * y) <= rim * rim;
    }

    /// <summary>The picture as it stands: linear light, rows from the top.</summary>
    public Vector3[] Picture() => [.. sums.Select(s => s / Math.Max(1, Samples))];

    /// <summary>Makes the picture better.</summary>
    /// <param name="samples">More places in each pixel.</param>
    /// <exception cref="OperationCanceledException">The picture is then of no use any more.</exception>
    public void Advance(int samples, int threads, CancellationToken stop = default)
    {
        var first = Samples;
        Parallel.For(0, side, new() { MaxDegreeOfParallelism = threads, CancellationToken = stop }, y =>
        {
            for (var x = 0; x < side; x++)
            {
                var pixel = (y * side) + x;
                for (var n = first; n < first + samples; n++)
                    sums[pixel] += Seen(x, y, (uint)n, Sobol.Hash((uint)pixel, 0));
            }
        });
        Samples += samples;
    }

    private static Vector2 Numbers(uint sample, uint seed, Use use, int bounce) =>
        Sobol.Point(sample, Sobol.Hash(seed, (uint)use + ((uint)bounce * (uint)Use.Count)));

    /// <summary>A ray that arrives at the sphere, and what became of it on its way.</summary>
    /// <param name="Weight">What share of the light from here reaches the pixel.</param>
    /// <param name="IsStraight">Nothing has turned it yet.</param>
    private readonly record struct Ray(Vector3 At, Vector3 View, Vector3 Weight, bool IsInside, bool IsStraight);

    /// <summary>What a pixel sees through a few paths that start at one place of it.</summary>
    private Vector3 Seen(int x, int y, uint sample, uint seed)
    {
        var jitter = Numbers(sample, seed, Use.Pixel, 0);
        var place = new Vector2(((x + jitter.X) * 2 / side) - 1, 1 - ((y + jitter.Y) * 2 / side)) * Half;
        var depth2 = 1 - place.LengthSquared();
        if (depth2 <= 0)
            return new(Field);
        var at = new Vector3(place, MathF.Sqrt(depth2));
        // A UV runs Around / 2π times as fast as a length on the equator, and faster where the sphere turns away.
        var footprint = Half * 2 / side * (Around / (2 * MathF.PI)) / MathF.Max(0.1f, at.Z);
        var ray = new Ray(at, Vector3.UnitZ, Vector3.One, false, true);
        // The material is the dear part: several paths start from one look at it.
        var (surface, frame) = material.At(Point(at, ray.View, footprint), false);
        var sum = Vector3.Zero;
        for (var path = 0u; path < Paths; path++)
            sum += Followed(ray, surface, frame, footprint, (sample * Paths) + path, seed);
        return sum / Paths;
    }

    private Vector3 Followed(Ray ray, Surface surface, Frame frame, float footprint, uint sample, uint seed)
    {
        var sum = Vector3.Zero;
        for (var bounce = 0; ; bounce++)
        {
            var (light, next) = Step(ray, surface, frame, sample, seed, bounce);
            sum += light;
            if (next is not { } going || bounce == MostBounces)
                break;
            ray = going;
            (surface, frame) = material.At(Point(ray.At, ray.View, footprint), ray.IsInside);
        }

        return float.IsFinite(sum.X + sum.Y + sum.Z) ? Vector3.Min(sum, new(MostRadiance)) : Vector3.Zero;
    }

    /// <summary>The light that reaches the pixel from one place, and the ray that goes on from there; null when none does.</summary>
    private (Vector3 Light, Ray? Next) Step(Ray ray, Surface surface, Frame frame, uint sample, uint seed, int bounce)
    {
        var (at, weight, isInside) = (ray.At, ray.Weight, ray.IsInside);
        if (surface.Opacity < 1 && Numbers(sample, seed, Use.Presence, bounce).X >= surface.Opacity)
        {
            // Not there: straight on, out of the sphere or to its far side.
            return isInside
                ? (weight * (ray.IsStraight ? new(Field) : light.From(-ray.View).Radiance), null)
                : (Vector3.Zero, ray with { At = Across(at, -ray.View), IsInside = true });
        }

        var local = frame.ToLocal(ray.View);
        var sum = weight * (surface.Emission + Lit(surface, frame, local, at, isInside, Numbers(sample, seed, Use.Light, bounce)));
        if (surface.Sample(local, Numbers(sample, seed, Use.Lobe, bounce)) is not { } picked)
            return (sum, null);
        var density = surface.Density(local, picked);
        var world = frame.ToWorld(picked);
        var leaves = Vector3.Dot(world, at) > 0;
        // A bent normal may say above what the form says is below: no light goes there.
        if (!(density > 0) || leaves != (picked.Z > 0 != isInside))
            return (sum, null);
        weight *= surface.Evaluate(local, picked) * (MathF.Abs(picked.Z) / density);
        if (leaves)
        {
            var (radiance, other) = light.From(world);
            return (sum + (weight * radiance * Share(density, other)), null);
        }

        var far = Across(at, world);
        if (surface.Absorption != Vector3.Zero)
            weight *= Passed(surface.Absorption, Vector3.Distance(at, far));
        if (bounce >= SureBounces)
        {
            var going = Math.Clamp(MathF.Max(weight.X, MathF.Max(weight.Y, weight.Z)), 0.05f, 1);
            if (Numbers(sample, seed, Use.Chance, bounce).X >= going)
                return (sum, null);
            weight /= going;
        }

        return (sum, new Ray(far, -world, weight, true, false));
    }

    /// <summary>Light from the environment that is picked by how bright it is.</summary>
    private Vector3 Lit(Surface surface, Frame frame, Vector3 view, Vector3 at, bool isInside, Vector2 u)
    {
        var (world, radiance, density) = light.Sample(u);
        var local = frame.ToLocal(world);
        // The sphere itself is in the way of all that comes from its other side.
        if (Vector3.Dot(world, at) <= 0 || isInside != local.Z < 0 || !(density > 0))
            return Vector3.Zero;
        var value = surface.Evaluate(view, local) * radiance * (MathF.Abs(local.Z) / density);
        return value * Share(density, surface.Density(view, local));
    }

    /// <summary>
    /// Each way to find light counts by how likely it was beside the other (the balance heuristic of “Optimally Combining Sampling
    /// Techniques for Monte Carlo Rendering”, SIGGRAPH 1995).
    /// </summary>
    private static float Share(float own, float other) => own / (own + other);

    /// <summary>Beer's law.</summary>
    private static Vector3 Passed(Vector3 absorption, float length)
    {
        var d = absorption * -length;
        return new(MathF.Exp(d.X), MathF.Exp(d.Y), MathF.Exp(d.Z));
    }

    /// <summary>Where a ray from a place on the sphere through its inside meets it again.</summary>
    private static Vector3 Across(Vector3 at, Vector3 direction) => Vector3.Normalize(at - (2 * Vector3.Dot(at, direction) * direction));

    private static ShadingPoint Point(Vector3 at, Vector3 view, float footprint)
    {
        var level = new Vector2(at.X, at.Z);
        var tangent = level.LengthSquared() > 1e-12f ? Vector3.Normalize(new(at.Z, 0, -at.X)) : Vector3.UnitX;
        var uv = new Vector2(
            (0.5f + (MathF.Atan2(at.X, at.Z) / (2 * MathF.PI))) * Around,
            0.5f + (MathF.Asin(Math.Clamp(at.Y, -1, 1)) / MathF.PI)
        );
        return new(at, at, tangent, Vector3.Cross(at, tangent), uv, footprint, view);
    }
}
