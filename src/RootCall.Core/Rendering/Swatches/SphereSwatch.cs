using System.Numerics;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Sampling;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Rendering.Swatches;

/// <summary>
/// A sphere of one material in an environment, seen from the front without perspective. Nothing on it shadows it and it does not light
/// itself, so light is followed over one bounce, which is exact for what is opaque. Pixels are the same for any number of threads.
/// </summary>
/// <param name="side">Pixels of the square picture.</param>
/// <param name="lobeAt">The material at a point of the sphere: its normal, which is its place on the unit sphere too.</param>
public sealed class SphereSwatch<TLobe>(int side, EnvironmentMap light, Func<Vector3, TLobe> lobeAt)
    where TLobe : ILobe
{
    /// <summary>Half the picture's width, in radii of the sphere.</summary>
    private const float Half = 1.08f;

    /// <summary>Linear grey behind the sphere: 18 %, on which colour is judged.</summary>
    private const float Field = 0.18f;

    /// <summary>What the numbers of a sample are for.</summary>
    private enum Use : uint
    {
        Pixel,
        Lobe,
        Light,
    }

    private readonly Vector3[] sums = new Vector3[side * side];

    /// <summary>Samples that each pixel has had.</summary>
    public int Samples { get; private set; }

    /// <summary>The picture as it stands: linear light, rows from the top.</summary>
    public Vector3[] Picture() => [.. sums.Select(s => s / Math.Max(1, Samples))];

    /// <summary>Makes the picture better.</summary>
    /// <param name="samples">More for each pixel.</param>
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

    private Vector3 Seen(int x, int y, uint sample, uint seed)
    {
        var jitter = Sobol.Point(sample, Sobol.Hash(seed, (uint)Use.Pixel));
        var place = new Vector2(((x + jitter.X) * 2 / side) - 1, 1 - ((y + jitter.Y) * 2 / side)) * Half;
        var depth2 = 1 - place.LengthSquared();
        if (depth2 <= 0)
            return new(Field);
        var normal = new Vector3(place, MathF.Sqrt(depth2));
        var frame = Frame.Around(normal);
        var lobe = lobeAt(normal);
        var view = frame.ToLocal(Vector3.UnitZ);
        return FromLobe(lobe, view, frame, Sobol.Point(sample, Sobol.Hash(seed, (uint)Use.Lobe)))
            + FromLight(lobe, view, frame, Sobol.Point(sample, Sobol.Hash(seed, (uint)Use.Light)));
    }

    private Vector3 FromLobe(TLobe lobe, Vector3 view, Frame frame, Vector2 u)
    {
        if (lobe.Sample(view, u) is not { } local || lobe.Density(view, local) is not (> 0 and var density))
            return Vector3.Zero;
        var world = frame.ToWorld(local);
        return Weighted(lobe.Evaluate(view, local) * light.Radiance(world), local.Z, density, light.Density(world));
    }

    private Vector3 FromLight(TLobe lobe, Vector3 view, Frame frame, Vector2 u)
    {
        var world = light.Sample(u);
        var local = frame.ToLocal(world);
        return local.Z <= 0 || light.Density(world) is not (> 0 and var density)
            ? Vector3.Zero
            : Weighted(lobe.Evaluate(view, local) * light.Radiance(world), local.Z, density, lobe.Density(view, local));
    }

    /// <summary>
    /// Each way counts by how likely it was beside the other (the balance heuristic of “Optimally Combining Sampling Techniques for Monte
    /// Carlo Rendering”, SIGGRAPH 1995).
    /// </summary>
    private static Vector3 Weighted(Vector3 value, float cosine, float density, float other) => value * (cosine / (density + other));
}
