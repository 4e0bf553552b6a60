using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>JPEG (ITU-T T.81): markers up to the frame header; whole when an EOI marker stands near the end.</summary>
internal sealed class JpegCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.Jpeg;

    public override string Name => "JPEG";

    public override ImmutableArray<string> Extensions => [".jpg", ".jpeg", ".jpe", ".jfif"];

    public override string MediaType => "image/jpeg";

    public override GltfCarriage InGltf => GltfCarriage.Core;

    public override bool IsCompressed => true;

    public override bool Knows(ReadOnlySpan<byte> head) => head.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]);

    private const int TailLength = 1 << 16;

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.BigEndian = true;
        r.Position = 2;
        ImageFacts? facts = null;
        string? colour = null;
        while (true)
        {
            var b = r.U8();
            if (b != 0xFF)
                throw new DamagedImageException(Invariant($"has no marker at byte {r.Position - 1:N0}"));
            byte marker;
            do marker = r.U8();
            while (marker == 0xFF);
            if (marker is 0x01 or (>= 0xD0 and <= 0xD7))
                continue;
            if (marker == 0xD9)
                throw new DamagedImageException("ends before its image data");
            var length = r.U16();
            if (length < 2)
                throw new DamagedImageException(Invariant($"has a segment without length at byte {r.Position - 2:N0}"));
            var next = r.Position + length - 2;
            // SOF0 to SOF15 without DHT (C4), JPG (C8), DAC (CC).
            if (marker is >= 0xC0 and <= 0xCF and not 0xC4 and not 0xC8 and not 0xCC)
            {
                var depth = r.U8();
                var height = r.U16();
                var width = r.U16();
                facts = new(ImageFormat.Jpeg, width, height, r.U8(), depth);
            }
            else if (marker == 0xE2 && length > 14 && r.Bytes(11).AsSpan().SequenceEqual("ICC_PROFILE"u8))
                colour = "ICC profile";
            else if (marker == 0xDA)
                break;

            if (next > r.Length)
                throw new EndOfStreamException();
            r.Position = next;
        }

        if (facts is null)
            throw new DamagedImageException("has no frame header before its image data");
        damage = HasEnd(r) ? null : Invariant($"ends at byte {r.Length:N0}, before its end marker");
        return facts with { Colour = colour };
    }

    private static bool HasEnd(HeaderReader r)
    {
        // Cameras append data behind the end, so the marker is looked for in the tail.
        var from = Math.Max(r.Position, r.Length - TailLength);
        r.Position = from;
        return r.Bytes((int)(r.Length - from)).AsSpan().LastIndexOf((ReadOnlySpan<byte>)[0xFF, 0xD9]) >= 0;
    }
}
