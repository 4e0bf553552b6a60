namespace RootCall.Core.Formats;

/// <summary>
/// What files were parsed into, for scenes that are read one after the other and share files: a library of layers in a delivery is
/// parsed once, however many scenes call it. Bounded by the files' bytes; for one thread at a time.
/// </summary>
public sealed class ParsedFiles
{
    private const long MostBytes = 256L << 20;
    private readonly Dictionary<(string Path, DateTime Modified, long Bytes), object> parsed = [];
    private long held;

    /// <param name="bytes">The file's bytes, which what is parsed may hold on to.</param>
    public T Get<T>(string path, long bytes, Func<T> parse)
        where T : class
    {
        var key = (path, File.GetLastWriteTimeUtc(path), bytes);
        if (parsed.TryGetValue(key, out var known) && known is T there)
            return there;
        var made = parse();
        if (held + bytes <= MostBytes && parsed.TryAdd(key, made))
            held += bytes;
        return made;
    }
}
