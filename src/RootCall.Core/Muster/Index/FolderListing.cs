using System.IO.Enumeration;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>
/// What lies in one folder, as it was listed: the unit an index is kept and brought up to date in. Files stand in columns,
/// so that a million of them are a few thousand objects.
/// </summary>
/// <param name="Path">Absolute, without links.</param>
/// <param name="ModifiedUtc">Time of the folder itself: it changes when a name comes or goes.</param>
/// <param name="Names">File names, in the order of the other two columns.</param>
/// <param name="Sizes">Bytes.</param>
/// <param name="Times">Last change of each file in ticks, UTC.</param>
/// <param name="Folders">Names of subfolders; links to folders are not among them.</param>
public sealed record FolderListing(string Path, DateTime ModifiedUtc, string[] Names, long[] Sizes, long[] Times, string[] Folders)
{
    /// <summary>Names that begin with a dot are passed over.</summary>
    /// <param name="scope">Links are kept only when they lead to somewhere inside it.</param>
    /// <param name="note">Takes what was left out, in a sentence.</param>
    /// <returns>Null when the folder cannot be listed, which is noted.</returns>
    internal static FolderListing? Read(string path, RootScope scope, Action<string> note)
    {
        var (names, sizes, times, folders) = (new List<string>(), new List<long>(), new List<long>(), new List<string>());
        try
        {
            // Its time is asked first: a name that comes while it is listed makes it newer than this.
            var modified = Directory.GetLastWriteTimeUtc(path);
            foreach (var entry in Entries(path))
            {
                if (entry.Name.Contains('\uFFFD', StringComparison.Ordinal))
                {
                    note($"{path} has a name in an encoding that is not UTF-8, “{entry.Name}”; it was left out.");
                }
                else if (entry.IsLink)
                {
                    AddLink(System.IO.Path.Combine(path, entry.Name), entry);
                }
                else if (entry.IsFolder)
                {
                    folders.Add(entry.Name);
                }
                else if (entry.Ticks != Vanished)
                {
                    Add(entry.Name, entry.Bytes, entry.Ticks);
                }
            }

            return new(path, modified, [.. names], [.. sizes], [.. times], [.. folders]);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            note($"{path} could not be listed: {e.Message}");
            return null;
        }

        void Add(string name, long bytes, long ticks)
        {
            names.Add(name);
            sizes.Add(bytes);
            times.Add(ticks);
        }

        void AddLink(string link, Entry entry)
        {
            if (entry.IsFolder)
                note($"{link} is a link to a folder; it was not followed, which also ends loops.");
            else if (scope.Enter(link) is not { } real)
                note($"{link} is a link that leads out of the roots; it was not followed.");
            else if (FileFacts.Stamp(real) is { } stamp)
                Add(entry.Name, stamp.Bytes, stamp.ModifiedUtc.Ticks);
        }
    }

    /// <summary>The same folder with the same contents.</summary>
    internal bool Agrees(FolderListing other) =>
        ModifiedUtc == other.ModifiedUtc
        && Names.AsSpan().SequenceEqual(other.Names)
        && Sizes.AsSpan().SequenceEqual(other.Sizes)
        && Times.AsSpan().SequenceEqual(other.Times)
        && Folders.AsSpan().SequenceEqual(other.Folders);

    /// <summary>What the system answers for a file that went away between being named and being asked about.</summary>
    private static readonly long Vanished = DateTime.FromFileTimeUtc(0).Ticks;

    private readonly record struct Entry(string Name, bool IsFolder, bool IsLink, long Bytes, long Ticks);

    private static FileSystemEnumerable<Entry> Entries(string folder) =>
        new(
            folder,
            static (ref FileSystemEntry e) =>
            {
                var isFolder = e.IsDirectory;
                var isLink = e.Attributes.HasFlag(FileAttributes.ReparsePoint);
                return isFolder
                    ? new(e.FileName.ToString(), true, isLink, 0, 0)
                    : new(e.FileName.ToString(), false, isLink, e.Length, e.LastWriteTimeUtc.Ticks);
            },
            new EnumerationOptions { AttributesToSkip = 0, IgnoreInaccessible = false }
        )
        {
            ShouldIncludePredicate = static (ref FileSystemEntry e) => !e.FileName.StartsWith('.'),
        };
}
