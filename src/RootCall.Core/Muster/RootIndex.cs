using System.Collections.Immutable;
using System.IO.Enumeration;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>A file under a root.</summary>
/// <param name="Path">Absolute path without links.</param>
public sealed record IndexedFile(string Path, FileName Name, FileStamp Stamp)
{
    public string Folder => System.IO.Path.GetDirectoryName(Path)!;
}

/// <summary>
/// Every file under some folders, listed once and answered from memory: by name without case, and by the part of the
/// name that stays when resolution, version and role spelling change.
/// </summary>
public sealed class RootIndex
{
    private readonly ILookup<string, IndexedFile> byName;
    private readonly ILookup<string, IndexedFile> byCore;

    private RootIndex(List<IndexedFile> files, ImmutableArray<string> notes)
    {
        Count = files.Count;
        Notes = notes;
        byName = files.ToLookup(f => f.Name.Folded, StringComparer.Ordinal);
        byCore = files.ToLookup(f => f.Name.Core, StringComparer.Ordinal);
    }

    public int Count { get; }

    /// <summary>Folders that could not be read, links that were not followed.</summary>
    public ImmutableArray<string> Notes { get; }

    public IEnumerable<IndexedFile> Named(FileName name) => byName[name.Folded];

    public IEnumerable<IndexedFile> Alike(FileName name) => byCore[name.Core];

    /// <summary>Lists the folders with all their subfolders. Names that begin with a dot are passed over.</summary>
    /// <param name="scope">Folders that are listed; a folder inside another one is listed once.</param>
    /// <param name="progress">Called now and then with the number of files so far and the folder in hand.</param>
    public static RootIndex Build(RootScope scope, Action<int, string>? progress = null, CancellationToken stop = default)
    {
        var files = new List<IndexedFile>();
        var notes = ImmutableArray.CreateBuilder<string>();
        var folders = new Stack<string>(scope.Folders.Where(f => !scope.Folders.Any(o => o != f && RootScope.IsInside(o, f))).Reverse());
        while (folders.TryPop(out var folder))
        {
            stop.ThrowIfCancellationRequested();
            try
            {
                foreach (var (path, isFolder, isLink, stamp) in Entries(folder))
                {
                    if (isFolder && !isLink) folders.Push(path);
                    else if (isLink && scope.Enter(path) is null) notes.Add($"{path} is a link that leads out of the roots; it was not followed.");
                    else if (!isFolder) files.Add(new(path, FileName.Of(Path.GetFileName(path)), isLink ? FileFacts.Stamp(path) ?? stamp : stamp));
                    if ((files.Count & 0x3FF) == 0) progress?.Invoke(files.Count, folder);
                }
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                notes.Add($"{folder} could not be listed: {e.Message}");
            }
        }

        return new(files, notes.ToImmutable());
    }

    private static FileSystemEnumerable<(string Path, bool IsFolder, bool IsLink, FileStamp Stamp)> Entries(string folder) =>
        new(
            folder,
            (ref FileSystemEntry e) => (e.ToFullPath(), e.IsDirectory, e.Attributes.HasFlag(FileAttributes.ReparsePoint), new(e.Length, e.LastWriteTimeUtc.UtcDateTime)),
            new EnumerationOptions { AttributesToSkip = 0, IgnoreInaccessible = false })
        {
            ShouldIncludePredicate = (ref FileSystemEntry e) => !e.FileName.StartsWith('.'),
        };
}
