using System.Security.Cryptography;
using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;

namespace RootCall.Core.Jobs;

/// <summary>
/// Brings scenes in: those of an upload, or one in a server folder, which is read in place. Each is kept when it is read, so that
/// one that cannot be used keeps no other from arriving. An upload of textures alone becomes a root of the scene that was picked.
/// </summary>
public sealed class ArriveJob(
    Intake intake,
    ISceneShelf scenes,
    ILedgers ledgers,
    IRoots roots,
    SceneReading reading,
    IStorePlaces places,
    FollowUps followUps,
    TimeProvider clock
)
{
    /// <exception cref="CannotUseException">Some scenes cannot be used; the others have arrived.</exception>
    public async Task Run(IAttempt attempt, Arrive request, CancellationToken stop)
    {
        var parsed = new ParsedFiles();
        var found = await Found(attempt, request, parsed, stop);
        var failures = new List<string>();
        foreach (var scene in found)
        {
            stop.ThrowIfCancellationRequested();
            try
            {
                await One(attempt, request, scene, parsed, stop);
            }
            catch (CannotUseException e)
            {
                failures.Add(e.Message);
            }
        }

        if (request.Incoming is { } incoming)
            await intake.Done(attempt, incoming, stop);
        if (failures.Count > 0)
            throw new CannotUseException(
                string.Join(" ", failures)
                    + (failures.Count < found.Length ? $" {found.Length - failures.Count} other scenes arrived." : string.Empty)
            );
    }

    private async Task<string[]> Found(IAttempt attempt, Arrive request, ParsedFiles parsed, CancellationToken stop)
    {
        if (request.Path is { } path)
            return [roots.Everything.Enter(path) ?? throw new CannotUseException($"“{path}” lies outside the folders the settings list.")];
        var taken = await intake.Take(attempt, request.Incoming!.Value, request.Name, request.TexturesOf, stop);
        if (taken.TexturesOf is { } scene)
        {
            await followUps.Added(scene, stop);
            return [];
        }

        attempt.Report("looking for scenes", request.Name);
        return [.. SceneFinder.All(taken.Folder, parsed)];
    }

    private async Task One(IAttempt attempt, Arrive request, string scene, ParsedFiles parsed, CancellationToken stop)
    {
        // A scene that arrives again is read with the ledger it has: what no longer applies is kept with its reason.
        var versionOf =
            request.Path is not null ? await scenes.Known(scene, stop)
            : Path.GetFileName(scene) == request.FileName ? request.VersionOf
            : null;
        var ledger = versionOf is { } known ? await ledgers.Read(known, stop) : Ledger.Empty;
        var copies = Path.Combine(places.Edited(versionOf ?? attempt.Job), attempt.Token.ToString("N"));
        var read = await reading.Read(scene, versionOf, ledger, relinks: false, copies, null, attempt, stop, parsed);
        var sceneId = await scenes.Arrive(
            new(ArrivalId(attempt.Job, scene), read.ToKeep, versionOf, request.Name, request.Path is null, clock.GetUtcNow()),
            stop
        );
        await followUps.Arrived(sceneId, stop);
    }

    /// <summary>The same job over the same scene gives the same id, so a job that is taken up again adds nothing twice.</summary>
    private static Guid ArrivalId(Guid job, string scene) => new(SHA256.HashData(Encoding.UTF8.GetBytes($"{job:N}{scene}")).AsSpan(0, 16));
}
