using System.Security.Cryptography;
using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
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
    Bounds bounds
)
{
    public async Task Run(Guid id, Arrive request, WorkProgress progress, CancellationToken stop)
    {
        string[] found;
        if (request.Path is { } path)
            found = [roots.Everything.Enter(path) ?? throw new CannotUseException($"“{path}” lies outside the folders the settings list.")];
        else
        {
            var tree = Unpacked(request.Incoming!.Value, request.Name, progress, stop);
            found = [.. SceneFinder.All(tree)];
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
                var copies = Path.Combine(disk.Edited(versionOf ?? id), id.ToString("N"));
                var read = await reading.Read(scene, versionOf, ledger, relinks: false, copies, null, progress, stop);
                var sceneId = await scenes.Arrive(
                    ArrivalId(id, scene),
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

        if (request.Incoming is { } incoming && Directory.Exists(disk.Incoming(incoming)))
            Directory.Delete(disk.Incoming(incoming), recursive: true);
        if (failures.Count > 0)
            throw new CannotUseException(
                string.Join(" ", failures)
                    + (failures.Count < found.Length ? $" {found.Length - failures.Count} other scenes arrived." : string.Empty)
            );
    }

    /// <summary>The same task over the same scene gives the same id, so a task that is taken up again adds nothing twice.</summary>
    private static Guid ArrivalId(Guid task, string scene) =>
        new(SHA256.HashData(Encoding.UTF8.GetBytes($"{task:N}{scene}")).AsSpan(0, 16));

    private string Unpacked(Guid incoming, string name, WorkProgress progress, CancellationToken stop)
    {
        var tree = disk.Arrival(incoming);
        if (Directory.Exists(tree))
            return tree; // The task was taken up again after this step.
        var received = disk.Incoming(incoming);
        if (!Directory.Exists(received))
            throw new CannotUseException("The upload is no longer there; send it again.");
        var part = tree + ".part";
        var unzipped = received;
        if (Directory.Exists(part))
            Directory.Delete(part, recursive: true);
        var files = Directory.GetFiles(received, "*", SearchOption.AllDirectories);
        if (files is [var zip] && zip.EndsWith(".zip", StringComparison.OrdinalIgnoreCase))
        {
            unzipped = received + ".unzipped";
            if (Directory.Exists(unzipped))
                Directory.Delete(unzipped, recursive: true);
            Directory.CreateDirectory(unzipped);
        }

        try
        {
            if (unzipped != received)
                ZipIntake.Unpack(
                    files[0],
                    unzipped,
                    bounds,
                    (done, total, entry) => progress.Report("unpacking", entry, done, total),
                    stop
                );
            if (SceneFinder.All(unzipped).Count == 0)
            {
                var formats = string.Join(", ", SceneFormats.All.SelectMany(f => f.Extensions));
                throw new CannotUseException($"“{name}” holds no scene that is read here ({formats}). Nothing was kept.");
            }
        }
        catch (CannotUseException)
        {
            if (unzipped != received)
                Directory.Delete(unzipped, recursive: true);
            Directory.Delete(received, recursive: true);
            throw;
        }

        KeepContents(unzipped, part, progress, stop);
        Directory.Move(part, tree);
        if (unzipped != received)
            Directory.Delete(unzipped, recursive: true);
        return tree;
    }

    private void KeepContents(string from, string to, WorkProgress progress, CancellationToken stop)
    {
        var files = Directory.GetFiles(from, "*", SearchOption.AllDirectories);
        Directory.CreateDirectory(to);
        for (var i = 0; i < files.Length; i++)
        {
            stop.ThrowIfCancellationRequested();
            progress.Report("keeping", Path.GetFileName(files[i]), i, files.Length);
            using var stream = File.OpenRead(files[i]);
            var blob = disk.Blob(Convert.ToHexStringLower(SHA256.HashData(stream)));
            Directory.CreateDirectory(Path.GetDirectoryName(blob)!);
            if (!File.Exists(blob))
                HardLink.Create(files[i], blob); // The received file stays until the end, in case the task is taken up again.
            var name = Path.Combine(to, Path.GetRelativePath(from, files[i]));
            Directory.CreateDirectory(Path.GetDirectoryName(name)!);
            HardLink.Create(blob, name);
        }
    }
}
