using RootCall.Core.Imaging.Probing;
using static System.FormattableString;

namespace RootCall.Core.Imaging;

/// <summary>
/// Tells what an image file is from its first bytes and header fields, and whether it is whole from declared lengths
/// and the format's end marker. Nothing is decoded, so a list of thousands fills quickly.
/// </summary>
public static class ImageProbe
{
    private const int MaxSide = 1 << 20;
    private const int WholeBytes = 16 << 10;

    /// <summary>Never throws for what is in the file; a file that cannot be opened is damaged, with the system's reason.</summary>
    public static ProbeResult File(string path) => File(path, WholeBytes, _ => { });

    /// <param name="wholeBytes">A file of at most so many bytes is read in one go.</param>
    /// <param name="whole">Is shown the bytes of such a file.</param>
    internal static ProbeResult File(string path, int wholeBytes, Action<ReadOnlySpan<byte>> whole)
    {
        try
        {
            // Shared with everyone: on a file server a lock is a round trip, and others may be writing.
            using var file = System.IO.File.OpenHandle(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
            var length = RandomAccess.GetLength(file);
            if (length > wholeBytes)
            {
                using var stream = new FileStream(file, FileAccess.Read, 4096);
                return Stream(stream, path);
            }

            var buffer = System.Buffers.ArrayPool<byte>.Shared.Rent(wholeBytes);
            try
            {
                var read = RandomAccess.Read(file, buffer.AsSpan(0, (int)length), 0);
                whole(buffer.AsSpan(0, read));
                return Stream(new MemoryStream(buffer, 0, read, writable: false), path);
            }
            finally
            {
                System.Buffers.ArrayPool<byte>.Shared.Return(buffer);
            }
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return new(null, $"cannot be opened: {e.Message}");
        }
    }

    /// <param name="stream">Seekable.</param>
    /// <param name="name">File name; its ending is held against the contents. Null for data without a name.</param>
    public static ProbeResult Stream(Stream stream, string? name)
    {
        var promised = name is null ? null : ImageNames.Promised(name);
        if (stream.Length == 0)
            return new(null, "the file is empty");
        var reader = new HeaderReader(stream);
        try
        {
            if (Sniff(reader) is not { } format)
            {
                // TGA has no magic at its start, so it is tried where the name promises it.
                if (promised != ImageFormat.Tga)
                    return new(
                        null,
                        promised is null ? null : $"is no {ImageNames.Of(promised.Value)}: its first bytes are none of a known image"
                    );
                format = ImageFormat.Tga;
            }

            var facts = Read(format, reader, out var damage);
            if (facts.Width <= 0 || facts.Height <= 0 || facts.Width > MaxSide || facts.Height > MaxSide)
                damage = $"declares {facts.Width} × {facts.Height} pixels";
            if (promised is not null && promised != format)
                damage ??= $"is a {ImageNames.Of(format)}, not the {ImageNames.Of(promised.Value)} its name says";
            return new(facts, damage);
        }
        catch (DamagedImageException e)
        {
            return new(null, e.Message);
        }
        catch (Exception e) when (e is EndOfStreamException or OverflowException)
        {
            return new(null, Invariant($"ends inside its header, at byte {stream.Length:N0}"));
        }
    }

    private static ImageFormat? Sniff(HeaderReader reader)
    {
        Span<byte> head = stackalloc byte[12];
        var read = reader.Peek(head);
        head = head[..read];
        if (head.StartsWith(PngProbe.Magic))
            return ImageFormat.Png;
        if (head.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]))
            return ImageFormat.Jpeg;
        if (head.StartsWith((ReadOnlySpan<byte>)[0x76, 0x2F, 0x31, 0x01]))
            return ImageFormat.OpenExr;
        if (head.StartsWith("#?RADIANCE"u8) || head.StartsWith("#?RGBE"u8))
            return ImageFormat.RadianceHdr;
        if (head.StartsWith("DDS "u8))
            return ImageFormat.Dds;
        if (head.StartsWith(Ktx2Probe.Magic))
            return ImageFormat.Ktx2;
        if (head.StartsWith("RIFF"u8) && head.Length == 12 && head[8..].SequenceEqual("WEBP"u8))
            return ImageFormat.WebP;
        if (head.StartsWith("II*\0"u8) || head.StartsWith("MM\0*"u8) || head.StartsWith("II+\0"u8) || head.StartsWith("MM\0+"u8))
            return ImageFormat.Tiff;
        if (head.StartsWith("BM"u8))
            return ImageFormat.Bmp;
        return TgaProbe.HasFooter(reader) ? ImageFormat.Tga : null;
    }

    private static ImageFacts Read(ImageFormat format, HeaderReader reader, out string? damage) =>
        format switch
        {
            ImageFormat.Png => PngProbe.Read(reader, out damage),
            ImageFormat.Jpeg => JpegProbe.Read(reader, out damage),
            ImageFormat.Tga => TgaProbe.Read(reader, out damage),
            ImageFormat.Tiff => TiffProbe.Read(reader, out damage),
            ImageFormat.Bmp => BmpProbe.Read(reader, out damage),
            ImageFormat.WebP => WebPProbe.Read(reader, out damage),
            ImageFormat.OpenExr => OpenExrProbe.Read(reader, out damage),
            ImageFormat.RadianceHdr => RadianceHdrProbe.Read(reader, out damage),
            ImageFormat.Dds => DdsProbe.Read(reader, out damage),
            _ => Ktx2Probe.Read(reader, out damage),
        };
}
