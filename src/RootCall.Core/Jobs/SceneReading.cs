using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Sessions;

namespace RootCall.Core.Jobs;

/// <summary>Reads a scene with its ledger and musters it against the roots, telling how far it is.</summary>
public sealed class SceneReading(
    ISceneShelf scenes,
    ILedgers ledgers,
    IRoots roots,
    Indexes indexes,
    ISeenFiles seen,
    IKnownFiles known,
    IHouse house,
    FileFacts facts,
    Bounds bounds
)
{
    /// <param name="ledger">Its applied entries are made.</param>
    /// <param name="relinks">
    /// False to leave what answers as it arrived, except for own files: relinks are laid over a muster when it is
    /// shown.
    /// </param>
    /// <param name="edited">Folder for copies with edits made; it must stay as long as what is read is used.</param>
    /// <param name="before">The muster before this one; its files need not be looked into again.</param>
    /// <param name="parsed">Files that other scenes of the same delivery were made of.</param>
    public async Task<SceneRead> Read(
        string path,
        Guid? sceneId,
        Ledger ledger,
        bool relinks,
        string edited,
        MusterReport? before,
        IAttempt attempt,
        CancellationToken stop,
        ParsedFiles? parsed = null
    )
    {
        var scope = await roots.ScopeOf(path, sceneId, stop);
        attempt.Report("looking in the roots");
        var index = await indexes.Get(
            scope,
            Refresh.Folders,
            (n, folder) => attempt.Report("looking in the roots", Path.GetFileName(folder), n),
            stop
        );
        if (before is not null)
            await known.Load(
                facts,
                before.References.SelectMany(r => r.Candidates.Select(c => c.Path).Append(r.Resolved)).OfType<string>(),
                stop
            );
        var lastSeen = sceneId is { } id ? await seen.Read(id, stop) : ImmutableDictionary<ReferenceKey, LastSeen>.Empty;
        await known.Load(facts, lastSeen.Values.Select(s => s.Path), stop);
        var context = new MusterContext(scope, index, facts)
        {
            LastSeen = lastSeen,
            Approved = await house.Approved(stop),
            Names = await house.Names(stop),
            Progress = (done, total) => attempt.Report("mustering", string.Empty, done, total),
            Stop = stop,
        };
        attempt.Report("reading", Path.GetFileName(path));
        var session = Session.Open(
            path,
            context,
            bounds,
            () => Directory.CreateDirectory(edited).FullName,
            detail => attempt.Report("reading", detail),
            parsed
        );
        var entries = ledger.Applied.Where(e => relinks || e.Edits.Any(x => x.Brings));
        if (!relinks)
            entries = entries.Select(e => e with { Edits = [.. e.Edits.Where(x => x.Brings)] });
        attempt.Report("making the edits", Path.GetFileName(path));
        session = session.With(entries);
        await known.Save(facts, stop);
        return new(session);
    }

    /// <summary>The current scene of an arrival, written and mustered as whoever gets the files will find it.</summary>
    /// <param name="work">Folder for what is written; it must stay as long as the report is used.</param>
    /// <exception cref="CannotUseException">The scene is no longer there.</exception>
    public async Task<(SceneRead Read, MusterReport Report)> Written(Guid sceneId, string work, IAttempt attempt, CancellationToken stop)
    {
        var arrival = await scenes.Demand(sceneId, stop);
        var ledger = await ledgers.Read(sceneId, stop);
        var edited = Path.Combine(work, "edited");
        var read = await Read(arrival.Path, sceneId, ledger, relinks: true, edited, null, attempt, stop);
        var written = read.Session.Written(Directory.CreateDirectory(Path.Combine(work, "written")).FullName);
        return (read, WritableScene.Make(written, read.Context, bounds, work));
    }
}
