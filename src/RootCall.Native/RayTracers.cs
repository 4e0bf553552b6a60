using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Tracing;

namespace RootCall.Native;

/// <summary>Traces each scene in a child process of its own.</summary>
/// <param name="threads">That trace at once, for each scene.</param>
public sealed class RayTracers(Bounds bounds, int threads) : IRayTracers
{
    /// <summary>Rays that are asked for at once: three megabytes.</summary>
    public const int Batch = 1 << 16;

    public IRayTracer Build(ReadOnlySpan<Vector3> points, ReadOnlySpan<int> triangles, CancellationToken stop)
    {
        RayProcess? process = null;
        try
        {
            process = new(bounds, Batch, threads);
            process.Build(points, triangles, stop);
            return process;
        }
        catch (System.ComponentModel.Win32Exception e)
        {
            throw new CannotUseException($"The scene cannot be drawn: the program that traces rays does not start ({e.Message}).", e);
        }
        catch
        {
            process?.Dispose();
            throw;
        }
    }
}
