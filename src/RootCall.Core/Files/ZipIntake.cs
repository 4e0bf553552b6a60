using System.IO.Compression;
using System.IO.Hashing;
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
            var names = new DeliveredNames("zip");
            var targets = archive.Entries.Select(e => Path.Combine(folder, Check(e, names))).ToList();
            var left = bounds.UnpackedBytes;
            var done = 0;
            foreach (var (entry, target) in archive.Entries.Zip(targets))
            {
                stop.ThrowIfCancellationRequested();
                progress?.Invoke(++done, archive.Entries.Count, entry.Name);
                if (DeliveredNames.IsFolder(entry.FullName))
                {
                    Directory.CreateDirectory(target);
                    continue;
                }

                Directory.CreateDirectory(Path.GetDirectoryName(target)!);
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

    /// <returns>The entry's name.</returns>
    private static string Check(ZipArchiveEntry entry, DeliveredNames names)
    {
        if (entry.IsEncrypted)
            throw new CannotUseException($"“{entry.FullName}” in the zip is encrypted; pack it without a password. Nothing was kept.");
        if (((entry.ExternalAttributes >> 16) & UnixKind) == UnixLink)
            throw new CannotUseException($"The zip holds a link, “{entry.FullName}”; links are not taken. Nothing was kept.");
        return names.Add(entry.FullName);
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
