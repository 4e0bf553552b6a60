using System.Buffers.Binary;
using System.IO.Compression;
using System.IO.Hashing;

namespace RootCall.Testing;

/// <summary>Small pictures made byte by byte, for tests that need contents rather than looks.</summary>
public static class Pictures
{
    /// <summary>An 8-bit grey PNG of one value.</summary>
    public static byte[] Png(int width, int height, byte grey, params (string Tag, byte[] Data)[] extra) =>
        Png(width, height, 1, (_, _, pixel) => pixel[0] = grey, extra);

    /// <summary>Writes the channels of one pixel.</summary>
    public delegate void Paint(int x, int y, Span<byte> pixel);

    /// <summary>An 8-bit PNG of one channel or three.</summary>
    public static byte[] Png(int width, int height, int channels, Paint paint, params (string Tag, byte[] Data)[] extra)
    {
        using var file = new MemoryStream();
        file.Write([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]);
        var header = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(header, width);
        BinaryPrimitives.WriteInt32BigEndian(header.AsSpan(4), height);
        (header[8], header[9]) = (8, (byte)(channels == 3 ? 2 : 0));
        Chunk(file, "IHDR", header);
        foreach (var (tag, data) in extra)
            Chunk(file, tag, data);
        using var pixels = new MemoryStream();
        var row = new byte[1 + (width * channels)];
        using (var deflate = new ZLibStream(pixels, CompressionLevel.Fastest, leaveOpen: true))
            for (var y = 0; y < height; y++)
            {
                for (var x = 0; x < width; x++)
                    paint(x, y, row.AsSpan(1 + (x * channels), channels));
                deflate.Write(row);
            }

        Chunk(file, "IDAT", pixels.ToArray());
        Chunk(file, "IEND", []);
        return file.ToArray();
    }

    private static void Chunk(MemoryStream file, string tag, byte[] data)
    {
        Span<byte> number = stackalloc byte[4];
        BinaryPrimitives.WriteInt32BigEndian(number, data.Length);
        file.Write(number);
        byte[] body = [.. System.Text.Encoding.ASCII.GetBytes(tag), .. data];
        file.Write(body);
        BinaryPrimitives.WriteUInt32BigEndian(number, Crc32.HashToUInt32(body));
        file.Write(number);
    }
}
