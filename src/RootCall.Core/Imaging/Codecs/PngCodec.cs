using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>PNG (W3C Recommendation, third edition): IHDR, then chunks by their lengths up to IEND.</summary>
internal sealed class PngCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.Png;

    public override string Name => "PNG";

    public override ImmutableArray<string> Extensions => [".png"];

    public override string MediaType => "image/png";

    public override GltfCarriage InGltf => GltfCarriage.Core;

    public override bool IsCompressed => true;

    public override bool Knows(ReadOnlySpan<byte> head) => head.StartsWith(Magic);

    private static ReadOnlySpan<byte> Magic => [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A];

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.BigEndian = true;
        r.Position = Magic.Length;
        if (r.U32() != 13 || r.U32() != Tag("IHDR"))
            throw new DamagedImageException("does not begin with the IHDR chunk of a PNG");
        var width = r.I32();
        var height = r.I32();
        var depth = r.U8();
        var kind = r.U8();
        r.Skip(3 + 4);

        string? colour = null;
        var transparent = false;
        var data = false;
        damage = null;
        while (true)
        {
            // A chunk that starts where the file ends, or reaches past it, is where the file was cut.
            if (r.Length - r.Position < 12)
            {
                damage = Invariant($"ends at byte {r.Length:N0}, before its IEND chunk");
                break;
            }

            var length = r.U32();
            var tag = r.U32();
            if (tag == Tag("IEND"))
                break;
            if (length > r.Length - r.Position - 4)
            {
                damage = Invariant($"ends at byte {r.Length:N0}, inside a chunk of {length:N0} bytes");
                break;
            }

            data |= tag == Tag("IDAT");
            transparent |= tag == Tag("tRNS");
            var next = r.Position + length + 4;
            // Precedence of the specification: cICP, iCCP, sRGB, then gAMA.
            if (tag == Tag("cICP"))
                colour = "cICP";
            else if (tag == Tag("iCCP") && colour != "cICP")
                colour = "ICC profile";
            else if (tag == Tag("sRGB") && colour is null or "gamma")
                colour = "sRGB";
            else if (tag == Tag("gAMA") && colour is null && length == 4)
                colour = Invariant($"gamma {100000.0 / Math.Max(1, r.U32()):0.##}");
            r.Position = next;
        }

        if (damage is null && !data)
            damage = "holds no image data (no IDAT chunk)";
        var channels = kind switch
        {
            0 => 1,
            2 => 3,
            3 => 3,
            4 => 2,
            6 => 4,
            _ => throw new DamagedImageException($"has colour type {kind}, which PNG does not have"),
        };
        // A palette is 8-bit colour whatever the depth of its indices.
        return new(
            ImageFormat.Png,
            width,
            height,
            channels + (transparent ? 1 : 0),
            kind == 3 ? 8 : depth,
            HasAlpha: transparent || kind is 4 or 6,
            Colour: colour
        );
    }

    private static uint Tag(string t) => ((uint)t[0] << 24) | ((uint)t[1] << 16) | ((uint)t[2] << 8) | t[3];
}
