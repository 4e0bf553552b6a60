using System.Buffers.Binary;
using System.Collections.Immutable;
using System.IO.Compression;
using System.Text;
using RootCall.Core.Files;
using static System.FormattableString;

namespace RootCall.Core.Formats.Fbx;

/// <summary>
/// Reads the records of a binary FBX file, versions 6.1 to 7.7: each says where it ends, how many properties it has and
/// how long they are; before 7.5 in 32 bits, from then on in 64.
/// </summary>
public sealed class FbxBinary
{
    private const int HeaderLength = 27;
    private const uint WideFrom = 7500;
    private const int MaxDepth = 64;
    private const int MaxNodes = 20_000_000;
    private const int DeflateRatio = 1032; // What deflate can reach at most.

    private readonly ReadOnlyMemory<byte> memory;
    private readonly ICollection<string> errors;
    private readonly bool wide;
    private int count;

    private FbxBinary(ReadOnlyMemory<byte> memory, ICollection<string> errors, bool wide)
    {
        this.memory = memory;
        this.errors = errors;
        this.wide = wide;
    }

    /// <summary>The magic ends in the format's name, two spaces, and the bytes 00 1A 00.</summary>
    public static bool IsBinary(ReadOnlySpan<byte> bytes) =>
        bytes.Length >= HeaderLength && bytes[8..23].SequenceEqual("FBX Binary  \0\x1a\0"u8);

    public static uint VersionOf(ReadOnlySpan<byte> bytes) => BinaryPrimitives.ReadUInt32LittleEndian(bytes[23..]);

    /// <param name="bytes">The whole file; arrays keep it until they are asked for.</param>
    /// <param name="errors">What could not be read, each with its byte.</param>
    public static FbxNode Read(ReadOnlyMemory<byte> bytes, ICollection<string> errors)
    {
        var reader = new FbxBinary(bytes, errors, VersionOf(bytes.Span) >= WideFrom);
        var nodes = ImmutableArray.CreateBuilder<FbxNode>();
        long at = HeaderLength;
        while (at < bytes.Length && reader.Node(ref at, bytes.Length, 0) is { } node)
            nodes.Add(node);
        return new(string.Empty, [], nodes.ToImmutable(), 0);
    }

    private int RecordHead => wide ? 25 : 13;

    private FbxNode? Node(ref long at, long limit, int depth)
    {
        var start = at;
        var span = memory.Span;
        if (at + RecordHead > limit)
            return Broken(at, "a record's head breaks off");
        long end,
            properties,
            length;
        if (wide)
        {
            end = BinaryPrimitives.ReadInt64LittleEndian(span[(int)at..]);
            properties = BinaryPrimitives.ReadInt64LittleEndian(span[(int)(at + 8)..]);
            length = BinaryPrimitives.ReadInt64LittleEndian(span[(int)(at + 16)..]);
        }
        else
        {
            end = BinaryPrimitives.ReadUInt32LittleEndian(span[(int)at..]);
            properties = BinaryPrimitives.ReadUInt32LittleEndian(span[(int)(at + 4)..]);
            length = BinaryPrimitives.ReadUInt32LittleEndian(span[(int)(at + 8)..]);
        }

        int nameLength = span[(int)at + RecordHead - 1];
        at += RecordHead;
        if (end == 0)
            return null; // The empty record that ends a list.
        if (at + nameLength > limit || length < 0 || length > limit - at - nameLength)
            return Broken(start, Invariant($"a record declares {length:N0} bytes of properties"));
        var name = Encoding.UTF8.GetString(span.Slice((int)at, nameLength));
        at += nameLength;
        if (end <= start || end > limit)
        {
            Tell(start, Invariant($"{name} says it ends at byte {end:N0}, outside what holds it; it was read as far as that goes"));
            end = limit;
        }

        if (++count > MaxNodes)
            return Broken(start, Invariant($"there are more than {MaxNodes:N0} records"));
        var values = Properties(at, length, properties, name);
        at += length;
        var children = ImmutableArray.CreateBuilder<FbxNode>();
        if (depth < MaxDepth)
            while (at < end && Node(ref at, end, depth + 1) is { } child)
                children.Add(child);
        else if (at < end)
            Tell(at, $"records lie more than {MaxDepth} deep; those of {name} were left out");
        at = end;
        return new(name, values, children.ToImmutable(), start);
    }

