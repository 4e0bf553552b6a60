using System.Numerics;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Paths;
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

    /// <summary>An image lies twice around the sphere and once from pole to pole, so that its pixels are square in the middle.</summary>
    private const float Around = 2;

    /// <summary>Paths that start at one place of a pixel.</summary>
    public const int Paths = 4;

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
                    sums[pixel] += Seen(x, y, (uint)n, PathNumbers.SeedOf(pixel));
            }
        });
        Samples += samples;
    }

    /// <summary>A ray that arrives at the sphere, and what became of it on its way.</summary>
    /// <param name="Weight">What share of the light from here reaches the pixel.</param>
    /// <param name="IsStraight">Nothing has turned it yet: of what it meets, what is not there was looked through already.</param>
    private readonly record struct Ray(Vector3 At, Vector3 View, Vector3 Weight, bool IsInside, bool IsStraight);

    /// <summary>What a pixel sees through a few paths that start at one place of it.</summary>
    private Vector3 Seen(int x, int y, uint sample, uint seed)
    {
        var jitter = PathNumbers.Of(sample, seed, PathUse.Pixel, 0);
        var place = new Vector2(((x + jitter.X) * 2 / side) - 1, 1 - ((y + jitter.Y) * 2 / side)) * Half;
        var depth2 = 1 - place.LengthSquared();
        if (depth2 <= 0)
            return Scattering.Field;
        var at = new Vector3(place, MathF.Sqrt(depth2));
        // A UV runs Around / 2π times as fast as a length on the equator, and faster where the sphere turns away.
        var footprint = Half * 2 / side * (Around / (2 * MathF.PI)) / MathF.Max(0.1f, at.Z);
        // The material is the dear part: several paths start from one look at it.
        var sum = Vector3.Zero;
        var through = 1f;
        var ray = new Ray(at, Vector3.UnitZ, Vector3.One, false, true);
        // What is half there is looked at and looked through: to choose by chance would make two pictures of one look differ.
        for (var wall = 0; wall < 2 && through > 0; wall++)
        {
            var (surface, frame) = material.At(Point(ray.At, ray.View, footprint), ray.IsInside);
            var opacity = Math.Clamp(surface.Opacity, 0, 1);
            if (opacity > 0)
            {
                var there = Vector3.Zero;
                for (var path = 0u; path < Paths; path++)
                    there += Followed(ray, surface, frame, footprint, (sample * Paths) + path, seed);
                sum += there * (through * opacity / Paths);
            }

            through *= 1 - opacity;
            ray = ray with { At = Across(ray.At, -ray.View), IsInside = true };
        }

        return sum + (through * Scattering.Field);
    }

    private Vector3 Followed(Ray ray, Surface surface, Frame frame, float footprint, uint sample, uint seed)
    {
        var sum = Vector3.Zero;
        for (var bounce = 0; ; bounce++)
        {
            var (light, next) = Step(ray, surface, frame, sample, seed, bounce);
            sum += light;
            if (next is not { } going || bounce == Scattering.MostBounces)
                break;
            ray = going;
            (surface, frame) = material.At(Point(ray.At, ray.View, footprint), ray.IsInside);
        }

        return Scattering.Counted(sum);
    }

    /// <summary>The light that reaches the pixel from one place, and the ray that goes on from there; null when none does.</summary>
    private (Vector3 Light, Ray? Next) Step(Ray ray, Surface surface, Frame frame, uint sample, uint seed, int bounce)
    {
        Vector2 Numbers(PathUse use) => PathNumbers.Of(sample, seed, use, bounce);
        var (at, weight, isInside) = (ray.At, ray.Weight, ray.IsInside);
        // What is half there lets half of what goes on straight out of the sphere.
        var seen = Vector3.Zero;
        if (!ray.IsStraight && surface.Opacity < 1)
        {
            seen = weight * (1 - MathF.Max(0, surface.Opacity)) * light.From(-ray.View).Radiance;
            weight *= MathF.Max(0, surface.Opacity);
        }

        var local = frame.ToLocal(ray.View);
        var sum = surface.Emission;
        // The sphere itself is in the way of all that comes from its other side.
        if (
            light.Sample(Numbers(PathUse.Light)) is var picked
            && Vector3.Dot(picked.Direction, at) > 0
            && Scattering.Lit(picked, surface, frame, local, at, isInside) is { } lit
        )
            sum += lit;
        sum = seen + (sum * weight);
        if (Scattering.Next(surface, frame, local, at, isInside, Numbers(PathUse.Lobe)) is not { } turn)
            return (sum, null);
        weight *= turn.Weight;
        if (turn.Leaves)
        {
            var (radiance, other) = light.From(turn.Direction);
            return (sum + (weight * radiance * Balance.Share(turn.Density, other)), null);
        }

        var far = Across(at, turn.Direction);
        weight *= Scattering.Passed(surface.Absorption, Vector3.Distance(at, far));
        return Scattering.Survives(ref weight, bounce, Numbers(PathUse.Chance))
            ? (sum, new Ray(far, -turn.Direction, weight, true, false))
            : (sum, null);
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
