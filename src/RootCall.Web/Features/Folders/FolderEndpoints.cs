using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Data.Stores;

namespace RootCall.Web.Features.Folders;

/// <summary>A folder on the server: what lies in it, folders first.</summary>
/// <param name="Path">Absolute; empty for the list of server folders.</param>
/// <param name="Parent">The folder above, or empty for the list of server folders; null there.</param>
internal sealed record FolderView(string Path, string Name, string? Parent, IEnumerable<FolderEntry> Entries);

/// <param name="Kind"><c>folder</c>, <c>scene</c> or <c>file</c>.</param>
internal sealed record FolderEntry(string Path, string Name, string Kind, long Bytes, DateTimeOffset? ModifiedAt);

/// <summary>Browsing, which shows only what lies in the server folders.</summary>
internal static class FolderEndpoints
{
    public static void MapFolders(this IEndpointRouteBuilder api)
    {
        api.MapGet("/folders", (string? path, RootStore roots) =>
                TypedResults.Ok(string.IsNullOrEmpty(path) ? Top(roots) : List(path, roots))
            )
            .WithTags("Folders");
    }

    private static FolderView Top(RootStore roots) =>
        new(
            string.Empty,
            "server folders",
            null,
            roots.ServerFolders.Where(f => Directory.Exists(f.Path)).Select(f => new FolderEntry(f.Path, f.Name, "folder", 0, null))
        );

    private static FolderView List(string path, RootStore roots)
    {
        var scope = new RootScope(roots.ServerFolders.Select(f => f.Path));
        if (scope.Enter(path) is not { } real || !Directory.Exists(real))
            throw new CannotUseException($"“{path}” is no folder inside those the settings list.");
        var entries = new DirectoryInfo(real)
            .EnumerateFileSystemInfos()
            .Where(e => !e.Name.StartsWith('.') && (e.LinkTarget is null || scope.Enter(e.FullName) is not null))
            .Select(Entry)
            .OrderBy(e =>
                e.Kind == "folder" ? 0
                : e.Kind == "scene" ? 1
                : 2
            )
            .ThenBy(e => e.Name, StringComparer.OrdinalIgnoreCase);
        var isTop = roots.ServerFolders.FirstOrDefault(f => f.Path == real);
        return new(real, isTop?.Name ?? Path.GetFileName(real), isTop is null ? Path.GetDirectoryName(real) : string.Empty, entries);
    }

    private static FolderEntry Entry(FileSystemInfo info) =>
        info is FileInfo file
            ? new(
                file.FullName,
                file.Name,
                SceneFormats.IsScene(file.Name) ? "scene" : "file",
                file.Length,
                new(file.LastWriteTimeUtc, TimeSpan.Zero)
            )
            : new(info.FullName, info.Name, "folder", 0, new(info.LastWriteTimeUtc, TimeSpan.Zero));
}
