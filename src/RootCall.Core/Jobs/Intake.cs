using System.Security.Cryptography;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>
/// Takes an upload into the store: it is unpacked, its contents go into the blobs by their hash, and its tree is made of links to
/// them, moved into place when it is whole.
/// </summary>
public sealed class Intake(IStorePlaces places, IFileLinks links, FileFacts facts, Bounds bounds)
{
    /// <returns>The folder of the tree.</returns>
    /// <exception cref="CannotUseException">It is not there any more, or holds no scene; nothing is kept of it.</exception>
    public async Task<string> Take(IAttempt attempt, Guid incoming, string name, CancellationToken stop)
    {
        var tree = places.Arrival(incoming);
        if (Directory.Exists(tree))
            return tree; // The job was taken up again after this step.
        var received = places.Incoming(incoming);
        if (!Directory.Exists(received))
            throw new CannotUseException("The upload is no longer there; send it again.");
        // In folders of this attempt, until it is whole.
        using var work = Folders.Temporary(places.Work(attempt.Token));
        string unpacked;
        try
        {
            unpacked = Unpack(attempt, received, work.Path, name, stop);
        }
        catch (CannotUseException)
        {
            await Done(attempt, incoming, stop);
            throw;
        }

        var part = Path.Combine(work.Path, "kept");
        var hashes = KeepContents(attempt, unpacked, part, stop);
        await attempt.Held(() => Directory.Move(part, tree), stop);
        foreach (var (file, hash) in hashes)
            if (FileFacts.Stamp(Path.Combine(tree, file)) is { } stamp)
                facts.Hashed(new(Path.Combine(tree, file), stamp), hash);
        return tree;
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
    private string Unpack(IAttempt attempt, string received, string work, string name, CancellationToken stop)
    {
        var unpacked = received;
        if (
            Directory.GetFiles(received, "*", SearchOption.AllDirectories) is [var zip]
            && zip.EndsWith(".zip", StringComparison.OrdinalIgnoreCase)
        )
        {
            unpacked = Directory.CreateDirectory(Path.Combine(work, "unzipped")).FullName;
            ZipIntake.Unpack(zip, unpacked, bounds, (done, total, entry) => attempt.Report("unpacking", entry, done, total), stop);
        }

        if (SceneFinder.Any(unpacked))
            return unpacked;
        var formats = string.Join(", ", SceneFormats.All.SelectMany(f => f.Extensions));
        throw new CannotUseException($"“{name}” holds no scene that is read here ({formats}). Nothing was kept.");
    }

    /// <returns>The SHA-256 of each file, by its path under the folder.</returns>
    private List<(string Name, string Hash)> KeepContents(IAttempt attempt, string from, string to, CancellationToken stop)
    {
        var files = Directory.GetFiles(from, "*", SearchOption.AllDirectories);
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