    private ImmutableArray<FbxProperty> Properties(long at, long length, long number, string name)
    {
        var list = ImmutableArray.CreateBuilder<FbxProperty>();
        var end = at + length;
        for (var i = 0L; i < number && at < end; i++)
        {
            if (Property(ref at, end) is not { } property)
            {
                Tell(at, $"property {i} of {name} breaks off or is of an unknown type; those behind it were left out");
                break;
            }

            list.Add(property);
        }

        return list.ToImmutable();
    }

    private FbxProperty? Property(ref long at, long end)
    {
        var span = memory.Span[..(int)end];
        var type = (char)span[(int)at++];
        var rest = span[(int)at..];
        var size = type switch
        {
            'Y' => 2,
            'C' or 'B' => 1,
            'I' or 'F' => 4,
            'D' or 'L' => 8,
            'S' or 'R' => 4,
            'f' or 'd' or 'l' or 'i' or 'b' or 'c' => 12,
            _ => -1,
        };
        if (size < 0 || rest.Length < size)
            return null;
        at += size;
        switch (type)
        {
            case 'Y':
                return new FbxInteger(BinaryPrimitives.ReadInt16LittleEndian(rest));
            case 'C' or 'B':
                return new FbxInteger(rest[0]);
            case 'I':
                return new FbxInteger(BinaryPrimitives.ReadInt32LittleEndian(rest));
            case 'L':
                return new FbxInteger(BinaryPrimitives.ReadInt64LittleEndian(rest));
            case 'F':
                return new FbxReal(BinaryPrimitives.ReadSingleLittleEndian(rest));
            case 'D':
                return new FbxReal(BinaryPrimitives.ReadDoubleLittleEndian(rest));
            case 'S' or 'R':
                var length = BinaryPrimitives.ReadUInt32LittleEndian(rest);
                if (at + length > end)
                    return null;
                var start = at;
                at += length;
                return type == 'R'
                    ? new FbxRaw(start, length)
                    : new FbxText(Encoding.UTF8.GetString(span.Slice((int)start, (int)length)), start, length);
            default:
                return Array(type, rest, ref at, end);
        }
    }

    private FbxArray? Array(char type, ReadOnlySpan<byte> head, ref long at, long end)
    {
        var number = BinaryPrimitives.ReadUInt32LittleEndian(head);
        var deflated = BinaryPrimitives.ReadUInt32LittleEndian(head[4..]) == 1;
        var size =
            type is 'd' or 'l' ? 8
            : type is 'b' or 'c' ? 1
            : 4;
        var whole = number * (long)size;
        var length = deflated ? BinaryPrimitives.ReadUInt32LittleEndian(head[8..]) : whole;
        if (at + length > end || whole > int.MaxValue || (deflated && whole > (length + 64) * DeflateRatio))
            return null;
        var bytes = memory.Slice((int)at, (int)length);
        at += length;
        var place = at;
        return new((int)number, () => Numbers(type, size, deflated ? Inflate(bytes, (int)whole, place) : bytes.Span));
    }

    private static byte[] Inflate(ReadOnlyMemory<byte> packed, int length, long place)
    {
        try
        {
            using var stream = new ZLibStream(new MemoryStream(packed.ToArray()), CompressionMode.Decompress);
            var bytes = new byte[length];
            var read = stream.ReadAtLeast(bytes, length, throwOnEndOfStream: false);
            return read == length
                ? bytes
                : throw new CannotUseException(
                    Invariant($"An array before byte {place:N0} holds {read:N0} of the {length:N0} bytes it declares.")
                );
        }
        catch (InvalidDataException e)
        {
            throw new CannotUseException(Invariant($"An array before byte {place:N0} does not inflate."), e);
        }
    }

    private static double[] Numbers(char type, int size, ReadOnlySpan<byte> bytes)
    {
        var numbers = new double[bytes.Length / size];
        for (var i = 0; i < numbers.Length; i++)
        {
            var at = bytes[(i * size)..];
            numbers[i] = type switch
            {
                'd' => BinaryPrimitives.ReadDoubleLittleEndian(at),
                'f' => BinaryPrimitives.ReadSingleLittleEndian(at),
                'l' => BinaryPrimitives.ReadInt64LittleEndian(at),
                'i' => BinaryPrimitives.ReadInt32LittleEndian(at),
                _ => at[0],
            };
        }

        return numbers;
    }

    private FbxNode? Broken(long at, string what)
    {
        Tell(at, what + "; what stands before it was read");
        return null;
    }

    private void Tell(long at, string what)
    {
        if (errors.Count < 50)
            errors.Add(Invariant($"byte {at:N0}: {what}"));
    }
}
