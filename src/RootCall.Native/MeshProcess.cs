using System.Globalization;
using System.Runtime.InteropServices;
using RootCall.Core.Files;
using RootCall.Core.Geometry;
using static System.FormattableString;

namespace RootCall.Native;

/// <summary>The child process that unpacks geometry (<c>shim/rootcall_meshes.cpp</c>).</summary>
internal sealed class MeshProcess : WalledProcess
{
    private readonly Bounds bounds;

    private MeshProcess(Bounds bounds)
        : base("rootcall-meshes", bounds.MeshMemory.ToString(CultureInfo.InvariantCulture))
    {
        this.bounds = bounds;
        try
        {
            Ask<uint>([], ToStart, CancellationToken.None);
        }
        catch (CannotUseException)
        {
            Dispose();
            throw;
        }
    }

    /// <exception cref="CannotUseException">The program does not start.</exception>
    public static MeshProcess Start(Bounds bounds)
    {
        try
        {
            return new(bounds);
        }
        catch (System.ComponentModel.Win32Exception e)
        {
            throw new CannotUseException($"Compressed geometry cannot be unpacked: the decoder does not start ({e.Message}).", e);
        }
    }

    public byte[] UnpackView(ReadOnlySpan<byte> packed, MeshoptView view, CancellationToken stop)
    {
        var request = new Request
        {
            Kind = RequestKind.Meshopt,
            Count = (uint)view.Count,
            Stride = (uint)view.Stride,
            Mode = view.Mode,
            Filter = view.Filter,
        };
        var answer = Ask(request, packed, [], stop);
        var bytes = new byte[answer.Length];
        Rest(bytes);
        return bytes;
    }

    public DracoMesh UnpackMesh(ReadOnlySpan<byte> packed, IReadOnlyList<int> attributes, CancellationToken stop)
    {
        var request = new Request { Kind = RequestKind.Draco, Attributes = (uint)attributes.Count };
        var answer = Ask(request, packed, [.. attributes], stop);
        var indices = new int[answer.Triangles * 3];
        Rest(MemoryMarshal.AsBytes(indices.AsSpan()));
        var values = new List<(int, float[])>();
        var width = new int[1];
        for (var i = 0; i < attributes.Count; i++)
        {
            Rest(MemoryMarshal.AsBytes(width.AsSpan()));
            var all = new float[width[0] * answer.Points];
            Rest(MemoryMarshal.AsBytes(all.AsSpan()));
            values.Add((width[0], all));
        }

        return new(answer.Points, indices, values);
    }

    protected override Exception Ended(bool tooLong) =>
        new CannotUseException(
            tooLong
                ? $"The compressed geometry takes longer than {bounds.ImageSeconds} s to unpack."
                : "The compressed geometry ended the decoder."
        );

    private Answer Ask(Request request, ReadOnlySpan<byte> packed, int[] ids, CancellationToken stop)
    {
        if (packed.Length > bounds.MeshMemory / 2)
            throw new CannotUseException(Invariant($"The compressed geometry has {packed.Length:N0} bytes, more than is unpacked."));
        request = request with { Seconds = (uint)bounds.ImageSeconds, Length = (uint)packed.Length };
        var answer = Ask<Request, Answer>(request, [.. packed, .. MemoryMarshal.AsBytes(ids.AsSpan())], bounds.ImageSeconds, stop);
        return answer.Status == AnswerStatus.Done
            ? answer
            : throw new CannotUseException($"The compressed geometry {Sentence(Why(answer.Length))}.");
    }

    /// <summary>The library's own words follow a colon; this program's are the end of a sentence.</summary>
    private static string Sentence(string why) =>
        why.TrimEnd('.') is { Length: > 0 } said
            ? char.IsUpper(said[0])
                ? $"does not unpack: {said}"
                : said
            : "does not unpack";

    private enum RequestKind : uint
    {
        Meshopt,
        Draco,
    }

    [StructLayout(LayoutKind.Sequential)]
    private record struct Request(
        RequestKind Kind,
        uint Count,
        uint Stride,
        MeshoptMode Mode,
        MeshoptFilter Filter,
        uint Attributes,
        uint Seconds,
        uint Length
    );

    [StructLayout(LayoutKind.Sequential)]
    private readonly record struct Answer(AnswerStatus Status, int Points, int Triangles, uint Unused, long Length);
}
