using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>
/// OpenEXR ("OpenEXR file layout"): the attributes of the first part, and its offset table. A writer that stopped leaves
/// zeros in the table; a file that was cut leaves offsets past the end.
/// </summary>
internal sealed class OpenExrCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.OpenExr;

    public override string Name => "OpenEXR";

    public override ImmutableArray<string> Extensions => [".exr"];

    public override string MediaType => "image/x-exr";

    public override bool IsCompressed => true;

    public override bool Knows(ReadOnlySpan<byte> head) => head.StartsWith((ReadOnlySpan<byte>)[0x76, 0x2F, 0x31, 0x01]);

    private const int MaxAttributes = 4096;

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.BigEndian = false;
        r.Position = 4;
        var version = r.U32();
        var multipart = (version & 0x1000) != 0;
        var (facts, chunks, tiled) = Part(r);
        if (multipart)
        {
            // Headers follow each other and end with an empty one; the tables of all parts come behind.
            while (PeekIsHeader(r))
            {
                chunks += Part(r).Chunks;
            }

            r.Skip(1);
        }

        // A chunk starts with its part's number in multipart files, then its line or its tile's place, then its size.
        var isDeep = (version & 0x800) != 0;
        damage = chunks < 0 ? null : Table(r, chunks, isDeep ? null : (multipart ? 4 : 0) + (tiled ? 16 : 4));
        return facts;
    }

    private static bool PeekIsHeader(HeaderReader r)
    {
        var more = r.U8() != 0;
        r.Position--;
        return more;
    }

    private static (ImageFacts Facts, long Chunks, bool Tiled) Part(HeaderReader r)
    {
        int minX = 0,
            minY = 0,
            maxX = -1,
            maxY = -1;
        var channels = new List<(string Name, int Type)>();
        string? colour = null;
        byte compression = 0;
        (int X, int Y, int Mode)? tile = null;
        long chunkCount = -1;
        for (var n = 0; ; n++)
        {
            var name = r.ZeroEnded();
            if (name.Length == 0)
                break;
            if (n > MaxAttributes)
                throw new DamagedImageException("has more attributes than a header can hold");
            var type = r.ZeroEnded();
            var size = r.I32();
            var next = r.Position + size;
            if (size < 0 || next > r.Length)
                throw new EndOfStreamException();
            switch (name)
            {
                case "channels":
                    for (var channel = r.ZeroEnded(); channel.Length > 0; channel = r.ZeroEnded())
                    {
                        channels.Add((channel, r.I32()));
                        r.Skip(12);
                    }

                    break;
                case "dataWindow":
                    (minX, minY, maxX, maxY) = (r.I32(), r.I32(), r.I32(), r.I32());
                    break;
                case "compression":
                    compression = r.U8();
                    break;
                case "chunkCount":
                    chunkCount = r.I32();
                    break;
                case "tiles":
                    tile = (r.I32(), r.I32(), r.U8());
                    break;
                case "chromaticities":
                    colour ??= "chromaticities";
                    break;
                case "colorInteropID" when type == "string":
                    colour = System.Text.Encoding.UTF8.GetString(r.Bytes(size));
                    break;
            }

            r.Position = next;
        }

        if (channels.Count == 0)
            throw new DamagedImageException("names no channels in its header");
        var height = checked(maxY - minY + 1);
        var depth = channels.Max(c => c.Type == 1 ? 16 : 32);
        var alpha = channels.Any(c => c.Name == "A" || c.Name.EndsWith(".A", StringComparison.Ordinal));
        // Scan lines a chunk holds, by compression: none, RLE, ZIPS 1; ZIP, PXR24 16; PIZ, B44, B44A, DWAA 32; DWAB 256.
        var lines = compression switch
        {
            0 or 1 or 2 => 1,
            3 or 5 => 16,
            9 => 256,
            _ => 32,
        };
        var width = checked(maxX - minX + 1);
        if (chunkCount < 0)
            chunkCount = tile is { } t ? Tiles(width, height, t) : ((long)height + lines - 1) / lines;
        return (
            new(ImageFormat.OpenExr, width, height, channels.Count, depth, channels.All(c => c.Type != 0), alpha, colour),
            chunkCount,
            tile is not null
        );
    }

    /// <summary>Tiles of all levels; -1 for rip-maps and broken sizes, whose tables are not checked.</summary>
    private static long Tiles(long width, long height, (int X, int Y, int Mode) tile)
    {
        var (mipmaps, up) = ((tile.Mode & 0x0F) == 1, (tile.Mode & 0xF0) != 0);
        if (tile.X <= 0 || tile.Y <= 0 || (tile.Mode & 0x0F) > 1)
            return -1;
        var total = 0L;
        for (; ; width = Half(width, up), height = Half(height, up))
        {
            total += (width + tile.X - 1) / tile.X * ((height + tile.Y - 1) / tile.Y);
            if (!mipmaps || (width <= 1 && height <= 1))
                return total;
        }
    }

    private static long Half(long side, bool up) => Math.Max(1, (side + (up ? 1 : 0)) / 2);

    private static string? Table(HeaderReader r, long chunks, int? sizeAt)
    {
        var last = 0L;
        if (chunks > (r.Length - r.Position) / 8)
            return Invariant($"ends at byte {r.Length:N0}, inside its offset table");
        for (var i = 0L; i < chunks; i++)
        {
            var at = (long)r.U64();
            if (at == 0)
                return Invariant($"was not written to its end: chunk {i + 1:N0} of {chunks:N0} is missing");
            last = Math.Max(last, at);
        }

        if (last < 0 || last + 8 > r.Length)
            return Invariant($"ends at byte {r.Length:N0}; its last chunk starts at {last:N0}");
        if (chunks == 0 || sizeAt is null)
            return null;
        r.Position = last + sizeAt.Value;
        var size = r.U32();
        return r.Position + size > r.Length ? Invariant($"ends at byte {r.Length:N0}, inside its last chunk of {size:N0} bytes") : null;
    }
}
