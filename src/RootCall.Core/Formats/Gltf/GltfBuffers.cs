using RootCall.Core.Files;
using RootCall.Core.Formats.Json;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Gltf;

/// <summary>The bytes that buffer views name: in the GLB's own chunk, in data URIs, in files beside the scene.</summary>
internal sealed class GltfBuffers(JsonTree root, GlbContainer? glb, FileStream own, Scene scene, ReadContext context, IMeshDecoder? decoder)
    : IDisposable
{
    private static readonly string[] Packings = ["EXT_meshopt_compression", "KHR_meshopt_compression"];
    private readonly Dictionary<int, byte[]> inline = [];
    private readonly Dictionary<int, FileStream> files = [];
    private (int View, byte[] Bytes)? last;

    public void Dispose()
    {
        own.Dispose();
        foreach (var file in files.Values)
            file.Dispose();
    }

    /// <summary>All bytes of a view, unpacked.</summary>
    /// <exception cref="CannotUseException">They are not there, or do not unpack.</exception>
    public byte[] View(int index, GeometryBudget budget, CancellationToken stop)
    {
        // Accessors of one mesh mostly lie interleaved in one view.
        if (last is { } known && known.View == index)
            return known.Bytes;
        var view = root["bufferViews"][index];
        if (!view.Exists)
            throw new CannotUseException(Invariant($"Buffer view {index} is not there."));
        var packing = Array.Find(Packings, p => view["extensions"][p].Exists);
        var bytes = packing is null ? Range(view, budget) : Unpack(view["extensions"][packing], packing, budget, stop);
        last = (index, bytes);
        return bytes;
    }

    /// <summary>The bytes as they lie there, whatever packs them.</summary>
    private byte[] Range(JsonTree view, GeometryBudget budget)
    {
        var (buffer, offset, length) = (view["buffer"].Index ?? -1, Whole(view["byteOffset"]), Whole(view["byteLength"]));
        var entry = root["buffers"][buffer];
        if (!entry.Exists)
            throw new CannotUseException(Invariant($"Buffer {buffer} is not there."));
        budget.Take(length, 1);
        var bytes = new byte[length];
        var read =
            entry["uri"].Text is not { } uri ? FromChunk(buffer, offset, bytes)
            : GltfUri.IsData(uri) ? FromData(buffer, uri, offset, bytes)
            : FromFile(buffer, uri, offset, bytes);
        return read == length
            ? bytes
            : throw new CannotUseException(
                Invariant($"Buffer {buffer} ends {length - read:N0} bytes before what is called for at byte {offset:N0}.")
            );
    }

    private long FromChunk(int buffer, long offset, byte[] to)
    {
        if (glb is not { BinStart: >= 0 } || buffer != 0)
            throw new CannotUseException(Invariant($"Buffer {buffer} names no file, and the scene carries no data for it."));
        var there = (int)Math.Clamp(glb.BinLength - offset, 0, to.Length);
        return RandomAccess.Read(own.SafeFileHandle, to.AsSpan(0, there), glb.BinStart + offset);
    }

    private long FromData(int buffer, string uri, long offset, byte[] to)
    {
        if (!inline.TryGetValue(buffer, out var bytes))
            inline[buffer] = bytes = GltfFormat.BufferIn(uri, buffer);
        var there = (int)Math.Clamp(bytes.Length - offset, 0, to.Length);
        bytes.AsSpan((int)Math.Min(offset, bytes.Length), there).CopyTo(to);
        return there;
    }

    private long FromFile(int buffer, string uri, long offset, byte[] to)
    {
        if (!files.TryGetValue(buffer, out var file))
        {
            var written = GltfUri.Decode(uri);
            var reference = scene.References.FirstOrDefault(r => r.Kind == ReferenceKind.Buffer && r.Written == written);
            var place = reference is null
                ? null
                : scene.Answers.GetValueOrDefault(reference.Key)?.File ?? WrittenPath.Parse(written).Locate(reference.BaseFolder);
            var real = place is null ? null : context.Scope.Enter(place);
            if (real is null || !File.Exists(real))
                throw new CannotUseException($"The geometry lies in {written}, which does not answer.");
            files[buffer] = file = context.Open(real);
        }

        return RandomAccess.Read(file.SafeFileHandle, to, offset);
    }

    private byte[] Unpack(JsonTree packed, string packing, GeometryBudget budget, CancellationToken stop)
    {
        if (decoder is null)
            throw new CannotUseException($"The geometry is compressed with {packing}, and there is nothing here that unpacks it.");
        var view = new MeshoptView(
            (int)Math.Min(int.MaxValue, Whole(packed["count"])),
            (int)Math.Min(int.MaxValue, Whole(packed["byteStride"])),
            packed["mode"].Text switch
            {
                "ATTRIBUTES" => MeshoptMode.Attributes,
                "TRIANGLES" => MeshoptMode.Triangles,
                "INDICES" => MeshoptMode.Indices,
                var mode => throw new CannotUseException($"The geometry is compressed in the mode “{mode}”, which is not known."),
            },
            packed["filter"].Text switch
            {
                null or "NONE" => MeshoptFilter.None,
                "OCTAHEDRAL" => MeshoptFilter.Octahedral,
                "QUATERNION" => MeshoptFilter.Quaternion,
                "EXPONENTIAL" => MeshoptFilter.Exponential,
                var filter => throw new CannotUseException($"The geometry is compressed with the filter “{filter}”, which is not known."),
            }
        );
        budget.Take(view.Count, view.Stride);
        return decoder.UnpackView(Range(packed, budget), view, stop);
    }

    private static long Whole(JsonTree number) => (long)Math.Clamp(number.Number ?? 0, 0, long.MaxValue / 2);
}
