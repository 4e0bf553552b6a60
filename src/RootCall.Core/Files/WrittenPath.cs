using System.Collections.Immutable;

namespace RootCall.Core.Files;

/// <summary>Where a written path starts from.</summary>
public enum PathOrigin
{
    /// <summary>From the folder of the file that writes it.</summary>
    Relative,

    /// <summary>From this system's top folder.</summary>
    Absolute,

    /// <summary>From another system's drive (<c>D:\</c>) or share (<c>\\server\share</c>).</summary>
    Foreign,

    /// <summary>From a network address. Never fetched.</summary>
    Remote,
}

/// <summary>A path as some program wrote it, taken apart without asking a disk.</summary>
/// <param name="Written">The text as it stands.</param>
/// <param name="Origin">Where it starts from.</param>
/// <param name="Prefix">
/// What stands before the first folder: <c>D:</c>, <c>//server/share</c>, <c>/</c>, <c>https://host</c>, or nothing.
/// </param>
/// <param name="Segments">Folders and the file name; backslashes split like slashes, single dots are gone, <c>..</c> stays.</param>
public sealed record WrittenPath(string Written, PathOrigin Origin, string Prefix, ImmutableArray<string> Segments)
{
    private static readonly string[] TransientNames =
    [
        "downloads",
        "download",
        "desktop",
        "temp",
        "tmp",
        "recycle.bin",
        "$recycle.bin",
        "trash",
    ];

    /// <summary>No file has a longer path (PATH_MAX, POSIX limits.h, as Linux has it); of one that is only the name is kept.</summary>
    private const int Longest = 4096;

    public string FileName => Segments.Length > 0 ? Segments[^1] : string.Empty;

    /// <summary>The folder as text with slashes: <c>D:/jobs/2231/tex</c>, or <c>.</c> for the scene's own.</summary>
    public string Folder => Join(Segments.Length - 1);

    /// <summary>Lies in a place that gets emptied: downloads, desktop, temp.</summary>
    public bool IsTransient => Segments.SkipLast(1).Any(s => TransientNames.Contains(s, StringComparer.OrdinalIgnoreCase));

    /// <summary>The first <paramref name="count"/> segments with the prefix.</summary>
    public string Join(int count)
    {
        var path = string.Join('/', Segments.Take(Math.Max(0, count)));
        return Origin switch
        {
            PathOrigin.Relative => path.Length == 0 ? "." : path,
            PathOrigin.Absolute => "/" + path,
            _ => path.Length == 0 ? Prefix : $"{Prefix}/{path}",
        };
    }

    public static WrittenPath Parse(string written)
    {
        var text = written.Trim();
        if (text.StartsWith("file:", StringComparison.OrdinalIgnoreCase))
            text = FileUri(text);
        var scheme = text.IndexOf("://", StringComparison.Ordinal);
        if (scheme > 1 && text[..scheme].All(c => char.IsAsciiLetterOrDigit(c) || c is '+' or '-' or '.'))
        {
            var host = text.IndexOf('/', scheme + 3);
            return new(written, PathOrigin.Remote, host < 0 ? text : text[..host], Split(host < 0 ? string.Empty : text[host..]));
        }

        var slashed = text.Replace('\\', '/');
        if (slashed.Length >= 2 && char.IsAsciiLetter(slashed[0]) && slashed[1] == ':')
            return new(written, PathOrigin.Foreign, slashed[..2], Split(slashed[2..]));
        if (slashed.StartsWith("//", StringComparison.Ordinal))
        {
            var parts = Split(slashed);
            return new(written, PathOrigin.Foreign, "//" + string.Join('/', parts.Take(2)), [.. parts.Skip(2)]);
        }

        return slashed.StartsWith('/')
            ? new(written, PathOrigin.Absolute, "/", Split(slashed))
            : new(written, PathOrigin.Relative, string.Empty, Split(slashed));
    }

    /// <summary>The place on this system where the path points, or null for another system's and remote ones.</summary>
    public string? Locate(string baseFolder)
    {
        // A zero character can be written in JSON, but never names a file.
        var isName = Segments.Length > 0 && !Segments.Any(s => s.Contains('\0', StringComparison.Ordinal));
        if (Origin is PathOrigin.Foreign or PathOrigin.Remote || !isName || Written.Length > Longest)
            return null;
        var literal = Origin == PathOrigin.Relative ? Path.Combine(baseFolder, Written.Trim()) : null;

        // On this system a backslash may be part of a name: what is written wins over what is meant.
        if (literal is not null && Written.Contains('\\', StringComparison.Ordinal) && File.Exists(literal))
            return Path.GetFullPath(literal);
        return Path.GetFullPath(Path.Combine(baseFolder, Join(Segments.Length)));
    }

    /// <summary>Reasons why the path would not survive on another system; empty when it would.</summary>
    public bool IsPortable => Written.Length <= 255 && Composition.IsComposed(Written) && Segments.All(PortableName.IsPortable);

    private static ImmutableArray<string> Split(string path)
    {
        if (path.Length > Longest)
            return Path.GetFileName(path) is { Length: > 0 and <= 255 } name ? [name] : [];
        // Tens of thousands of paths are taken apart for one muster, so this counts first and copies nothing twice.
        var count = 0;
        foreach (var part in path.AsSpan().Split('/'))
            if (IsSegment(path.AsSpan(part)))
                count++;
        var segments = ImmutableArray.CreateBuilder<string>(count);
        foreach (var part in path.AsSpan().Split('/'))
            if (IsSegment(path.AsSpan(part)))
                segments.Add(path[part]);
        return segments.MoveToImmutable();
    }

    private static bool IsSegment(ReadOnlySpan<char> part) => part.Length > 0 && part is not ".";

    private static string FileUri(string uri)
    {
        var path = Uri.UnescapeDataString(uri[5..]);
        if (path.StartsWith("///", StringComparison.Ordinal))
            path = path[2..];
        // file:///D:/x is a drive, not a folder called "D:".
        return path.Length > 2 && path[0] == '/' && path[2] == ':' ? path[1..] : path;
    }
}
