using System.Buffers.Binary;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Gltf;

/// <summary>The binary container of glTF 2.0 (section "GLB File Format Specification"): a header and chunks.</summary>
/// <param name="JsonStart">Byte offset of the JSON chunk's contents.</param>
/// <param name="JsonLength">Length of the JSON chunk's contents, padding included.</param>
/// <param name="BinStart">Byte offset of the BIN chunk's contents, or -1.</param>
/// <param name="BinLength">Length of the BIN chunk's contents that is really there.</param>
public sealed record GlbContainer(long JsonStart, int JsonLength, long BinStart, long BinLength)
{
    public const uint Magic = 0x46546C67; // "glTF"
    private const uint JsonChunk = 0x4E4F534A;
    private const uint BinChunk = 0x004E4942;
    private const int HeaderLength = 12;
    private const int ChunkHeaderLength = 8;

    /// <exception cref="CannotUseException">Not a GLB, another version, or no JSON chunk.</exception>
    public static GlbContainer Read(Stream stream, string name, List<ReadNote> notes)
    {
        Span<byte> header = stackalloc byte[HeaderLength + ChunkHeaderLength];
        if (
            stream.ReadAtLeast(header, header.Length, throwOnEndOfStream: false) < header.Length
            || BinaryPrimitives.ReadUInt32LittleEndian(header) != Magic
        )
            throw new CannotUseException($"“{name}” is not a GLB: it does not begin with glTF's magic number.");
        var version = BinaryPrimitives.ReadUInt32LittleEndian(header[4..]);
        if (version != 2)
            throw new CannotUseException($"“{name}” is a GLB of version {version}; version 2 is read here.");
        var declared = BinaryPrimitives.ReadUInt32LittleEndian(header[8..]);
        if (declared != stream.Length)
            notes.Add(
                new(
                    Invariant($"The header declares {declared:N0} bytes and the file has {stream.Length:N0}; what is there was read."),
                    $"{name}, byte 8"
                )
            );
        var jsonLength = BinaryPrimitives.ReadUInt32LittleEndian(header[12..]);
        if (BinaryPrimitives.ReadUInt32LittleEndian(header[16..]) != JsonChunk)
            throw new CannotUseException($"“{name}” is a GLB whose first chunk is not JSON; nothing in it can be read.");
        var kept = (int)Math.Min(Math.Min(jsonLength, int.MaxValue), stream.Length - header.Length);
        if (kept < jsonLength)
            notes.Add(
                new(
                    Invariant($"The JSON chunk declares {jsonLength:N0} bytes and {kept:N0} are there; those were read."),
                    $"{name}, byte 12"
                )
            );

        var next = header.Length + (long)kept;
        while (next + ChunkHeaderLength <= stream.Length)
        {
            stream.Position = next;
            var chunk = header[..ChunkHeaderLength];
            stream.ReadExactly(chunk);
            var length = BinaryPrimitives.ReadUInt32LittleEndian(chunk);
            if (BinaryPrimitives.ReadUInt32LittleEndian(chunk[4..]) == BinChunk)
            {
                var start = next + ChunkHeaderLength;
                var there = Math.Min(length, stream.Length - start);
                if (there < length)
                    notes.Add(
                        new(
                            Invariant($"The BIN chunk declares {length:N0} bytes and {there:N0} are there; those were kept."),
                            Invariant($"{name}, byte {next:N0}")
                        )
                    );
                return new(header.Length, kept, start, there);
            }

            next += ChunkHeaderLength + length;
        }

        return new(header.Length, kept, -1, 0);
    }

    /// <summary>
    /// Completes edits inside the chunks by what the container must say about them: chunk lengths, file length, and
    /// padding up to a multiple of four bytes.
    /// </summary>
    /// <param name="edits">Edits inside the JSON chunk.</param>
    /// <param name="bin">Edits inside the BIN chunk.</param>
    public IReadOnlyList<ByteEdit> Complete(IReadOnlyCollection<ByteEdit> edits, IReadOnlyCollection<ByteEdit> bin, Stream stream)
    {
        if (edits.Count == 0 && bin.Count == 0)
            return [];
        var change = edits.Sum(e => e.Bytes.Length - e.Length);

        // Spaces at the end of the old chunk give way first, so the length changes only when it must.
        var tail = new byte[Math.Min(JsonLength, 3)];
        stream.Position = JsonStart + JsonLength - tail.Length;
        stream.ReadExactly(tail);
        var oldPadding = tail.Reverse().TakeWhile(b => b == (byte)' ').Count();
        var text = JsonLength - oldPadding + change;
        var jsonLength = Aligned(text);
        var binChange = bin.Sum(e => e.Bytes.Length - e.Length);
        var binPadding = Aligned(BinLength + binChange) - (BinLength + binChange);
        if (bin.Count == 0)
            binPadding = 0;
        var moved = jsonLength - JsonLength + binChange + binPadding;
        var result = new List<ByteEdit> { new(8, 4, Word(WordAt(stream, 8) + moved)), new(12, 4, Word(jsonLength)) };
        result.AddRange(edits);
        result.Add(new(JsonStart + JsonLength - oldPadding, oldPadding, [.. Enumerable.Repeat((byte)' ', (int)(jsonLength - text))]));
        if (bin.Count == 0)
            return result;
        result.Add(new(BinStart - ChunkHeaderLength, 4, Word(BinLength + binChange + binPadding)));
        result.AddRange(bin);
        if (binPadding > 0)
            result.Add(new(BinStart + BinLength, 0, new byte[binPadding]));
        return result;
    }

    private static long Aligned(long length) => (length + 3) / 4 * 4;

    private static byte[] Word(long value)
    {
        var bytes = new byte[4];
        BinaryPrimitives.WriteUInt32LittleEndian(bytes, (uint)value);
        return bytes;
    }

    private static uint WordAt(Stream stream, long at)
    {
        Span<byte> bytes = stackalloc byte[4];
        stream.Position = at;
        stream.ReadExactly(bytes);
        return BinaryPrimitives.ReadUInt32LittleEndian(bytes);
    }
}
