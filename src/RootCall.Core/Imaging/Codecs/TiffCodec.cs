using System.Collections.Immutable;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>TIFF 6.0 and BigTIFF: the first image file directory; whole when every strip or tile lies inside the file.</summary>
internal sealed class TiffCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.Tiff;

    public override string Name => "TIFF";

    public override ImmutableArray<string> Extensions => [".tif", ".tiff", ".tx"];

    public override string MediaType => "image/tiff";

    public override bool Knows(ReadOnlySpan<byte> head) =>
        head.StartsWith("II*\0"u8) || head.StartsWith("MM\0*"u8) || head.StartsWith("II+\0"u8) || head.StartsWith("MM\0+"u8);

    private const int MaxEntries = 4096;
    private const int MaxPieces = 1 << 22;

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.Position = 0;
        r.BigEndian = r.U8() == 'M';
        r.Position = 2;
        var big = r.U16() == 43;
        if (big)
            r.Skip(4);
        var directory = big ? (long)r.U64() : r.U32();
        if (directory < 8 || directory >= r.Length)
            throw new DamagedImageException(Invariant($"has its directory at byte {directory:N0}, past its end at {r.Length:N0}"));
        r.Position = directory;
        var count = big ? (long)r.U64() : r.U16();
        if (count > MaxEntries)
            throw new DamagedImageException(Invariant($"declares {count:N0} directory entries"));
        var entries = new Dictionary<int, Entry>();
        for (var i = 0; i < count; i++)
        {
            var tag = r.U16();
            var type = r.U16();
            var values = big ? (long)r.U64() : r.U32();
            var at = r.Position;
            r.Skip(big ? 8 : 4);
            var next = r.Position;
            if (values * SizeOf(type) > (big ? 8 : 4))
            {
                r.Position = at;
                at = big ? (long)r.U64() : r.U32();
            }

            entries.TryAdd(tag, new(type, values, at));
            r.Position = next;
        }

        long First(int tag, long fallback) => entries.TryGetValue(tag, out var e) && e.Count > 0 ? Values(r, e, 1).First() : fallback;
        var width = checked((int)First(256, 0));
        var height = checked((int)First(257, 0));
        var channels = (int)First(277, 1);
        var palette = First(262, 1) == 3;
        var depth = (int)First(258, 1);
        var alpha = entries.TryGetValue(338, out var extra) && Values(r, extra, 8).Any(v => v is 1 or 2);
        damage = Pieces(r, entries);
        return new(
            ImageFormat.Tiff,
            width,
            height,
            palette ? 3 : channels,
            palette ? 8 : depth,
            First(339, 1) == 3,
            alpha,
            entries.ContainsKey(34675) ? "ICC profile" : null
        );
    }

    private static string? Pieces(HeaderReader r, Dictionary<int, Entry> entries)
    {
        // 273/279 strips, 324/325 tiles: offsets and byte counts.
        var (offsets, counts) = entries.ContainsKey(324) ? (324, 325) : (273, 279);
        if (!entries.TryGetValue(offsets, out var at) || !entries.TryGetValue(counts, out var lengths))
            return "names no strips or tiles of image data";
        if (at.Count != lengths.Count || at.Count > MaxPieces)
            return Invariant($"names {at.Count:N0} pieces of image data and {lengths.Count:N0} lengths");
        var ends = Values(r, at, MaxPieces).ToArray().Zip(Values(r, lengths, MaxPieces).ToArray(), (o, l) => o + l);
        var last = ends.DefaultIfEmpty(0).Max();
        return last > r.Length ? Invariant($"ends at byte {r.Length:N0}; its image data goes on to {last:N0}") : null;
    }

    private static IEnumerable<long> Values(HeaderReader r, Entry entry, int most)
    {
        if (entry.At + (entry.Count * SizeOf(entry.Type)) > r.Length)
            throw new EndOfStreamException();
        for (var i = 0L; i < Math.Min(entry.Count, most); i++)
        {
            r.Position = entry.At + (i * SizeOf(entry.Type));
            yield return entry.Type switch
            {
                3 => r.U16(),
                4 or 13 => r.U32(),
                16 or 18 => (long)r.U64(),
                _ => r.U8(),
            };
        }
    }

    private static int SizeOf(int type) =>
        type switch
        {
            3 or 8 => 2,
            4 or 9 or 11 or 13 => 4,
            5 or 10 or 12 or 16 or 17 or 18 => 8,
            _ => 1,
        };

    private readonly record struct Entry(int Type, long Count, long At);
}
