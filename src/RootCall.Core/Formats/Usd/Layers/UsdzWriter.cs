using System.Buffers.Binary;
using System.IO.Hashing;
using System.Text;

namespace RootCall.Core.Formats.Usd.Layers;

/// <summary>
/// Writes a package of USD (USDZ file format specification 1.3): files stored, not deflated, the contents of each at a
/// multiple of 64 bytes, which an extra field in its header makes up for.
/// </summary>
public static class UsdzWriter
{
    private const ushort PaddingField = 0x1986;

    /// <param name="files">Name and contents; the layer that is opened comes first.</param>
    public static void Write(Stream output, IEnumerable<(string Name, byte[] Bytes)> files)
    {
        var directory = new MemoryStream();
        ushort count = 0;
        Span<byte> local = stackalloc byte[30];
        Span<byte> central = stackalloc byte[46];
        foreach (var (name, bytes) in files)
        {
            var encoded = Encoding.UTF8.GetBytes(name);
            var start = output.Position;
            var padding = Padding(start + 30 + encoded.Length);
            var crc = Crc32.HashToUInt32(bytes);
            local.Clear();
            BinaryPrimitives.WriteUInt32LittleEndian(local, 0x04034b50);
            BinaryPrimitives.WriteUInt16LittleEndian(local[4..], 10);
            Common(local[6..], crc, bytes.Length, encoded.Length);
            BinaryPrimitives.WriteUInt16LittleEndian(local[28..], (ushort)padding);
            output.Write(local);
            output.Write(encoded);
            WritePadding(output, padding);
            output.Write(bytes);

            central.Clear();
            BinaryPrimitives.WriteUInt32LittleEndian(central, 0x02014b50);
            BinaryPrimitives.WriteUInt16LittleEndian(central[4..], 10);
            BinaryPrimitives.WriteUInt16LittleEndian(central[6..], 10);
            Common(central[8..], crc, bytes.Length, encoded.Length);
            BinaryPrimitives.WriteUInt32LittleEndian(central[42..], (uint)start);
            directory.Write(central);
            directory.Write(encoded);
            count++;
        }

        var at = output.Position;
        output.Write(directory.ToArray());
        Span<byte> end = stackalloc byte[22];
        end.Clear();
        BinaryPrimitives.WriteUInt32LittleEndian(end, 0x06054b50);
        BinaryPrimitives.WriteUInt16LittleEndian(end[8..], count);
        BinaryPrimitives.WriteUInt16LittleEndian(end[10..], count);
        BinaryPrimitives.WriteUInt32LittleEndian(end[12..], (uint)directory.Length);
        BinaryPrimitives.WriteUInt32LittleEndian(end[16..], (uint)at);
        output.Write(end);
    }

    /// <summary>Flags, method, time, checksum, sizes and name length, which both headers have in one order.</summary>
    private static void Common(Span<byte> header, uint crc, int length, int nameLength)
    {
        BinaryPrimitives.WriteUInt16LittleEndian(header, 0x0800); // Names are UTF-8.
        BinaryPrimitives.WriteUInt16LittleEndian(header[6..], 0x21); // 1 January 1980: the same bytes every time.
        BinaryPrimitives.WriteUInt32LittleEndian(header[8..], crc);
        BinaryPrimitives.WriteUInt32LittleEndian(header[12..], (uint)length);
        BinaryPrimitives.WriteUInt32LittleEndian(header[16..], (uint)length);
        BinaryPrimitives.WriteUInt16LittleEndian(header[20..], (ushort)nameLength);
    }

    /// <summary>
    /// Bytes of an extra field that brings the contents to the next multiple of 64; a field has at least its own head
    /// of four.
    /// </summary>
    private static int Padding(long at)
    {
        var rest = (int)(UsdzArchive.Alignment - (at % UsdzArchive.Alignment)) % UsdzArchive.Alignment;
        return rest is > 0 and < 4 ? rest + UsdzArchive.Alignment : rest;
    }

    private static void WritePadding(Stream output, int padding)
    {
        if (padding == 0)
            return;
        var field = new byte[padding];
        BinaryPrimitives.WriteUInt16LittleEndian(field, PaddingField);
        BinaryPrimitives.WriteUInt16LittleEndian(field.AsSpan(2), (ushort)(padding - 4));
        output.Write(field);
    }
}
