using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Stores;

namespace RootCall.Worker;

/// <summary>A scene as it was read and mustered.</summary>
public sealed record SceneRead(MusterReport Report, MusterContext Context, EditedFiles Edited)
{
    public Mustered ToKeep => new(Report, Context.Index.Count, [.. Edited.Refused.Select(r => new RefusedEdit(r.Entry.Id, r.Edit.Describe(), r.Reason))]);
}

/// <summary>Reads a scene with its ledger and musters it against the roots, telling how far it is.</summary>
public sealed class SceneReading(RootStore roots, Indexes indexes, SeenStore seen, RuleStore rules, NameStore names, KnownFileStore known, FileFacts facts, Bounds bounds)
{
    /// <param name="ledger">Its applied look edits are made, its relinks of own files followed.</param>
    /// <param name="relinks">Which relinks of the ledger are followed: all for a package, those of own files for a muster.</param>
    /// <param name="edited">Folder for copies with edits made; it must stay as long as what is read is used.</param>
    /// <param name="before">The muster before this one; its files need not be looked into again.</param>
    public async Task<SceneRead> Read(
        string path, Guid? sceneId, Ledger ledger, Func<ReferenceKey, bool> relinks, string edited, MusterReport? before, WorkProgress progress, CancellationToken stop)
    {
        var scope = await roots.ScopeOf(path, sceneId, stop);
        progress.Report("looking in the roots");
        var index = await indexes.Get(scope, Refresh.Folders, (n, folder) => progress.Report("looking in the roots", Path.GetFileName(folder), n), stop);
        if (before is not null) await known.Load(facts, before.References.SelectMany(r => r.Candidates.Select(c => c.Path).Append(r.Resolved)).OfType<string>(), stop);
        var lastSeen = sceneId is { } id ? await seen.Read(id, stop) : ImmutableDictionary<ReferenceKey, LastSeen>.Empty;
        await known.Load(facts, lastSeen.Values.Select(s => s.Path), stop);
        var relinked = ledger.Relinks().Where(r => relinks(r.Key)).ToImmutableDictionary();
        var copies = EditedFiles.None;
        if (ledger.Applied.Any(e => e.Edits.Any(x => x is LookEdit)))
        {
            progress.Report("making the edits", Path.GetFileName(path));
            Directory.CreateDirectory(edited);
            copies = EditedFiles.Make(path, ledger.Applied, edited, new(scope, bounds, relinked, null, stop));
        }

        var context = new MusterContext(scope, index, facts)
        {
            Relinked = relinked,
            Edited = copies.Copies,
            LastSeen = lastSeen,
            Approved = await rules.Approved(stop),
            Names = await names.Read(stop),
            Progress = (done, total) => progress.Report("mustering", string.Empty, done, total),
            Stop = stop,
        };
        progress.Report("reading", Path.GetFileName(path));
        var report = CurrentScene.Muster(path, context, bounds, detail => progress.Report("reading", detail));
        await known.Save(facts, stop);
        return new(report, context, copies);
    }
}
