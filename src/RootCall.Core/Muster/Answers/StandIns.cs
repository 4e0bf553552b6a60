using System.Buffers.Binary;
using System.IO.Compression;
using System.IO.Hashing;
using RootCall.Core.Files;
using RootCall.Core.Shading;

namespace RootCall.Core.Muster;

/// <summary>
/// Neutral pictures that stand in for missing ones, so that work can go on. Their name says what they are wherever they
/// go: into a scene, a package, another machine.
/// </summary>
public static class StandIns
{
    private const string Prefix = "stand-in-for-";
    private const int Side = 64;

    public static bool Is(string path) => Path.GetFileName(path.AsSpan()).StartsWith(Prefix, StringComparison.Ordinal);

    /// <summary>
    /// What changes a look least, as stored 8-bit red, green, blue: 18 % grey encoded with sRGB's curve (IEC 61966-2-1) for
    /// colours, a flat normal and the channels of a metallic roughness map as glTF 2.0 defines them, the middle of the range
    /// for heights and roughness, nothing for what adds (emission, metalness), all for what cuts away (opacity, occlusion).
    /// </summary>
    public static (byte Red, byte Green, byte Blue) Neutral(Role? role) =>
        role switch
        {
            Role.Normal => (128, 128, 255),
            Role.MetallicRoughness or Role.Packed => (255, 128, 0),
            Role.Roughness or Role.Glossiness or Role.Displacement or Role.Bump or Role.Specular => (128, 128, 128),
            Role.Metalness or Role.Emission => (0, 0, 0),
            Role.Occlusion or Role.Opacity => (255, 255, 255),
            _ => (118, 118, 118),
        };

    /// <summary>Puts the stand-in for a role into a folder, once.</summary>
    /// <returns>Its absolute path.</returns>
    public static string Put(string folder, Role? role)
    {
        Directory.CreateDirectory(folder);
        var path = Path.Combine(folder, $"{Prefix}{(role?.Word() ?? "image").Replace(' ', '-')}.png");
        if (!File.Exists(path))
            WholeOrNothing.File(path, stream => Write(stream, Neutral(role)));
        return path;
    }

    /// <summary>A PNG of one colour (W3C PNG third edition).</summary>
    private static void Write(Stream to, (byte Red, byte Green, byte Blue) colour)
    {
        to.Write([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]);
        var header = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(header, Side);
        BinaryPrimitives.WriteInt32BigEndian(header.AsSpan(4), Side);
        (header[8], header[9]) = (8, 2);
        Chunk(to, "IHDR"u8, header);
        Chunk(to, "tEXt"u8, "Comment\0A neutral picture that stands in for a missing one."u8);
        using var pixels = new MemoryStream();
        using (var deflate = new ZLibStream(pixels, CompressionLevel.SmallestSize, leaveOpen: true))
            for (var y = 0; y < Side; y++)
            {
                deflate.WriteByte(0);
                for (var x = 0; x < Side; x++)
                    deflate.Write([colour.Red, colour.Green, colour.Blue]);
            }

        Chunk(to, "IDAT"u8, pixels.ToArray());
        Chunk(to, "IEND"u8, []);
    }

    private static void Chunk(Stream to, ReadOnlySpan<byte> type, ReadOnlySpan<byte> data)
    {
        Span<byte> number = stackalloc byte[4];
        BinaryPrimitives.WriteInt32BigEndian(number, data.Length);
        to.Write(number);
        to.Write(type);
        to.Write(data);
        var sum = new Crc32();
        sum.Append(type);
        sum.Append(data);
        BinaryPrimitives.WriteUInt32BigEndian(number, sum.GetCurrentHashAsUInt32());
        to.Write(number);
    }
}
