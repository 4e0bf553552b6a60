using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>KTX 2.0 (Khronos "KTX file format specification"): header, level index, data format descriptor.</summary>
internal sealed class Ktx2Codec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.Ktx2;

    public override string Name => "KTX2";

    public override ImmutableArray<string> Extensions => [".ktx2"];

    public override string MediaType => "image/ktx2";

    public override GltfCarriage InGltf => GltfCarriage.Extension;

    public override bool IsCompressed => true;

    public override bool Knows(ReadOnlySpan<byte> head) => head.StartsWith(Magic);

    private static ReadOnlySpan<byte> Magic =>
        [0xAB, (byte)'K', (byte)'T', (byte)'X', (byte)' ', (byte)'2', (byte)'0', 0xBB, 0x0D, 0x0A, 0x1A, 0x0A];

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.BigEndian = false;
        r.Position = 12;
        r.Skip(4); // vkFormat: the descriptor below says the same for every format, also for Basis Universal.
        var typeSize = r.U32();
        var width = r.I32();
        var height = r.I32();
        r.Skip(12);
        var levels = Math.Max(1, r.U32());
        r.Skip(4);
        var descriptor = r.U32();
        r.Skip(4);
        r.Skip(24);
        damage = null;
        if (levels > 32)
            throw new DamagedImageException(Invariant($"declares {levels:N0} levels"));
        for (var i = 0; i < levels; i++)
        {
            var end = checked((long)r.U64() + (long)r.U64());
            r.Skip(8);
            if (end > r.Length)
                damage ??= Invariant($"ends at byte {r.Length:N0}; level {i} goes on to {end:N0}");
        }

        // Khronos Data Format basic descriptor: total size, vendor and version, then colour model, primaries, transfer.
        r.Position = descriptor + 4 + 4;
        r.Skip(2);
        var blockSize = r.U16();
        var model = r.U8();
        r.Skip(1);
        var transfer = r.U8();
        r.Skip(1 + 4 + 8);
        var samples = Math.Clamp((blockSize - 24) / 16, 1, 16);
        var alpha = false;
        var isFloat = false;
        for (var i = 0; i < samples; i++)
        {
            r.Skip(2 + 1);
            var channel = r.U8();
            isFloat |= (channel & 0x80) != 0;
            alpha |= (channel & 0x0F) == 15 || (model is 163 or 166 && (channel & 0x0F) is 3 or 15);
            r.Skip(12);
        }

        // ETC1S carries RGB in its first slice, UASTC all channels in one block.
        var channels = model switch
        {
            163 => alpha ? 4 : 3,
            166 => alpha ? 4 : 3,
            _ => samples,
        };
        return new(
            ImageFormat.Ktx2,
            width,
            Math.Max(1, height),
            channels,
            (int)Math.Clamp(typeSize, 1, 8) * 8,
            isFloat,
            alpha,
            transfer switch
            {
                2 => "sRGB",
                1 => "linear",
                _ => null,
            }
        );
    }
}
