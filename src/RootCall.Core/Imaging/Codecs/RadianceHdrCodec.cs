using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using static System.FormattableString;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>Radiance picture ("Radiance file formats": a text header, a resolution line, flat or run-length pixels).</summary>
internal sealed class RadianceHdrCodec : ImageCodec
{
    public override ImageFormat Format => ImageFormat.RadianceHdr;

    public override string Name => "Radiance HDR";

    public override ImmutableArray<string> Extensions => [".hdr", ".pic", ".rgbe"];

    public override string MediaType => "image/vnd.radiance";

    public override bool Knows(ReadOnlySpan<byte> head) => head.StartsWith("#?RADIANCE"u8) || head.StartsWith("#?RGBE"u8);

    private const int MaxHeader = 1 << 16;

    internal override ImageFacts Read(HeaderReader r, out string? damage)
    {
        r.Position = 0;
        string? colour = null;
        while (Line(r) is { Length: > 0 } line)
        {
            if (r.Position > MaxHeader)
                throw new DamagedImageException("has no end of its header");
            if (line.StartsWith("FORMAT=", StringComparison.Ordinal) && line.Contains("xyze", StringComparison.Ordinal))
                colour = "XYZ";
            if (line.StartsWith("PRIMARIES=", StringComparison.Ordinal))
                colour = "primaries";
        }

        var size = Line(r).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (
            size.Length != 4
            || !int.TryParse(size[1], CultureInfo.InvariantCulture, out var first)
            || !int.TryParse(size[3], CultureInfo.InvariantCulture, out var second)
        )
            throw new DamagedImageException("has no resolution line behind its header");
        var (height, width) = size[0][^1] == 'Y' ? (first, second) : (second, first);

        var start = r.Position;
        var head = r.Length - start >= 4 ? r.Bytes(4) : [0, 0, 0, 0];
        // New run-length lines begin 2 2 and the line's width. Flat and old run-length pixels declare nothing to hold them against.
        var runs = head[0] == 2 && head[1] == 2 && head[2] < 128 && ((head[2] << 8) | head[3]) == second;
        damage = runs
            ? WholeLines(r, start, first, second) is var lines && lines < first
                ? Invariant($"ends at byte {r.Length:N0}, after {lines:N0} of {first:N0} lines")
                : null
            : r.Length - start < 4
                ? Invariant($"ends at byte {r.Length:N0}, before its pixels")
                : null;
        return new(ImageFormat.RadianceHdr, width, height, 3, 32, IsFloat: true, Colour: colour);
    }

    private static string Line(HeaderReader r)
    {
        var text = new StringBuilder();
        for (var b = r.U8(); b != '\n'; b = r.U8())
        {
            if (text.Length > MaxHeader)
                throw new DamagedImageException("has no end of its header");
            text.Append((char)b);
        }

        return text.ToString();
    }

    /// <summary>Each line: four bytes, then each channel as runs (over 128: the rest repeats one byte) and literals.</summary>
    private static int WholeLines(HeaderReader r, long start, int lines, int width)
    {
        r.Position = start;
        var walk = new RunLengthWalk(r);
        for (var line = 0; line < lines; line++)
        {
            if (!walk.Skip(4))
                return line;
            for (var left = 4 * (long)width; left > 0; )
            {
                var code = walk.Next();
                var count = code > 128 ? code - 128 : code;
                if (code <= 0 || !walk.Skip(code > 128 ? 1 : count))
                    return line;
                left -= count;
            }
        }

        return lines;
    }
}
