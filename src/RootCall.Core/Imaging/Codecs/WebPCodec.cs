using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>WebP (RFC 9649): the RIFF length, then the first chunk, VP8, VP8L or VP8X.</summary>
internal sealed class WebPCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.WebP;

    public override string Name => "WebP";

    public override ImmutableArray<string> Extensions => [".webp"];

    public override string MediaType => "image/webp";

    public override GltfCarriage InGltf => GltfCarriage.Extension;

    public override bool IsCompressed => true;

    public override bool Knows(ReadOnlySpan<byte> head) =>
        head.StartsWith("RIFF"u8) && head.Length == 12 && head[8..].SequenceEqual("WEBP"u8);

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.BigEndian = false;
        r.Position = 4;
        var declared = 8L + r.U32();
        damage = r.Length < declared ? Invariant($"ends at byte {r.Length:N0} of {declared:N0}") : null;
        r.Skip(4);
        var tag = System.Text.Encoding.ASCII.GetString(r.Bytes(4));
        r.Skip(4);
        switch (tag)
        {
            case "VP8 ":
                r.Skip(3);
                if (!r.Bytes(3).AsSpan().SequenceEqual((ReadOnlySpan<byte>)[0x9D, 0x01, 0x2A]))
                    throw new DamagedImageException("has no VP8 start code");
                return new(ImageFormat.WebP, r.U16() & 0x3FFF, r.U16() & 0x3FFF, 3, 8);
            case "VP8L":
                if (r.U8() != 0x2F)
                    throw new DamagedImageException("has no VP8L signature");
                var bits = r.U32();
                var lossless = (bits >> 28 & 1) == 1;
                return new(
                    ImageFormat.WebP,
                    (int)(bits & 0x3FFF) + 1,
                    (int)(bits >> 14 & 0x3FFF) + 1,
                    lossless ? 4 : 3,
                    8,
                    HasAlpha: lossless
                );
            case "VP8X":
                var flags = r.U8();
                r.Skip(3);
                var alpha = (flags & 0x10) != 0;
                return new(
                    ImageFormat.WebP,
                    U24(r) + 1,
                    U24(r) + 1,
                    alpha ? 4 : 3,
                    8,
                    HasAlpha: alpha,
                    Colour: (flags & 0x20) != 0 ? "ICC profile" : null
                );
            default:
                throw new DamagedImageException($"begins with a chunk “{tag}”, which is none of WebP's");
        }
    }

    private static int U24(HeaderReader r) => r.U8() | (r.U8() << 8) | (r.U8() << 16);
}
