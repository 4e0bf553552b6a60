using System.Numerics;
using System.Runtime.InteropServices;
using RootCall.Core.Files;

namespace RootCall.Core.Rendering.Tracing;

/// <summary>Finds where rays meet triangles. Rays are asked for in batches, so that a call costs little for each of them.</summary>
public interface IRayTracer : IDisposable
{
    /// <summary>Rays in a batch at most.</summary>
    int Most { get; }

    /// <summary>What tracing alone took for the last batch, on the clock, without the way to whoever traces and back.</summary>
    TimeSpan Took { get; }

    /// <summary>The first triangle that each ray meets.</summary>
    /// <exception cref="CannotUseException">The tracer ended.</exception>
    void Nearest(ReadOnlySpan<TraceRay> rays, Span<TraceHit> hits, CancellationToken stop);

    /// <summary>Whether each ray meets any triangle.</summary>
    /// <param name="blocked">1 for one that does, 0 for one that does not.</param>
    /// <exception cref="CannotUseException">The tracer ended.</exception>
    void Blocked(ReadOnlySpan<TraceRay> rays, Span<byte> blocked, CancellationToken stop);
}

/// <summary>Makes tracers; they work behind a wall, since what they are given may be absurd.</summary>
public interface IRayTracers
{
    /// <param name="points">Places, all finite.</param>
    /// <param name="triangles">Three indices of points for each; both sides are met.</param>
    /// <exception cref="CannotUseException">It cannot be traced; the sentence tells why.</exception>
    IRayTracer Build(ReadOnlySpan<Vector3> points, ReadOnlySpan<int> triangles, CancellationToken stop);
}

/// <summary>A part of a straight line; distances are in lengths of the direction.</summary>
[StructLayout(LayoutKind.Sequential)]
public readonly record struct TraceRay(Vector3 Origin, float Near, Vector3 Direction, float Far);

/// <param name="Triangle">-1 for none.</param>
/// <param name="U">Weight of the triangle's second corner; <paramref name="V"/> that of its third, the rest that of its first.</param>
[StructLayout(LayoutKind.Sequential)]
public readonly record struct TraceHit(int Triangle, float Distance, float U, float V);
