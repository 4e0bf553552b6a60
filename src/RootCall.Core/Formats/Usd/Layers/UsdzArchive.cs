using System.Buffers.Binary;
using System.Text;
using RootCall.Core.Files;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd.Layers;

/// <summary>A file in an archive.</summary>
/// <param name="Start">Byte offset of its contents in the archive.</param>
public sealed record UsdzEntry(string Name, long Start, long Length);

/// <summary>
/// A package of USD (USDZ file format specification 1.3): a zip whose files are stored, not deflated, each aligned to 64
/// bytes; the first file is the layer that is opened.
/// </summary>
public sealed class UsdzArchive
{
    public const int Alignment = 64;
    private const uint LocalHeader = 0x04034b50;
    private const uint CentralHeader = 0x02014b50;
    private const uint EndHeader = 0x06054b50;

    private UsdzArchive(IReadOnlyList<UsdzEntry> entries) => Entries = entries;

    /// <summary>In the order of the archive.</summary>
    public IReadOnlyList<UsdzEntry> Entries { get; }

    public UsdzEntry? Find(string name) => Entries.FirstOrDefault(e => e.Name == name);

    public static bool IsZip(ReadOnlySpan<byte> bytes) =>
        bytes.Length >= 4 && BinaryPrimitives.ReadUInt32LittleEndian(bytes) == LocalHeader;

    /// <exception cref="CannotUseException">Not a zip, or its directory is not there.</exception>
    public static UsdzArchive Read(ReadOnlySpan<byte> zip, string name, ICollection<string> errors)
    {
        var end = -1;
        for (var i = zip.Length - 22; i >= 0 && i > zip.Length - 66_000; i--)
        {
            if (BinaryPrimitives.ReadUInt32LittleEndian(zip[i..]) != EndHeader)
                continue;
            end = i;
            break;
        }

        if (end < 0)
            throw new CannotUseException($"“{name}” is no whole USDZ: the directory that ends a zip is not there.");
        var count = BinaryPrimitives.ReadUInt16LittleEndian(zip[(end + 10)..]);
        long at = BinaryPrimitives.ReadUInt32LittleEndian(zip[(end + 16)..]);
        var entries = new List<UsdzEntry>();
        for (var n = 0; n < count; n++)
        {
            if (at + 46 > zip.Length || BinaryPrimitives.ReadUInt32LittleEndian(zip[(int)at..]) != CentralHeader)
            {
                errors.Add(
                    Invariant(
                        $"The directory of the archive breaks off at byte {at:N0}; {entries.Count:N0} of {count:N0} files were found."
                    )
                );
                break;
            }

            var header = zip[(int)at..];
            var method = BinaryPrimitives.ReadUInt16LittleEndian(header[10..]);
            long length = BinaryPrimitives.ReadUInt32LittleEndian(header[24..]);
            int nameLength = BinaryPrimitives.ReadUInt16LittleEndian(header[28..]),
                extra = BinaryPrimitives.ReadUInt16LittleEndian(header[30..]),
                comment = BinaryPrimitives.ReadUInt16LittleEndian(header[32..]);
            long local = BinaryPrimitives.ReadUInt32LittleEndian(header[42..]);
            if (at + 46 + nameLength > zip.Length)
                break;
            var entry = Encoding.UTF8.GetString(header.Slice(46, nameLength));
            at += 46 + nameLength + extra + comment;
            if (local + 30 > zip.Length || BinaryPrimitives.ReadUInt32LittleEndian(zip[(int)local..]) != LocalHeader)
            {
                errors.Add(Invariant($"{entry}: its header at byte {local:N0} is not there; it was left out."));
                continue;
            }

            var start =
                local
                + 30
                + BinaryPrimitives.ReadUInt16LittleEndian(zip[(int)(local + 26)..])
                + BinaryPrimitives.ReadUInt16LittleEndian(zip[(int)(local + 28)..]);
            if (entry.EndsWith('/'))
                continue;
            if (method != 0)
                errors.Add($"{entry} is deflated; a USDZ stores its files. It was left out.");
            else if (start + length > zip.Length)
                errors.Add(Invariant($"{entry} reaches past the end of the archive, at byte {start:N0}; it was left out."));
            else
            {
                if (start % Alignment != 0)
                    errors.Add(Invariant($"{entry} begins at byte {start:N0}, which is no multiple of 64."));
                entries.Add(new(entry, start, length));
            }
        }

        return new(entries);
    }
}
