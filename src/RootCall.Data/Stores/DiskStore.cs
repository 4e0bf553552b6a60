using System.Security.Cryptography;
using System.Text;
using Microsoft.Extensions.Options;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Data.Stores;

/// <summary>
/// The folder tree under the data folder: <c>incoming</c> (uploads being received), <c>blobs</c> (contents by SHA-256),
/// <c>arrivals</c> (trees of uploads, hard-linked to blobs), <c>pictures</c> (thumbnails), <c>packages</c>,
/// <c>edited</c> (own files with a ledger's edits made), <c>extracted</c> (images taken out of scenes) and <c>stand-ins</c>.
/// </summary>
public sealed class DiskStore
{
    public DiskStore(IOptions<DataOptions> options)
    {
        Folder = RootScope.RealPath(Path.Combine(options.Value.Data, "store"));
        foreach (var part in new[] { "incoming", "blobs", "arrivals", "pictures", "packages", "edited", "extracted", "stand-ins" })
            Directory.CreateDirectory(Path.Combine(Folder, part));
    }

    public string Folder { get; }

    public string Incoming(Guid id) => Path.Combine(Folder, "incoming", id.ToString("N"));

    public string Arrival(Guid id) => Path.Combine(Folder, "arrivals", id.ToString("N"));

    public string Edited(Guid sceneId) => Path.Combine(Folder, "edited", sceneId.ToString("N"));

    public string Extracted(Guid sceneId) => Path.Combine(Folder, "extracted", sceneId.ToString("N"));

    /// <summary>Neutral pictures that stand in for missing ones.</summary>
    public string StandIns => Path.Combine(Folder, "stand-ins");

    public string Package(Guid id, string name) => Path.Combine(Folder, "packages", id.ToString("N"), name);

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
}
