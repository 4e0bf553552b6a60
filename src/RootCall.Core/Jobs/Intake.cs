using System.Security.Cryptography;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>Where an upload was kept.</summary>
/// <param name="TexturesOf">The scene that it is textures of; null when it holds scenes itself.</param>
public sealed record Taken(string Folder, Guid? TexturesOf);

/// <summary>
/// Takes an upload into the store: it is unpacked, its contents go into the blobs by their hash, and its tree is made of links to
/// them, moved into place when it is whole.
/// </summary>
public sealed class Intake(IStorePlaces places, IFileLinks links, FileFacts facts, Bounds bounds)
{
    /// <param name="texturesOf">The scene that textures without any scene are for; null when none was picked.</param>
    /// <exception cref="CannotUseException">It is not there any more, or holds nothing of use; nothing is kept of it.</exception>
    public async Task<Taken> Take(IAttempt attempt, Guid incoming, string name, Guid? texturesOf, CancellationToken stop)
    {
        var scenes = new Taken(places.Arrival(incoming), null);
        var textures = texturesOf is { } of ? new Taken(Path.Combine(places.Added(of), incoming.ToString("N")), of) : null;
        // The job may have been taken up again after this step.
        if (Directory.Exists(scenes.Folder))
            return scenes;
        if (textures is not null && Directory.Exists(textures.Folder))
            return textures;
        var received = places.Incoming(incoming);
        if (!Directory.Exists(received))
            throw new CannotUseException("The upload is no longer there; send it again.");
        // In folders of this attempt, until it is whole.
        using var work = Folders.Temporary(places.Work(attempt.Token));
        string unpacked;
        Taken taken;
        try
        {
            unpacked = Unpack(attempt, received, work.Path, stop);
            taken = SceneFinder.Any(unpacked) ? scenes : Textures(unpacked, name, textures);
        }
        catch (CannotUseException)
        {
            await Done(attempt, incoming, stop);
            throw;
        }

        var files = Directory.GetFiles(unpacked, "*", SearchOption.AllDirectories);
        if (taken.TexturesOf is not null)
            files = [.. files.Where(IsCalledByScenes)];
        var part = Path.Combine(work.Path, "kept");
        var hashes = KeepContents(attempt, unpacked, files, part, stop);
        await attempt.Held(
            () =>
            {
                Directory.CreateDirectory(Path.GetDirectoryName(taken.Folder)!);
                Directory.Move(part, taken.Folder);
            },
            stop
        );
        foreach (var (file, hash) in hashes)
            if (FileFacts.Stamp(Path.Combine(taken.Folder, file)) is { } stamp)
                facts.Hashed(new(Path.Combine(taken.Folder, file), stamp), hash);
        return taken;
    }

    /// <summary>What was received is no longer needed.</summary>
    public Task Done(IAttempt attempt, Guid incoming, CancellationToken stop) =>
        attempt.Held(
            () =>
            {
                if (Directory.Exists(places.Incoming(incoming)))
                    Directory.Delete(places.Incoming(incoming), recursive: true);
            },
            stop
        );

    /// <returns>The folder with the files that were sent.</returns>
    private string Unpack(IAttempt attempt, string received, string work, CancellationToken stop)
    {
        if (
            Directory.GetFiles(received, "*", SearchOption.AllDirectories) is not [var zip]
            || !zip.EndsWith(".zip", StringComparison.OrdinalIgnoreCase)
        )
            return received;
        var unpacked = Directory.CreateDirectory(Path.Combine(work, "unzipped")).FullName;
        ZipIntake.Unpack(zip, unpacked, bounds, (done, total, entry) => attempt.Report("unpacking", entry, done, total), stop);
        return unpacked;
    }

    private static Taken Textures(string unpacked, string name, Taken? textures)
    {
        var formats = string.Join(", ", SceneFormats.All.SelectMany(f => f.Extensions));
        if (!Directory.EnumerateFiles(unpacked, "*", SearchOption.AllDirectories).Any(IsCalledByScenes))
            throw new CannotUseException($"“{name}” holds no scene that is read here ({formats}), and no image. Nothing was kept.");
        return textures
            ?? throw new CannotUseException(
                $"“{name}” holds no scene that is read here ({formats}). To add its images to a scene, pick the scene first. "
                    + "Nothing was kept."
            );
    }

    /// <summary>Images, and what else a scene may call for beside itself: material libraries and buffers.</summary>
    private static bool IsCalledByScenes(string file) =>
        !Path.GetFileName(file).StartsWith('.')
        && (ImageCodecs.Promised(file) is not null || Path.GetExtension(file).ToLowerInvariant() is ".mtl" or ".bin");

    /// <returns>The SHA-256 of each file, by its path under the folder.</returns>
    private List<(string Name, string Hash)> KeepContents(IAttempt attempt, string from, string[] files, string to, CancellationToken stop)
    {
        var hashes = new List<(string, string)>(files.Length);
        Directory.CreateDirectory(to);
        for (var i = 0; i < files.Length; i++)
        {
            stop.ThrowIfCancellationRequested();
            attempt.Report("keeping", Path.GetFileName(files[i]), i, files.Length);
            using var stream = File.OpenRead(files[i]);
            var hash = Convert.ToHexStringLower(SHA256.HashData(stream));
            var under = Path.GetRelativePath(from, files[i]);
            hashes.Add((under, hash));
            var blob = places.Blob(hash);
            Directory.CreateDirectory(Path.GetDirectoryName(blob)!);
            if (!File.Exists(blob))
                links.Create(files[i], blob); // The received file stays until the end, in case the job is taken up again.
            var name = Path.Combine(to, under);
            Directory.CreateDirectory(Path.GetDirectoryName(name)!);
            links.Create(blob, name);
        }

        return hashes;
    }
}
