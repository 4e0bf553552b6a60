using System.Buffers.Binary;
using K4os.Compression.LZ4;
using RootCall.Core.Files;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd.Crate;

/// <summary>Reads little-endian values from a crate, checking every length against what is there.</summary>
internal ref struct CrateSection(ReadOnlySpan<byte> bytes, long at)
{
    private readonly ReadOnlySpan<byte> bytes = bytes;

    public long At { get; set; } = at;

    public byte Byte() => Take(1)[0];

    public uint UInt() => BinaryPrimitives.ReadUInt32LittleEndian(Take(4));

    public int Int() => BinaryPrimitives.ReadInt32LittleEndian(Take(4));

    public long Long() => BinaryPrimitives.ReadInt64LittleEndian(Take(8));

    public ulong ULong() => BinaryPrimitives.ReadUInt64LittleEndian(Take(8));

    public double Double() => BinaryPrimitives.ReadDoubleLittleEndian(Take(8));

    /// <summary>A count of things that take at least <paramref name="each"/> bytes.</summary>
    public int Count(int each)
    {
        var count = ULong();
        if (count > (ulong)(bytes.Length - At) / (ulong)each)
            throw Bad(Invariant($"declares {count:N0} items, more than the file could hold"));
        return (int)count;
    }

    public ReadOnlySpan<byte> Take(long length)
    {
        if (At < 0 || length < 0 || At + length > bytes.Length)
            throw Bad(Invariant($"needs {length:N0} bytes where the file ends"));
        var taken = bytes.Slice((int)At, (int)length);
        At += length;
        return taken;
    }

    public readonly CannotUseException Bad(string what) => new(Invariant($"The crate {what}, at byte {At:N0}."));

    /// <summary>
    /// Numbers packed as LZ4 of two-bit codes and differences ("integer coding" of the crate format): code 0 is the
    /// commonest difference, the others give its width.
    /// </summary>
    public long[] Integers(int count, bool wide = false)
    {
        var packed = Take(Count(1));
        // Four codes a byte, and LZ4 packs at most 255 to 1.
        if (count > packed.Length * 1024L * 4)
            throw Bad(Invariant($"declares {count:N0} packed numbers, more than their bytes could hold"));
        var size = wide ? 8 : 4;
        var whole = Unpack(packed, size + ((count * 2L) + 7) / 8 + ((long)count * size));
        var numbers = new long[count];
        if (count == 0)
            return numbers;
        var codes = size;
        var at = size + (int)(((count * 2L) + 7) / 8);
        var common = wide ? BinaryPrimitives.ReadInt64LittleEndian(whole) : BinaryPrimitives.ReadInt32LittleEndian(whole);
        long previous = 0;
        for (var i = 0; i < count; i++)
        {
            var code = (whole[codes + (i / 4)] >> (i % 4 * 2)) & 3;
            var width =
                code == 0 ? 0
                : wide ? 1 << code
                : 1 << (code - 1);
            if (at + width > whole.Length)
                throw Bad("holds packed numbers that break off");
            previous += width switch
            {
                0 => common,
                1 => (sbyte)whole[at],
                2 => BinaryPrimitives.ReadInt16LittleEndian(whole.AsSpan(at)),
                4 => BinaryPrimitives.ReadInt32LittleEndian(whole.AsSpan(at)),
                _ => BinaryPrimitives.ReadInt64LittleEndian(whole.AsSpan(at)),
            };
            at += width;
            numbers[i] = wide ? previous : (int)previous;
        }

        return numbers;
    }

    /// <summary>
    /// LZ4 blocks as the crate format chains them: a count of chunks, then the chunks with their lengths; 0 means one
    /// chunk alone.
    /// </summary>
    /// <param name="most">Bytes the result has at most.</param>
    public readonly byte[] Unpack(ReadOnlySpan<byte> packed, long most)
    {
        if (most > Array.MaxLength || most > 16L + (packed.Length * 256L))
            most = Math.Min(Array.MaxLength, 16L + (packed.Length * 256L));
        if (packed.Length == 0)
            return [];
        var whole = new byte[most];
        var chunks = packed[0];
        var rest = packed[1..];
        var length = 0;
        for (var i = 0; i < Math.Max(1, (int)chunks); i++)
        {
            var chunk = rest;
            if (chunks > 0)
            {
                if (rest.Length < 4)
                    throw Bad("holds packed chunks that break off");
                var size = BinaryPrimitives.ReadInt32LittleEndian(rest);
                if (size < 0 || size > rest.Length - 4)
                    throw Bad(Invariant($"holds a packed chunk of {size:N0} bytes, more than there are"));
                chunk = rest.Slice(4, size);
                rest = rest[(4 + size)..];
            }

            var written = LZ4Codec.Decode(chunk, whole.AsSpan(length));
            if (written < 0)
                throw Bad("holds packed bytes that do not unpack");
            length += written;
        }

        Array.Resize(ref whole, length);
        return whole;
    }
}
