using System.Security.Cryptography;
using System.Text;
using Microsoft.Extensions.Options;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Viewing;

namespace RootCall.Data.Stores;

/// <summary>
/// The folder tree under the data folder: <c>incoming</c> (uploads being received), <c>blobs</c> (contents by SHA-256),
/// <c>arrivals</c> and <c>added</c> (trees of uploaded scenes, and of textures for them, hard-linked to blobs),
/// <c>pictures</c> (thumbnails), <c>planes</c> (images pixel by pixel),
/// <c>swatches</c> (of materials), <c>looks</c> (in numbers), <c>crossings</c>
/// (how far they move looks), <c>frames</c> (of scenes),
/// <c>packages</c>, <c>copies</c> (to be fetched), <c>edited</c> (own files with a ledger's edits made),
/// <c>extracted</c> (images taken out of scenes, or baked for them), <c>stand-ins</c>, and <c>work</c> (what a task needs
/// only while it runs).
/// </summary>
public sealed class DiskStore : IPictureStore, IStorePlaces
{
    public DiskStore(IOptions<DataOptions> options)
    {
        ColourPrint = options.Value.Colours.Print;
        Folder = RootScope.RealPath(Path.Combine(options.Value.Data, "store"));
        foreach (
            var part in new[]
            {
                "incoming",
                "blobs",
                "arrivals",
                "added",
                "pictures",
                "packages",
                "copies",
                "edited",
                "extracted",
                "stand-ins",
                "swatches",
                "frames",
                "crossings",
                "looks",
                "planes",
                "work",
            }
        )
            Directory.CreateDirectory(Path.Combine(Folder, part));
    }

    public string Folder { get; }

    public string Incoming(Guid id) => Path.Combine(Folder, "incoming", id.ToString("N"));

    public string Arrival(Guid id) => Path.Combine(Folder, "arrivals", id.ToString("N"));

    public string Edited(Guid sceneId) => Path.Combine(Folder, "edited", sceneId.ToString("N"));

    public string Added(Guid sceneId) => Path.Combine(Folder, "added", sceneId.ToString("N"));

    public string Extracted(Guid sceneId) => Path.Combine(Folder, "extracted", sceneId.ToString("N"));

    public string ToFetch(Guid sceneId, Guid job) => Path.Combine(CopiesOf(sceneId), job.ToString("N"));

    /// <summary>Copies of a scene that wait to be fetched.</summary>
    public string CopiesOf(Guid sceneId) => Path.Combine(Folder, "copies", sceneId.ToString("N"));

    /// <summary>Neutral pictures that stand in for missing ones.</summary>
    public string StandIns => Path.Combine(Folder, "stand-ins");

    /// <param name="token">Of the attempt that builds it, so that no other attempt touches it.</param>
    public string Package(Guid token, string name) => Path.Combine(Folder, "packages", token.ToString("N"), name);

    /// <summary>What an attempt at a task needs only while it runs.</summary>
    public string Work(Guid token) => Path.Combine(Folder, "work", token.ToString("N"));

    /// <summary>What is needed only for a moment, by no task.</summary>
    public string Moment => Path.Combine(Folder, "work", "moments");

    /// <summary>A sentence without the places of the store: they are nobody's business.</summary>
    public string Unnamed(string sentence) => sentence.Replace(Folder, "store", StringComparison.Ordinal);

    /// <summary>Where the blob of that hash lies or belongs.</summary>
    public string Blob(string sha256) => Path.Combine(Folder, "blobs", sha256[..2], sha256);

    /// <summary>Where the thumbnail of a file in that state lies or belongs: another size or time is another picture.</summary>
    public string Picture(string path, FileStamp stamp, int side)
    {
        var key = Convert.ToHexStringLower(
            SHA256.HashData(Encoding.UTF8.GetBytes($"{path}\n{stamp.Bytes}\n{stamp.ModifiedUtc.Ticks}\n{side}"))
        )[..32];
        return Path.Combine(Folder, "pictures", key[..2], key + ".png");
    }

    /// <summary>Where all pixels of an image in that state lie or belong.</summary>
    public string Plane(string key, FileStamp stamp) =>
        Path.Combine(
            Folder,
            "planes",
            Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{key}\n{stamp.Bytes}\n{stamp.ModifiedUtc.Ticks}")))[..32]
        );

    /// <summary>Where the picture of a material of that look lies or belongs.</summary>
    /// <param name="print">A hash of all that it is made of.</param>
    public string Swatch(string print) =>
        Path.Combine(Directory.CreateDirectory(Path.Combine(Folder, "swatches", print[..2])).FullName, print + ".png");

    public string Look(string print) => Path.Combine(Directory.CreateDirectory(Path.Combine(Folder, "looks", print[..2])).FullName, print);

    public string Crossing(string print) =>
        Path.Combine(Directory.CreateDirectory(Path.Combine(Folder, "crossings", print[..2])).FullName, print + ".json");

    /// <summary>The folder of an upload that a file of it lies in; null for a file that came otherwise.</summary>
    public string? TreeOf(string path)
    {
        var trees = Path.Combine(Folder, "arrivals");
        return RootScope.IsInside(trees, path) ? Path.Combine(trees, Path.GetRelativePath(trees, path).Split('/')[0]) : null;
    }

    /// <summary>Frames of a scene.</summary>
    public string Frames(Guid sceneId) => Path.Combine(Folder, "frames", sceneId.ToString("N"));

    public string Frame(Guid sceneId, FrameLighting light, string? camera)
    {
        var seen = camera is null ? string.Empty : "-" + Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(camera)))[..16];
        var folder = Directory.CreateDirectory(Frames(sceneId));
        return Path.Combine(folder.FullName, $"{light.ToString().ToLowerInvariant()}{seen}.png");
    }

    public string CrossingFrame(Guid sceneId, WholeCrossing crossing)
    {
        var (model, route, fit) = crossing;
        var name = $"crossing-{model}-{route}{(fit ? "-fit" : string.Empty)}".ToLowerInvariant();
        return Path.Combine(Frames(sceneId), name);
    }

    public string View(Guid sceneId, string print) => Path.Combine(Frames(sceneId), "views", print);

    public string MomentFrames(DrawMoments moments)
    {
        var (here, before, after, light) = moments;
        var name = Encoding.UTF8.GetBytes($"{before.Word(here)} {after.Word(here)} {light}");
        return Path.Combine(Frames(here), $"moments-{Convert.ToHexStringLower(SHA256.HashData(name))[..16]}");
    }

    public string? ColourPrint { get; }

    public void Put(FileState file, byte[] png) => WholeOrNothing.Cached(Picture(file.Path, file.Stamp, IPictureStore.Side), png);

    public void Share(FileState known, FileState file)
    {
        var picture = Picture(known.Path, known.Stamp, IPictureStore.Side);
        if (File.Exists(picture))
            Put(file, File.ReadAllBytes(picture));
    }
}
