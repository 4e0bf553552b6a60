using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Sessions;
using RootCall.Data.Stores;

namespace RootCall.Worker;

/// <summary>A scene as it was read and mustered.</summary>
public sealed record SceneRead(Session Session)
{
    public MusterReport Report => Session.Report;

    public MusterContext Context => Session.Context;

    /// <summary>
    /// What is kept: the scene as its files say it, with the entries of the ledger that are in it, and what was found
    /// of references that others bring.
    /// </summary>
    public Mustered ToKeep
    {
        get
        {
            var basis = Session.Edited.Basis;
            var known = Report.References.DistinctBy(r => r.Reference.Key).ToDictionary(r => r.Reference.Key);
            var own = basis.References.Select(r => known.TryGetValue(r.Key, out var there) ? there with { Reference = r } : null).ToList();
            var report = own.Contains(null)
                ? Mustering.Run(basis, Context, Report)
                : Report with
                {
                    Scene = basis,
                    References = [.. own.Select(r => r!)],
                };
            var keys = basis.References.Select(r => r.Key).ToHashSet();
            var included = Session.Edited.InBasis.Select(e => e.Id).ToList();
            return new(
                report,
                Context.Index.Count,
                [
                    .. Session
                        .Refused.Where(r => included.Contains(r.Entry.Id))
                        .Select(r => new RefusedEdit(r.Entry.Id, r.Edit.Describe(), r.Reason)),
                ]
            )
            {
                Included = included,
                Brought = [.. Report.References.Where(r => !keys.Contains(r.Reference.Key))],
            };
        }
    }
}

/// <summary>Reads a scene with its ledger and musters it against the roots, telling how far it is.</summary>
public sealed class SceneReading(
    SceneStore scenes,
    LedgerStore ledgers,
    RootStore roots,
    Indexes indexes,
    SeenStore seen,
    RuleStore rules,
    NameStore names,
    KnownFileStore known,
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
        WorkProgress progress,
        CancellationToken stop,
        ParsedFiles? parsed = null
    )
    {
        var scope = await roots.ScopeOf(path, sceneId, stop);
        progress.Report("looking in the roots");
        var index = await indexes.Get(
            scope,
            Refresh.Folders,
            (n, folder) => progress.Report("looking in the roots", Path.GetFileName(folder), n),
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
            Approved = await rules.Approved(stop),
            Names = await names.Read(stop),
            Progress = (done, total) => progress.Report("mustering", string.Empty, done, total),
            Stop = stop,
        };
        progress.Report("reading", Path.GetFileName(path));
        var session = Session.Open(
            path,
            context,
            bounds,
            () => Directory.CreateDirectory(edited).FullName,
            detail => progress.Report("reading", detail),
            parsed
        );
        var entries = ledger.Applied.Where(e => relinks || e.Edits.Any(x => x.Brings));
        if (!relinks)
            entries = entries.Select(e => e with { Edits = [.. e.Edits.Where(x => x.Brings)] });
        progress.Report("making the edits", Path.GetFileName(path));
        session = session.With(entries);
        await known.Save(facts, stop);
        return new(session);
    }

    /// <summary>The current scene of an arrival, written and mustered as whoever gets the files will find it.</summary>
    /// <param name="work">Folder for what is written; it must stay as long as the report is used.</param>
    /// <exception cref="CannotUseException">The scene is no longer there.</exception>
    public async Task<(SceneRead Read, MusterReport Report)> Written(
        Guid sceneId,
        string work,
        WorkProgress progress,
        CancellationToken stop
    )
    {
        var arrival = await scenes.Arrival(sceneId, stop) ?? throw new CannotUseException("The scene is no longer there.");
        var ledger = await ledgers.Read(sceneId, stop);
        var edited = Path.Combine(work, "edited");
        var read = await Read(arrival.Path, sceneId, ledger, relinks: true, edited, null, progress, stop);
        var written = read.Session.Written(Directory.CreateDirectory(Path.Combine(work, "written")).FullName);
        return (read, WritableScene.Make(written, read.Context, bounds, work));
    }
}
