using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Native;

namespace RootCall.Worker.Tasks;

/// <summary>
/// Brings scenes in. A scene in a server folder is read in place. An upload is unpacked, its contents go into the blobs by
/// their hash, and its tree is made of links to them, moved into place when it is whole.
/// </summary>
public sealed class ArriveTask(
    DiskStore disk,
    SceneStore scenes,
    LedgerStore ledgers,
    RootStore roots,
    SceneReading reading,
    FollowUps followUps,
    IDbContextFactory<RootCallDb> databases,
    FileFacts facts,
    Bounds bounds
)
{
    public async Task Run(WorkLease lease, Arrive request, WorkProgress progress, CancellationToken stop)
    {
        var parsed = new ParsedFiles();
        string[] found;
        if (request.Path is { } path)
            found = [roots.Everything.Enter(path) ?? throw new CannotUseException($"“{path}” lies outside the folders the settings list.")];
        else
        {
            var tree = await Unpacked(lease, request, progress, stop);
            progress.Report("looking for scenes", request.Name);
            found = [.. SceneFinder.All(tree, parsed)];
        }

        var failures = new List<string>();
        foreach (var scene in found)
        {
            stop.ThrowIfCancellationRequested();
            try
            {
                // A scene that arrives again is read with the ledger it has: what no longer applies is kept with its reason.
                var versionOf =
                    request.Path is not null ? await scenes.Known(scene, stop)
                    : Path.GetFileName(scene) == request.FileName ? request.VersionOf
                    : null;
                var ledger = versionOf is { } known ? await ledgers.Read(known, stop) : Ledger.Empty;
                var copies = Path.Combine(disk.Edited(versionOf ?? lease.Task), lease.Token.ToString("N"));
                var read = await reading.Read(scene, versionOf, ledger, relinks: false, copies, null, progress, stop, parsed);
                var sceneId = await scenes.Arrive(
                    ArrivalId(lease.Task, scene),
                    read.ToKeep,
                    versionOf,
                    request.Name,
                    request.Path is null,
                    DateTimeOffset.UtcNow,
                    stop
                );
                await followUps.Remember(sceneId, read, stop);
            }
            catch (CannotUseException e)
            {
                failures.Add(e.Message);
            }
        }

        if (request.Incoming is { } incoming)
            await Received(lease, incoming, stop);
        if (failures.Count > 0)
            throw new CannotUseException(
                string.Join(" ", failures)
                    + (failures.Count < found.Length ? $" {found.Length - failures.Count} other scenes arrived." : string.Empty)
            );
    }

    /// <summary>The same task over the same scene gives the same id, so a task that is taken up again adds nothing twice.</summary>
    private static Guid ArrivalId(Guid task, string scene) =>
        new(SHA256.HashData(Encoding.UTF8.GetBytes($"{task:N}{scene}")).AsSpan(0, 16));

    private async Task<string> Unpacked(WorkLease lease, Arrive request, WorkProgress progress, CancellationToken stop)
    {
        var incoming = request.Incoming!.Value;
        var tree = disk.Arrival(incoming);
        if (Directory.Exists(tree))
            return tree; // The task was taken up again after this step.
        var received = disk.Incoming(incoming);
        if (!Directory.Exists(received))
            throw new CannotUseException("The upload is no longer there; send it again.");
        // In folders of this attempt, until it is whole.
        using var work = Folders.Temporary(disk.Work(lease.Token));
        var unzipped = received;
        var files = Directory.GetFiles(received, "*", SearchOption.AllDirectories);
        try
        {
            if (files is [var zip] && zip.EndsWith(".zip", StringComparison.OrdinalIgnoreCase))
            {
                unzipped = Directory.CreateDirectory(Path.Combine(work.Path, "unzipped")).FullName;
                ZipIntake.Unpack(zip, unzipped, bounds, (done, total, entry) => progress.Report("unpacking", entry, done, total), stop);
            }

            if (!SceneFinder.Any(unzipped))
            {
                var formats = string.Join(", ", SceneFormats.All.SelectMany(f => f.Extensions));
                throw new CannotUseException($"“{request.Name}” holds no scene that is read here ({formats}). Nothing was kept.");
            }
        }
        catch (CannotUseException)
        {
            await Received(lease, incoming, stop);
            throw;
        }

        var part = Path.Combine(work.Path, "kept");
        var hashes = KeepContents(unzipped, part, progress, stop);
        await Held(lease, () => Directory.Move(part, tree), stop);
        foreach (var (name, hash) in hashes)
            if (FileFacts.Stamp(Path.Combine(tree, name)) is { } stamp)
                facts.Hashed(new(Path.Combine(tree, name), stamp), hash);
        return tree;
    }

    /// <summary>What was received is no longer needed.</summary>
    private Task Received(WorkLease lease, Guid incoming, CancellationToken stop) =>
        Held(
            lease,
            () =>
            {
                if (Directory.Exists(disk.Incoming(incoming)))
                    Directory.Delete(disk.Incoming(incoming), recursive: true);
            },
            stop
        );

    /// <summary>Does what others would feel while no other worker can take the task up.</summary>
    private async Task Held(WorkLease lease, Action act, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        await lease.Demand(db, stop);
        act();
        await transaction.CommitAsync(stop);
    }

    /// <returns>The SHA-256 of each file, by its path under the folder.</returns>
    private List<(string Name, string Hash)> KeepContents(string from, string to, WorkProgress progress, CancellationToken stop)
    {
        var files = Directory.GetFiles(from, "*", SearchOption.AllDirectories);
        var hashes = new List<(string, string)>(files.Length);
        Directory.CreateDirectory(to);
        for (var i = 0; i < files.Length; i++)
        {
            stop.ThrowIfCancellationRequested();
            progress.Report("keeping", Path.GetFileName(files[i]), i, files.Length);
            using var stream = File.OpenRead(files[i]);
            var hash = Convert.ToHexStringLower(SHA256.HashData(stream));
            hashes.Add((Path.GetRelativePath(from, files[i]), hash));
            var blob = disk.Blob(hash);
            Directory.CreateDirectory(Path.GetDirectoryName(blob)!);
            if (!File.Exists(blob))
                HardLink.Create(files[i], blob); // The received file stays until the end, in case the task is taken up again.
            var name = Path.Combine(to, Path.GetRelativePath(from, files[i]));
            Directory.CreateDirectory(Path.GetDirectoryName(name)!);
            HardLink.Create(blob, name);
        }

        return hashes;
    }
}
