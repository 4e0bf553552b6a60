using System.Diagnostics;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Scenes;

namespace RootCall.Web.Features.Folders;

/// <summary>What a scene in a folder holds, before it is opened.</summary>
/// <param name="Materials">The first names.</param>
/// <param name="Images">Absolute paths of the first images that lie where they are called.</param>
/// <param name="Called">How many images it calls for.</param>
/// <param name="WhyNot">Why there is no more to say; null when all was read.</param>
internal sealed record ScenePreview(
    string Path,
    string Format,
    int Nodes,
    int Meshes,
    long Triangles,
    int MaterialCount,
    IEnumerable<string> Materials,
    int Called,
    IEnumerable<string> Images,
    string? WhyNot
);

/// <summary>Looks into folders and scenes for somebody who browses: never long, and never outside the server folders.</summary>
internal static class FolderLooks
{
    private const int NamesShown = 12;
    private const int PicturesShown = 6;
    private const int MostFound = 200;
    private const int MostWalked = 200_000;

    /// <summary>A larger file is read when it is opened, by a worker.</summary>
    private const long MostRead = 64_000_000;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(3);

    /// <summary>Reads the scene's own file alone.</summary>
    public static ScenePreview Preview(string path, RootScope scope, CancellationToken stop)
    {
        SceneFormats.Of(path);
        var empty = new ScenePreview(path, SceneFormats.Title(path), 0, 0, 0, 0, [], 0, [], null);
        if (new FileInfo(path).Length > MostRead)
            return empty with { WhyNot = "It is too large to look into before it is opened." };
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(stop);
        patience.CancelAfter(Patience);
        try
        {
            var scene = SceneFormats.Read(path, new(scope, Bounds.Default, Stop: patience.Token) { Alone = true });
            var images = scene.References.Where(r => r.Kind == ReferenceKind.Image).ToList();
            return empty with
            {
                Nodes = scene.Counts.Nodes,
                Meshes = scene.Counts.Meshes,
                Triangles = scene.Counts.Triangles,
                MaterialCount = scene.Materials.Length,
                Materials = scene.Materials.Take(NamesShown).Select(m => m.Name),
                Called = images.Count,
                Images = images
                    .Select(r => WrittenPath.Parse(r.Written).Locate(r.BaseFolder))
                    .OfType<string>()
                    .Where(p => scope.Enter(p) is { } real && File.Exists(real) && ImageCodecs.Promised(real) is not null)
                    .Distinct()
                    .Take(PicturesShown),
            };
        }
        catch (CannotUseException e)
        {
            return empty with { WhyNot = e.Message };
        }
        catch (OperationCanceledException) when (!stop.IsCancellationRequested)
        {
            return empty with { WhyNot = "It takes long to read; it is read whole when it is opened." };
        }
    }

    /// <summary>Everything below a folder whose name has these letters, near ones first; bounded in number and in time.</summary>
    public static IEnumerable<FileSystemInfo> Find(string folder, string letters, RootScope scope, CancellationToken stop)
    {
        var clock = Stopwatch.StartNew();
        var (waiting, walked, found) = (new Queue<DirectoryInfo>([new(folder)]), 0, 0);
        while (waiting.TryDequeue(out var here))
        {
            foreach (var entry in Entries(here, scope))
            {
                stop.ThrowIfCancellationRequested();
                if (++walked > MostWalked || clock.Elapsed > Patience)
                    yield break;
                if (entry.Name.Contains(letters, StringComparison.OrdinalIgnoreCase))
                {
                    yield return entry;
                    if (++found == MostFound)
                        yield break;
                }

                if (entry is DirectoryInfo inner && inner.LinkTarget is null)
                    waiting.Enqueue(inner);
            }
        }
    }

    public static IEnumerable<FileSystemInfo> Entries(DirectoryInfo folder, RootScope scope) =>
        folder
            .EnumerateFileSystemInfos("*", new EnumerationOptions { IgnoreInaccessible = true, AttributesToSkip = 0 })
            .Where(e => !e.Name.StartsWith('.') && (e.LinkTarget is null || scope.Enter(e.FullName) is not null));
}
