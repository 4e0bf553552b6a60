using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>BMP (Win32 "Bitmap storage": BITMAPFILEHEADER and the info headers).</summary>
internal sealed class BmpCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.Bmp;

    public override string Name => "BMP";

    public override ImmutableArray<string> Extensions => [".bmp", ".dib"];

    public override string MediaType => "image/bmp";

    public override bool Knows(ReadOnlySpan<byte> head) => head.StartsWith("BM"u8);

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.Position = 10;
        var dataAt = r.U32();
        var header = r.U32();
        int width,
            height,
            bits;
        var compression = 0u;
        var declared = 0u;
        if (header == 12)
        {
            width = r.U16();
            height = r.U16();
            r.Skip(2);
            bits = r.U16();
        }
        else
        {
            width = r.I32();
            height = Math.Abs((long)r.I32()) is var h and <= int.MaxValue
                ? (int)h
                : throw new DamagedImageException("declares an absurd height");
            r.Skip(2);
            bits = r.U16();
            compression = r.U32();
            declared = r.U32();
        }

        if (bits is not (1 or 2 or 4 or 8 or 16 or 24 or 32))
            throw new DamagedImageException($"declares {bits} bits a pixel");
        // Rows are padded to four bytes; run-length and embedded data declare their own length.
        var needed = dataAt + (compression is 0 or 3 or 6 ? (((long)width * bits) + 31) / 32 * 4 * height : declared);
        damage = r.Length < needed ? Invariant($"ends at byte {r.Length:N0}; {width} × {height} pixels need {needed:N0}") : null;
        var alpha = bits == 32 && header >= 56;
        return new(ImageFormat.Bmp, width, height, alpha ? 4 : 3, bits == 16 ? 5 : 8, HasAlpha: alpha);
    }
}
