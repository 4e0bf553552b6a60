namespace RootCall.Core.Imaging.Probing;

/// <summary>TGA (Truevision TGA file format specification 2.0).</summary>
internal static class TgaProbe
{
    private const int HeaderLength = 18;
    private const int FooterLength = 26;
    private const int LongestRun = 128;

    public static bool HasFooter(HeaderReader r)
    {
        if (r.Length < HeaderLength + FooterLength) return false;
        r.Position = r.Length - 18;
        var has = r.Bytes(18).AsSpan().SequenceEqual("TRUEVISION-XFILE.\0"u8);
        r.Position = 0;
        return has;
    }

    public static ImageFacts Read(HeaderReader r, out string? damage)
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
        var channels = grey ? (bits == 16 ? 2 : 1) : colourBits == 32 || alpha ? 4 : 3;
        var pixels = (long)width * height;
        var bytesPerPixel = (bits + 7) / 8;
        // Run-length data has no declared length: the least it can be is one packet for every 128 pixels.
        var least = kind >= 9 ? (pixels + LongestRun - 1) / LongestRun * (1 + bytesPerPixel) : pixels * bytesPerPixel;
        var needed = HeaderLength + idLength + (mapped == 1 ? (long)mapEntries * ((mapBits + 7) / 8) : 0) + least;
        damage = r.Length < needed ? $"ends at byte {r.Length:N0}; {width} × {height} pixels need {needed:N0}" : null;
        return new(ImageFormat.Tga, width, height, channels, colourBits is 15 or 16 && !grey ? 5 : 8, HasAlpha: alpha);
    }
}
