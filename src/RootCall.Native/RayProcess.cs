using System.Globalization;
using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Tracing;

namespace RootCall.Native;

/// <summary>The child process that traces one scene (<c>shim/rootcall_rays.cpp</c>).</summary>
internal sealed class RayProcess : WalledProcess, IRayTracer
{
    /// <summary>Points or triangles that are sent at once.</summary>
    private const int Piece = 1 << 20;

    private readonly Bounds bounds;
    private readonly SharedMemory shared;

    /// <exception cref="CannotUseException">The program does not start.</exception>
    public RayProcess(Bounds bounds, int most, int threads)
        : base(
            "rootcall-rays",
            bounds.RayMemory.ToString(CultureInfo.InvariantCulture),
            most.ToString(CultureInfo.InvariantCulture),
            threads.ToString(CultureInfo.InvariantCulture)
        )
    {
        (this.bounds, Most) = (bounds, most);
        try
        {
            shared = new(Process.Id, Ask<int>([], ToStart, CancellationToken.None));
        }
        catch (Exception e) when (e is CannotUseException or IOException)
        {
            base.Dispose();
            throw new CannotUseException("The scene cannot be drawn: the program that traces rays does not start.", e);
        }
    }

    public int Most { get; }

    public TimeSpan Took { get; private set; }

    public void Build(ReadOnlySpan<Vector3> points, ReadOnlySpan<int> triangles, CancellationToken stop)
    {
        for (var at = 0; at < points.Length; at += Piece)
        {
            var piece = points[at..Math.Min(points.Length, at + Piece)];
            Ask(RequestKind.Points, piece.Length, MemoryMarshal.AsBytes(piece), stop);
        }

        for (var at = 0; at < triangles.Length; at += Piece * 3)
        {
            var piece = triangles[at..Math.Min(triangles.Length, at + (Piece * 3))];
            Ask(RequestKind.Triangles, piece.Length / 3, MemoryMarshal.AsBytes(piece), stop);
        }

        Ask(RequestKind.Build, 0, [], stop);
    }

    public void Nearest(ReadOnlySpan<TraceRay> rays, Span<TraceHit> hits, CancellationToken stop) =>
        Trace(RequestKind.Nearest, rays, hits, stop);

    public void Blocked(ReadOnlySpan<TraceRay> rays, Span<byte> blocked, CancellationToken stop) =>
        Trace(RequestKind.Blocked, rays, blocked, stop);

    public override void Dispose()
    {
        base.Dispose();
        shared?.Dispose();
    }

    protected override Exception Ended(bool tooLong) =>
        new CannotUseException(
            tooLong
                ? $"The geometry takes longer than {bounds.RaySeconds} s to be traced."
                : $"The geometry is more than is traced in {bounds.RayMemory >> 20} MB."
        );

    private void Trace<T>(RequestKind kind, ReadOnlySpan<TraceRay> rays, Span<T> results, CancellationToken stop)
        where T : unmanaged
    {
        shared.Write(rays, 0);
        Ask(kind, rays.Length, [], stop);
        try
        {
            shared.Read(results[..rays.Length], (long)Most * Unsafe.SizeOf<TraceRay>());
        }
        catch (EndOfStreamException)
        {
            End();
            throw Ended(tooLong: false);
        }
    }

    private void Ask(RequestKind kind, int count, ReadOnlySpan<byte> more, CancellationToken stop)
    {
        var answer = Ask<Request, Answer>(new(kind, count, (uint)bounds.RaySeconds, 0), more, bounds.RaySeconds, stop);
        Took = TimeSpan.FromMicroseconds(answer.Nanoseconds / 1000.0);
        if (answer.Status != AnswerStatus.Done)
            throw new CannotUseException($"The geometry {Why(answer.Length)}.");
    }

    private enum RequestKind : uint
    {
        Points,
        Triangles,
        Build,
        Nearest,
        Blocked,
    }

    [StructLayout(LayoutKind.Sequential)]
    private readonly record struct Request(RequestKind Kind, int Count, uint Seconds, uint Unused);

    [StructLayout(LayoutKind.Sequential)]
    private readonly record struct Answer(AnswerStatus Status, uint Length, long Nanoseconds);
}
