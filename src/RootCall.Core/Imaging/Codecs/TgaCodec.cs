using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>TGA (Truevision TGA file format specification 2.0).</summary>
internal sealed class TgaCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.Tga;

    public override string Name => "TGA";

    public override ImmutableArray<string> Extensions => [".tga", ".targa", ".vda", ".icb", ".vst"];

    public override string MediaType => "image/x-tga";

    /// <summary>Only newer files have one, at their end.</summary>
    public override bool HasMagic => false;

    public override bool Knows(ReadOnlySpan<byte> head) => false;

    internal override bool KnowsByEnd(HeaderReader reader) => HasFooter(reader);

    private const int HeaderLength = 18;
    private const int FooterLength = 26;

    private static bool HasFooter(HeaderReader r)
    {
        if (r.Length < HeaderLength + FooterLength)
            return false;
        r.Position = r.Length - 18;
        var has = r.Bytes(18).AsSpan().SequenceEqual("TRUEVISION-XFILE.\0"u8);
        r.Position = 0;
        return has;
    }

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.BigEndian = false;
        r.Position = 0;
        var idLength = r.U8();
        var mapped = r.U8();
        var kind = r.U8();
        r.Skip(2);
        var mapEntries = r.U16();
        var mapBits = r.U8();
        r.Skip(4);
        int width = r.U16();
        int height = r.U16();
        var bits = r.U8();
        var alphaBits = r.U8() & 0x0F;
        if (mapped > 1 || kind is not (1 or 2 or 3 or 9 or 10 or 11) || bits is not (8 or 15 or 16 or 24 or 32))
            throw new DamagedImageException("is no TGA: its header has no image kind of that format");

        var palette = kind is 1 or 9;
        var colourBits = palette ? mapBits : bits;
        var grey = kind is 3 or 11;
        var alpha = colourBits == 32 || (grey && bits == 16) || (colourBits == 16 && alphaBits > 0);
        var channels =
            grey ? (bits == 16 ? 2 : 1)
            : colourBits == 32 || alpha ? 4
            : 3;
        var pixels = (long)width * height;
        var bytesPerPixel = (bits + 7) / 8;
        var start = HeaderLength + idLength + (mapped == 1 ? (long)mapEntries * ((mapBits + 7) / 8) : 0);
        if (kind >= 9)
            damage = RunsEnd(r, start, pixels, bytesPerPixel)
                ? null
                : Invariant($"ends at byte {r.Length:N0}, before the last of its {width} × {height} pixels");
        else
            damage =
                r.Length < start + (pixels * bytesPerPixel)
                    ? Invariant($"ends at byte {r.Length:N0}; {width} × {height} pixels need {start + (pixels * bytesPerPixel):N0}")
                    : null;
        return new(ImageFormat.Tga, width, height, channels, colourBits is 15 or 16 && !grey ? 5 : 8, HasAlpha: alpha);
    }

    /// <summary>A packet is a byte, whose low bits are one less than its pixels, and one pixel for a run or all of them.</summary>
    private static bool RunsEnd(HeaderReader r, long start, long pixels, int bytesPerPixel)
    {
        if (start >= r.Length)
            return false;
        r.Position = start;
        var walk = new RunLengthWalk(r);
        while (pixels > 0)
        {
            var packet = walk.Next();
            var count = (packet & 0x7F) + 1;
            if (packet < 0 || !walk.Skip((packet & 0x80) != 0 ? bytesPerPixel : count * bytesPerPixel))
                return false;
            pixels -= count;
        }

        return true;
    }
}
