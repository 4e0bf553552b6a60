using System.Collections.Concurrent;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>
/// Lets paths into the roots, as <see cref="RootScope.Enter"/> does, for thousands of files at once: the links on the way
/// are followed once for each folder. Lives as long as one muster, so that it never answers from an older state of the disk.
/// </summary>
internal sealed class RootDoor(RootScope scope)
{
    private readonly ConcurrentDictionary<string, string?> folders = new(StringComparer.Ordinal);

    /// <returns>Null when the path leads out of the roots; a null stamp when no file is there.</returns>
    public (string Real, FileStamp? Stamp)? Enter(string path)
    {
        if (Folder(path) is not { } folder)
            return null;
        var info = new FileInfo(Path.Join(folder, Path.GetFileName(path.AsSpan())));
        if (!info.Exists)
            return (info.FullName, null);
        if (!info.Attributes.HasFlag(FileAttributes.ReparsePoint))
            return (info.FullName, new(info.Length, info.LastWriteTimeUtc));
        return scope.Enter(info.FullName) is { } real ? (real, FileFacts.Stamp(real)) : null;
    }

    private string? Folder(string path) => Real(Path.GetDirectoryName(path) ?? "/");

    /// <summary>A folder's real path: its parent's, and one look at whether the folder itself is a link.</summary>
    private string? Real(string folder)
    {
        if (folders.TryGetValue(folder, out var known))
            return known;
        string? real;
        var parent = Path.GetDirectoryName(folder);
        if (parent is null || !scope.Covers(parent) || Real(parent) is not { } above)
            real = scope.Enter(folder);
        else
        {
            var path = Path.Join(above, Path.GetFileName(folder));
            real =
                new DirectoryInfo(path) is { Exists: true } info && !info.Attributes.HasFlag(FileAttributes.ReparsePoint)
                    ? path
                    : scope.Enter(path);
        }

        return folders[folder] = real;
    }
}
