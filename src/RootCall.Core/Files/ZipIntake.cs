using System.IO.Compression;
using System.IO.Hashing;
using System.Text;
using static System.FormattableString;

namespace RootCall.Core.Files;

/// <summary>
/// Unpacks a delivery. Names that climb out (<c>..</c>), are absolute, carry a drive letter or are links refuse the
/// whole archive: such a zip was made to do harm or is broken, and half of it is of no use.
/// </summary>
public static class ZipIntake
{
    private const int UnixLink = 0xA000;
    private const int UnixKind = 0xF000;

    /// <param name="zip">Path of the archive.</param>
    /// <param name="folder">Existing empty folder that receives the files.</param>
    /// <param name="progress">Called with the files done, the files in all and the name in hand.</param>
    /// <exception cref="CannotUseException">Not a zip, past a bound, or a name that leads out.</exception>
    public static void Unpack(
        string zip,
        string folder,
        Bounds bounds,
        Action<int, int, string>? progress = null,
        CancellationToken stop = default
    )
    {
        try
        {
            using var archive = new ZipArchive(RegularFile.Open(zip), ZipArchiveMode.Read);
            if (archive.Entries.Count > bounds.Entries)
                throw new CannotUseException(
                    Invariant($"The zip holds {archive.Entries.Count:N0} entries; at most {bounds.Entries:N0} are taken. Nothing was kept.")
                );

            // Every name is checked before the first byte is written.
            foreach (var entry in archive.Entries)
                Check(entry);
            CheckFolders(archive);
            var left = bounds.UnpackedBytes;
            var done = 0;
            foreach (var entry in archive.Entries)
            {
                stop.ThrowIfCancellationRequested();
                var target = Path.Combine(folder, PortableName(entry.FullName));
                progress?.Invoke(++done, archive.Entries.Count, entry.Name);
                if (entry.FullName.EndsWith('/') || entry.FullName.EndsWith('\\'))
                {
                    Directory.CreateDirectory(target);
                    continue;
                }

                Directory.CreateDirectory(Path.GetDirectoryName(target)!);
                if (File.Exists(target))
                    throw new CannotUseException($"The zip holds “{entry.FullName}” twice. Nothing was kept.");
                using var from = entry.Open();
                using var to = new FileStream(target, FileMode.CreateNew);
                var sum = new Crc32();
                left -= CopyBounded(from, to, sum, left, bounds, stop);
                to.Close();
                if (sum.GetCurrentHashAsUInt32() != entry.Crc32)
                    throw new CannotUseException(
                        $"“{entry.FullName}” in the zip is damaged: its checksum is another than the zip says. Nothing was kept."
                    );
                File.SetLastWriteTimeUtc(target, entry.LastWriteTime.UtcDateTime);
            }
        }
        catch (InvalidDataException e)
        {
            throw new CannotUseException($"“{Path.GetFileName(zip)}” is not a zip that can be read: {e.Message} Nothing was kept.", e);
        }
    }

    /// <summary>Refuses a relative name that would leave the folder it is unpacked into.</summary>
    public static string PortableName(string name)
    {
        var path = name.Replace('\\', '/').TrimEnd('/');
        var parts = path.Split('/');
        var bad =
            path.Length == 0
            || path.Length > 4096
            || path.Contains('\0', StringComparison.Ordinal)
            || path[0] == '/'
            || (path.Length > 1 && path[1] == ':' && char.IsAsciiLetter(path[0]))
            || parts.Any(p => p is "" or "." or "..");
        if (!bad && parts.FirstOrDefault(p => Encoding.UTF8.GetByteCount(p) > 255) is { } longest)
            throw new CannotUseException($"The delivery has a name of more than 255 bytes, “{longest[..60]}…”. Nothing was kept.");
        return bad
            ? throw new CannotUseException($"The delivery names “{name}”, which leads out of its own folder. Nothing was kept.")
            : path;
    }

    private static void Check(ZipArchiveEntry entry)
    {
        PortableName(entry.FullName);
        if (entry.IsEncrypted)
            throw new CannotUseException($"“{entry.FullName}” in the zip is encrypted; pack it without a password. Nothing was kept.");
        if (((entry.ExternalAttributes >> 16) & UnixKind) == UnixLink)
            throw new CannotUseException($"The zip holds a link, “{entry.FullName}”; links are not taken. Nothing was kept.");
    }

    /// <summary>A file cannot be a folder as well.</summary>
    private static void CheckFolders(ZipArchive archive)
    {
        var names = archive.Entries.Where(e => e.Name.Length > 0).Select(e => PortableName(e.FullName)).ToHashSet(StringComparer.Ordinal);
        foreach (var name in names)
            for (var cut = name.LastIndexOf('/'); cut > 0; cut = name.LastIndexOf('/', cut - 1))
                if (names.Contains(name[..cut]))
                    throw new CannotUseException($"The zip holds a file “{name[..cut]}” and “{name}” in it. Nothing was kept.");
    }

    private static long CopyBounded(Stream from, Stream to, Crc32 sum, long left, Bounds bounds, CancellationToken stop)
    {
        // The declared length can lie, so the bound is held on what is really written.
        var buffer = new byte[1 << 17];
        var total = 0L;
        int read;
        while ((read = from.Read(buffer)) > 0)
        {
            stop.ThrowIfCancellationRequested();
            total += read;
            if (total > left)
                throw new CannotUseException(Invariant($"The zip unpacks to more than {bounds.UnpackedBytes:N0} bytes. Nothing was kept."));
            to.Write(buffer, 0, read);
            sum.Append(buffer.AsSpan(0, read));
        }

        return total;
    }
}
