using RootCall.Core.Files;
using RootCall.Core.Geometry;

namespace RootCall.Native;

/// <summary>Unpacks compressed geometry in a child process, which is started when it is first needed and replaced when it ends.</summary>
public sealed class MeshDecoder(Bounds bounds) : IMeshDecoder, IDisposable
{
    private readonly Lock one = new();
    private MeshProcess? process;

    public byte[] UnpackView(ReadOnlySpan<byte> packed, MeshoptView view, CancellationToken stop)
    {
        lock (one)
            return Running().UnpackView(packed, view, stop);
    }

    public DracoMesh UnpackMesh(ReadOnlySpan<byte> packed, IReadOnlyList<int> attributes, CancellationToken stop)
    {
        lock (one)
            return Running().UnpackMesh(packed, attributes, stop);
    }

    public void Dispose()
    {
        lock (one)
            process?.Dispose();
    }

    private MeshProcess Running()
    {
        if (process is { IsOver: false })
            return process;
        process?.Dispose();
        return process = MeshProcess.Start(bounds);
    }
}
