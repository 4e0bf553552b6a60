using System.Buffers.Binary;
using RootCall.Core.Files;
using RootCall.Core.Formats.Json;
using RootCall.Core.Geometry;
using static System.FormattableString;

namespace RootCall.Core.Formats.Gltf;

/// <summary>
/// Reads accessors of any type: strided, normalised, sparse, quantised (glTF 2.0, 3.6.2, "Accessors"; KHR_mesh_quantization).
/// </summary>
internal sealed class GltfAccessors(JsonTree root, GltfBuffers buffers, GeometryBudget budget, CancellationToken stop)
{
    public int Count(int accessor) => (int)Math.Clamp(root["accessors"][accessor]["count"].Number ?? 0, 0, int.MaxValue);

    /// <summary>Numbers in one element: 1 to 4, or 4, 9, 16 of a matrix.</summary>
    public int Width(int accessor) =>
        root["accessors"][accessor]["type"].Text switch
        {
            "SCALAR" => 1,
            "VEC2" => 2,
            "VEC3" => 3,
            "VEC4" or "MAT2" => 4,
            "MAT3" => 9,
            "MAT4" => 16,
            var type => throw new CannotUseException(Invariant($"Accessor {accessor} is of the type “{type}”, which is not known.")),
        };

    /// <summary>All numbers; integers as 0 to 1 or -1 to 1 where the accessor says that they are normalised.</summary>
    public float[] Floats(int accessor)
    {
        var (entry, width) = (root["accessors"][accessor], Width(accessor));
        var type = TypeOf(entry, "componentType");
        var values = budget.Floats(Count(accessor) * (long)width);
        Each(entry, accessor, width, type, (at, bytes) => values[at] = Number(bytes, type));
        if (IsNormalised(entry))
            Normalise(values, type);
        return values;
    }

    /// <summary>All numbers as whole ones, for indices.</summary>
    public int[] Integers(int accessor)
    {
        var (entry, width) = (root["accessors"][accessor], Width(accessor));
        var type = TypeOf(entry, "componentType");
        var values = budget.Integers(Count(accessor) * (long)width);
        Each(entry, accessor, width, type, (at, bytes) => values[at] = Integer(bytes, type));
        return values;
    }

    public bool IsNormalised(int accessor) => IsNormalised(root["accessors"][accessor]);

    private static bool IsNormalised(JsonTree entry) => entry["normalized"].Kind == System.Text.Json.JsonValueKind.True;

    /// <summary>As glTF 2.0, 3.6.2.2 says of normalised integers.</summary>
    public void Normalise(int accessor, float[] values) => Normalise(values, TypeOf(root["accessors"][accessor], "componentType"));

    private static void Normalise(float[] values, ComponentType type)
    {
        var most = type switch
        {
            ComponentType.Byte => 127f,
            ComponentType.UnsignedByte => 255f,
            ComponentType.Short => 32_767f,
            ComponentType.UnsignedShort => 65_535f,
            _ => 1f,
        };
        for (var i = 0; i < values.Length; i++)
            values[i] = Math.Max(values[i] / most, -1);
    }

    private delegate void Take(long at, ReadOnlySpan<byte> bytes);

    private void Each(JsonTree entry, int accessor, int width, ComponentType type, Take take)
    {
        var count = Count(accessor);
        // Without a view all are zero, until sparse ones take their place.
        if (entry["bufferView"].Index is { } view)
            Strided(view, Offset(entry), Stride(view), count, width, type, (i, bytes) => Element(i, bytes));
        var sparse = entry["sparse"];
        if (!sparse.Exists)
            return;
        var (some, places) = ((int)Math.Clamp(sparse["count"].Number ?? 0, 0, count), sparse["indices"]);
        var indices = budget.Integers(some);
        var indexType = TypeOf(places, "componentType");
        Strided(places["bufferView"].Index ?? -1, Offset(places), 0, some, 1, indexType, (i, b) => indices[i] = Integer(b, indexType));
        var values = sparse["values"];
        Strided(values["bufferView"].Index ?? -1, Offset(values), 0, some, width, type, (i, bytes) =>
        {
            if ((uint)indices[i] >= (uint)count)
                throw new CannotUseException(Invariant($"Accessor {accessor} puts a sparse value at {indices[i]:N0} of {count:N0}."));
            Element(indices[i], bytes);
        });

        void Element(long i, ReadOnlySpan<byte> bytes)
        {
            var size = SizeOf(type);
            for (var k = 0; k < width; k++)
                take((i * width) + k, bytes.Slice(k * size, size));
        }
    }

    private void Strided(int view, long offset, int stride, int count, int width, ComponentType type, Take take)
    {
        var bytes = buffers.View(view, budget, stop);
        var size = width * SizeOf(type);
        stride = stride == 0 ? size : stride;
        if (count > 0 && offset + ((count - 1L) * stride) + size > bytes.Length)
            throw new CannotUseException(
                Invariant($"Buffer view {view} has {bytes.Length:N0} bytes, fewer than what is called for in it.")
            );
        for (var i = 0; i < count; i++)
            take(i, bytes.AsSpan((int)(offset + ((long)i * stride)), size));
    }

    private int Stride(int view) => (int)Math.Clamp(root["bufferViews"][view]["byteStride"].Number ?? 0, 0, 1 << 16);

    private static long Offset(JsonTree entry) => (long)Math.Clamp(entry["byteOffset"].Number ?? 0, 0, int.MaxValue);

    private enum ComponentType
    {
        Byte = 5120,
        UnsignedByte = 5121,
        Short = 5122,
        UnsignedShort = 5123,
        UnsignedInt = 5125,
        Float = 5126,
    }

    private static ComponentType TypeOf(JsonTree entry, string key) =>
        entry[key].Index is { } type && Enum.IsDefined((ComponentType)type)
            ? (ComponentType)type
            : throw new CannotUseException(Invariant($"An accessor has numbers of the type {entry[key].Number}, which is not known."));

    private static int SizeOf(ComponentType type) =>
        type switch
        {
            ComponentType.Byte or ComponentType.UnsignedByte => 1,
            ComponentType.Short or ComponentType.UnsignedShort => 2,
            _ => 4,
        };

    private static float Number(ReadOnlySpan<byte> bytes, ComponentType type) =>
        type == ComponentType.Float ? BinaryPrimitives.ReadSingleLittleEndian(bytes)
        : type == ComponentType.UnsignedInt ? BinaryPrimitives.ReadUInt32LittleEndian(bytes)
        : Integer(bytes, type);

    /// <summary>One that no array could have as a place becomes -1.</summary>
    private static int Integer(ReadOnlySpan<byte> bytes, ComponentType type) =>
        type switch
        {
            ComponentType.Byte => (sbyte)bytes[0],
            ComponentType.UnsignedByte => bytes[0],
            ComponentType.Short => BinaryPrimitives.ReadInt16LittleEndian(bytes),
            ComponentType.UnsignedShort => BinaryPrimitives.ReadUInt16LittleEndian(bytes),
            ComponentType.UnsignedInt => BinaryPrimitives.ReadUInt32LittleEndian(bytes) is var n and <= int.MaxValue ? (int)n : -1,
            _ => -1,
        };
}
