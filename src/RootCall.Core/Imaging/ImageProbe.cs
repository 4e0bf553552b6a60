using RootCall.Core.Files;
using RootCall.Core.Imaging.Codecs;
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

    /// <summary>Of a file without contents, which is not opened.</summary>
    internal static readonly ProbeResult Nothing = new(null, "the file is empty");

    /// <summary>Never throws for what is in the file; a file that cannot be opened is damaged, with the system's reason.</summary>
    public static ProbeResult File(string path) => RegularFile.IsEmpty(path) ? Nothing : File(path, WholeBytes, _ => { });

    /// <param name="path">Not a pipe or a device: opening one may wait for ever.</param>
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
        var promised = name is null ? null : ImageCodecs.Promised(name);
        if (stream.Length == 0)
            return Nothing;
        var reader = new HeaderReader(stream);
        try
        {
            if (Sniff(reader) is not { } format)
            {
                if (promised is not { } byName || ImageCodecs.Of(byName).HasMagic)
                    return new(
                        null,
                        promised is null ? null : $"is no {ImageCodecs.Of(promised.Value).Name}: its first bytes are none of a known image"
                    );
                format = byName;
            }

            var facts = ImageCodecs.Of(format).Read(reader, out var damage);
            if (facts.Width <= 0 || facts.Height <= 0 || facts.Width > MaxSide || facts.Height > MaxSide)
                damage = $"declares {facts.Width} × {facts.Height} pixels";
            if (promised is not null && promised != format)
                damage ??= $"is a {ImageCodecs.Of(format).Name}, not the {ImageCodecs.Of(promised.Value).Name} its name says";
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
        foreach (var codec in ImageCodecs.All)
            if (codec.Knows(head))
                return codec.Format;
        foreach (var codec in ImageCodecs.All)
            if (codec.KnowsByEnd(reader))
                return codec.Format;
        return null;
    }
}
