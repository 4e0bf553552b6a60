using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>DDS (Direct3D "Programming guide for DDS": DDS_HEADER and DDS_HEADER_DXT10).</summary>
internal sealed class DdsCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.Dds;

    public override string Name => "DDS";

    public override ImmutableArray<string> Extensions => [".dds"];

    public override string MediaType => "image/vnd-ms.dds";

    public override bool Knows(ReadOnlySpan<byte> head) => head.StartsWith("DDS "u8);

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.BigEndian = false;
        r.Position = 4;
        if (r.U32() != 124)
            throw new DamagedImageException("has a header of a length that DDS does not have");
        r.Skip(4);
        var height = r.I32();
        var width = r.I32();
        r.Position = 28;
        var mips = Math.Max(1, r.U32());
        r.Position = 76;
        r.Skip(4);
        var flags = r.U32();
        var code = r.U32();
        var bits = r.U32();
        r.Position = 108;
        r.Skip(4);
        var faces = (r.U32() & 0x200) != 0 ? 6 : 1;
        r.Position = 128;
        var dxgi = 0u;
        if ((flags & 4) != 0 && code == FourCc("DX10"))
        {
            dxgi = r.U32();
            r.Skip(8);
            faces = (int)Math.Max(1, r.U32()) * faces;
            r.Skip(4);
        }

        var layout =
            (flags & 4) != 0
                ? Compressed(code, dxgi)
                : new Layout(
                    0,
                    (int)bits / 8,
                    (flags & 0x20000) != 0 ? 1
                        : bits == 32 ? 4
                        : 3,
                    8,
                    false,
                    (flags & 1) != 0,
                    null
                );
        damage = null;
        if (layout is null)
            return new(ImageFormat.Dds, width, height, 4, 8);
        var needed =
            r.Position
            + (
                faces
                * Enumerable.Range(0, (int)Math.Min(mips, 32)).Sum(m => layout.Bytes(Math.Max(1, width >> m), Math.Max(1, height >> m)))
            );
        if (r.Length < needed)
            damage = Invariant($"ends at byte {r.Length:N0} of {needed:N0}");
        return new(ImageFormat.Dds, width, height, layout.Channels, layout.Depth, layout.IsFloat, layout.Alpha, layout.Colour);
    }

    private static Layout? Compressed(uint code, uint dxgi)
    {
        if (code == FourCc("DXT1"))
            return new(8, 0, 3, 8, false, false, null);
        if (code == FourCc("DXT3") || code == FourCc("DXT5"))
            return new(16, 0, 4, 8, false, true, null);
        if (code == FourCc("ATI1") || code == FourCc("BC4U"))
            return new(8, 0, 1, 8, false, false, null);
        if (code == FourCc("ATI2") || code == FourCc("BC5U"))
            return new(16, 0, 2, 8, false, false, null);
        return dxgi switch
        {
            // DXGI_FORMAT values.
            2 => new(0, 16, 4, 32, true, true, null),
            10 => new(0, 8, 4, 16, true, true, null),
            28 or 87 => new(0, 4, 4, 8, false, true, null),
            29 or 91 => new(0, 4, 4, 8, false, true, "sRGB"),
            61 => new(0, 1, 1, 8, false, false, null),
            71 => new(8, 0, 3, 8, false, false, null),
            72 => new(8, 0, 3, 8, false, false, "sRGB"),
            74 or 77 => new(16, 0, 4, 8, false, true, null),
            75 or 78 => new(16, 0, 4, 8, false, true, "sRGB"),
            80 or 81 => new(8, 0, 1, 8, false, false, null),
            83 or 84 => new(16, 0, 2, 8, false, false, null),
            95 or 96 => new(16, 0, 3, 16, true, false, null),
            98 => new(16, 0, 4, 8, false, true, null),
            99 => new(16, 0, 4, 8, false, true, "sRGB"),
            _ => null,
        };
    }

    private static uint FourCc(string t) => t[0] | ((uint)t[1] << 8) | ((uint)t[2] << 16) | ((uint)t[3] << 24);

    private sealed record Layout(int BlockBytes, int PixelBytes, int Channels, int Depth, bool IsFloat, bool Alpha, string? Colour)
    {
        public long Bytes(int width, int height) =>
            BlockBytes > 0 ? (width + 3L) / 4 * ((height + 3L) / 4) * BlockBytes : (long)width * height * PixelBytes;
    }
}
