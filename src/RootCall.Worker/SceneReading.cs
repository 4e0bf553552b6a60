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
public sealed class SceneReading(RootStore roots, FileFacts facts, Bounds bounds)
{
    /// <param name="ledger">Its applied look edits are made, its relinks of own files followed.</param>
    /// <param name="relinks">Which relinks of the ledger are followed: all for a package, those of own files for a muster.</param>
    /// <param name="edited">Folder for copies with edits made; it must stay as long as what is read is used.</param>
    public async Task<SceneRead> Read(
        string path, Guid? sceneId, Ledger ledger, Func<ReferenceKey, bool> relinks, string edited, IReadOnlyDictionary<ReferenceKey, LastSeen>? lastSeen, WorkProgress progress, CancellationToken stop)
    {
        var scope = await roots.ScopeOf(path, sceneId, stop);
        progress.Report("looking in the roots");
        var index = RootIndex.Build(scope, (n, folder) => progress.Report("looking in the roots", Path.GetFileName(folder), n), stop);
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
            LastSeen = lastSeen ?? ImmutableDictionary<ReferenceKey, LastSeen>.Empty,
            Progress = (done, total) => progress.Report("mustering", string.Empty, done, total),
            Stop = stop,
        };
        progress.Report("reading", Path.GetFileName(path));
        return new(CurrentScene.Muster(path, context, bounds, detail => progress.Report("reading", detail)), context, copies);
    }

    /// <summary>What the last muster knew of each reference's file.</summary>
    public static ImmutableDictionary<ReferenceKey, LastSeen> Seen(MusterReport report) => report.References
        .Where(r => r.Resolved is not null && r.Stamp is not null)
        .ToImmutableDictionary(r => r.Reference.Key, r => new LastSeen(r.Resolved!, r.Stamp!.Value, r.Facts?.Width ?? 0, r.Facts?.Height ?? 0, null));
}
