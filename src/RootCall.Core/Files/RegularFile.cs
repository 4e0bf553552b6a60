namespace RootCall.Core.Files;

/// <summary>
/// Opens files for reading. What has no size is not opened: a pipe or a device has none, and opening one can wait for ever; an
/// empty file holds nothing to read anyway.
/// </summary>
public static class RegularFile
{
    /// <exception cref="CannotUseException">It is empty, a pipe or a device.</exception>
    /// <exception cref="IOException">It cannot be opened.</exception>
    public static FileStream Open(string path)
    {
        if (IsEmpty(path))
            throw new CannotUseException($"“{Path.GetFileName(path)}” is empty, or no regular file; nothing was read.");
        return File.OpenRead(path);
    }

    /// <exception cref="CannotUseException">It is empty, a pipe or a device, or larger than <paramref name="most"/>.</exception>
    /// <exception cref="IOException">It cannot be opened.</exception>
    public static byte[] Bytes(string path, long most)
    {
        using var stream = Open(path);
        return Bytes(stream, path, most);
    }

    /// <param name="path">What the stream is called in a message.</param>
    /// <exception cref="CannotUseException">It is larger than <paramref name="most"/>.</exception>
    public static byte[] Bytes(FileStream stream, string path, long most)
    {
        if (stream.Length > Math.Min(Array.MaxLength, most))
            throw new CannotUseException(
                FormattableString.Invariant($"“{Path.GetFileName(path)}” has {stream.Length:N0} bytes; at most {most:N0} are read.")
            );
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return bytes;
    }

    /// <summary>Whether there is a file, or what a link leads to, without any contents that could be read.</summary>
    public static bool IsEmpty(string path)
    {
        var info = new FileInfo(path);
        if (info is { Exists: true, LinkTarget: not null } && info.ResolveLinkTarget(returnFinalTarget: true) is FileInfo target)
            info = target;
        return info is { Exists: true, Length: 0 };
    }
}
