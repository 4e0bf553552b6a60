namespace RootCall.Core.Files;

/// <summary>
/// Writes a file or a folder beside its final place and moves it there when it is complete, so that a crash, a full
/// disk or a cancel leaves nothing half-written under the name people look for.
/// </summary>
public static class WholeOrNothing
{
    public static void File(string path, Action<Stream> write) => File(path, write, canBeMadeAgain: false);

    /// <summary>
    /// A file that can be made again: it takes the place of one that is there, and nobody waits until the disk has it.
    /// </summary>
    public static void Cached(string path, ReadOnlyMemory<byte> bytes) => File(path, s => s.Write(bytes.Span), canBeMadeAgain: true);

    /// <summary>The same, for one that is written piece by piece.</summary>
    public static void CachedPieces(string path, Action<Stream> write) => File(path, write, canBeMadeAgain: true);

    private static void File(string path, Action<Stream> write, bool canBeMadeAgain)
    {
        var part = PartName(path);
        try
        {
            using (var stream = new FileStream(part, FileMode.CreateNew, FileAccess.ReadWrite))
            {
                write(stream);
                stream.Flush(flushToDisk: !canBeMadeAgain);
            }

            System.IO.File.Move(part, path, overwrite: canBeMadeAgain);
        }
        finally
        {
            System.IO.File.Delete(part);
        }
    }

    public static void Folder(string path, Action<string> write)
    {
        var part = PartName(path);
        try
        {
            Directory.CreateDirectory(part);
            write(part);
            // An empty folder of that name was made by the caller to be filled: it gives way.
            if (Directory.Exists(path))
                Directory.Delete(path);
            Directory.Move(part, path);
        }
        finally
        {
            if (Directory.Exists(part))
                Directory.Delete(part, recursive: true);
        }
    }

    private static string PartName(string path)
    {
        var folder = Path.GetDirectoryName(Path.GetFullPath(path))!;
        Directory.CreateDirectory(folder);
        return Path.Combine(folder, $".{Path.GetFileName(path)}.{Guid.NewGuid():N}.part");
    }
}
