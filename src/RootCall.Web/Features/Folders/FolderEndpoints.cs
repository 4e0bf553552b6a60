using Microsoft.EntityFrameworkCore;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Muster;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Web.Features.Pictures;

namespace RootCall.Web.Features.Folders;

/// <summary>A folder on the server: what lies in it, folders first.</summary>
/// <param name="Path">Absolute; empty for the list of server folders.</param>
/// <param name="Parent">The folder above, or empty for the list of server folders; null there.</param>
/// <param name="Crumbs">The folders from the server folder down to this one.</param>
internal sealed record FolderView(string Path, string Name, string? Parent, IEnumerable<Crumb> Crumbs, IEnumerable<FolderEntry> Entries);

internal sealed record Crumb(string Path, string Name);

/// <param name="Kind"><c>folder</c>, <c>scene</c> or <c>file</c>.</param>
/// <param name="Format">Of a scene, as people call it; null for anything else.</param>
/// <param name="Where">The folder it lies in, from the server folder's name on; null where that is plain.</param>
internal sealed record FolderEntry(
    string Path,
    string Name,
    string Kind,
    long Bytes,
    DateTimeOffset? ModifiedAt,
    string? Format,
    string? Where
);

/// <summary>Where somebody has been: folders that scenes were opened from, and the scenes, the last first.</summary>
internal sealed record RecentPlaces(IEnumerable<Crumb> Folders, IEnumerable<FolderEntry> Scenes);

/// <summary>Browsing, which shows only what lies in the server folders.</summary>
internal static class FolderEndpoints
{
    private const int RecentShown = 8;
    private const int LeastLetters = 2;

    public static void MapFolders(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/folders").WithTags("Folders");
        group.MapGet(string.Empty, (string? path, RootStore roots) =>
            TypedResults.Ok(string.IsNullOrEmpty(path) ? Top(roots) : List(Folder(path, roots), roots))
        );
        group.MapGet("/recent", async (RootStore roots, IDbContextFactory<RootCallDb> databases, CancellationToken stop) =>
        {
            await using var db = await databases.CreateDbContextAsync(stop);
            var opened = await db
                .Arrivals.Where(a => !a.Uploaded)
                .GroupBy(a => a.Path)
                .OrderByDescending(g => g.Max(a => a.ArrivedAt))
                .Select(g => g.Key)
                .Take(RecentShown * 4)
                .ToListAsync(stop);
            var scope = Scope(roots);
            var there = opened.Where(p => scope.Enter(p) is not null && File.Exists(p)).Select(p => new FileInfo(p)).ToList();
            return TypedResults.Ok(
                new RecentPlaces(
                    there.Select(f => f.DirectoryName!).Distinct().Take(RecentShown).Select(f => new Crumb(f, Called(f, roots))),
                    there.Take(RecentShown).Select(f => Entry(f) with { Where = Called(f.DirectoryName!, roots) })
                )
            );
        });
        group.MapGet("/find", (string path, string text, RootStore roots, CancellationToken stop) =>
        {
            var from = string.IsNullOrEmpty(path) ? roots.ServerFolders.Select(f => f.Path) : [Folder(path, roots)];
            var scope = Scope(roots);
            return TypedResults.Ok(
                text.Trim() is { Length: >= LeastLetters } letters
                    ? from.SelectMany(f => FolderLooks.Find(f, letters, scope, stop))
                        .Select(e => Entry(e) with { Where = Called(Path.GetDirectoryName(e.FullName)!, roots) })
                        .OrderBy(Order)
                    : Enumerable.Empty<FolderEntry>()
            );
        });
        group.MapGet("/preview", (string path, RootStore roots, CancellationToken stop) =>
        {
            var scope = Scope(roots);
            return scope.Enter(path) is { } real && File.Exists(real)
                ? TypedResults.Ok(FolderLooks.Preview(real, scope, stop))
                : throw Outside(path);
        });
        group
            .MapGet("/picture", (string path, RootStore roots, HttpResponse response, DiskStore disk, PictureRequests pictures) =>
                Scope(roots).Enter(path) is { } real && ImageCodecs.Promised(real) is not null && FileFacts.Stamp(real) is { } stamp
                    ? PictureEndpoints.Of(real, stamp, response, disk, pictures)
                    : throw Outside(path)
            )
            .ExcludeFromDescription();
    }

    private static RootScope Scope(RootStore roots) => new(roots.ServerFolders.Select(f => f.Path));

    private static CannotUseException Outside(string path) => new($"“{path}” is nothing inside the folders that the settings list.");

    private static string Folder(string path, RootStore roots) =>
        Scope(roots).Enter(path) is { } real && Directory.Exists(real)
            ? real
            : throw new CannotUseException($"“{path}” is no folder inside those the settings list.");

    private static FolderView Top(RootStore roots) =>
        new(
            string.Empty,
            "server folders",
            null,
            [],
            roots
                .ServerFolders.Where(f => Directory.Exists(f.Path))
                .Select(f => new FolderEntry(f.Path, f.Name, "folder", 0, null, null, f.Path))
        );

    private static FolderView List(string real, RootStore roots)
    {
        var entries = FolderLooks
            .Entries(new(real), Scope(roots))
            .Select(Entry)
            .OrderBy(Order)
            .ThenBy(e => e.Name, StringComparer.OrdinalIgnoreCase);
        var crumbs = Crumbs(real, roots);
        return new(real, crumbs[^1].Name, crumbs.Count > 1 ? crumbs[^2].Path : string.Empty, crumbs, entries);
    }

    private static List<Crumb> Crumbs(string real, RootStore roots)
    {
        var top = roots.ServerFolders.Where(f => RootScope.IsInside(f.Path, real)).MaxBy(f => f.Path.Length)!;
        var crumbs = new List<Crumb>();
        for (var at = real; at.Length > top.Path.Length; at = Path.GetDirectoryName(at)!)
            crumbs.Insert(0, new(at, Path.GetFileName(at)));
        crumbs.Insert(0, new(top.Path, top.Name));
        return crumbs;
    }

    private static string Called(string folder, RootStore roots) => string.Join('/', Crumbs(folder, roots).Select(c => c.Name));

    private static int Order(FolderEntry entry) =>
        entry.Kind switch
        {
            "folder" => 0,
            "scene" => 1,
            _ => 2,
        };

    private static FolderEntry Entry(FileSystemInfo info) =>
        info is FileInfo file
            ? new(
                file.FullName,
                file.Name,
                SceneFormats.IsScene(file.Name) ? "scene" : "file",
                file.Length,
                new(file.LastWriteTimeUtc, TimeSpan.Zero),
                SceneFormats.IsScene(file.Name) ? SceneFormats.Title(file.Name) : null,
                null
            )
            : new(info.FullName, info.Name, "folder", 0, new(info.LastWriteTimeUtc, TimeSpan.Zero), null, null);
}
