using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Fbx;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Sessions;

namespace RootCall.Core.SendOff;

/// <summary>
/// Turns a scene that cannot be written into one that can: paths that a crate or an archive packs are said anew by an
/// overriding layer, an FBX becomes a GLB. A scene that is written itself stays as it is.
/// </summary>
public static class WritableScene
{
    /// <param name="report">The current scene with what answers.</param>
    /// <param name="folder">An empty folder for what is made; it must stay until the scene is written.</param>
    public static MusterReport Make(MusterReport report, MusterContext context, Bounds bounds, string folder)
    {
        var scene = report.Scene;
        if (scene.Format.Id == "fbx")
            return AsGlb(report, context, bounds, folder);
        var packed = report.References.Where(NeedsSaying).ToList();
        if (packed.Count == 0)
            return report;
        var edits = packed
            .SelectMany(r => r.Reference.Properties.Select(p => (Edit)new SetAsset(p, r.Reference.Written, r.Called!)))
            .ToImmutableArray();
        var entry = new LedgerEntry(Guid.NewGuid(), "Call from where the files lie", edits, EntryState.Applied, "package", default);
        var reading = new ReadContext(context.Scope, bounds, context.Relinked, null, context.Stop)
        {
            Edited = scene.Files.Where(f => f.Edited is not null).DistinctBy(f => f.Path).ToDictionary(f => f.Path, f => f.Edited!),
        };
        var edited = EditedScene.Of(scene, reading, () => folder).And(entry);
        return new Session(edited, report, context).Written(folder);
    }

    /// <summary>An answer that lies elsewhere than the packed path says, from where it cannot be rewritten.</summary>
    private static bool NeedsSaying(MusteredReference reference)
    {
        if (reference.Resolved is null || !reference.Reference.Sites.IsEmpty || reference.Reference.Properties.IsEmpty)
            return false;
        var written = WrittenPath.Parse(reference.Reference.Written);
        return written.Origin != PathOrigin.Relative
            || written.Segments.Contains("..")
            || written.Locate(reference.Reference.BaseFolder) != reference.Called;
    }

    private static MusterReport AsGlb(MusterReport report, MusterContext context, Bounds bounds, string folder)
    {
        var scene = report.Scene;
        var answers = report.References.ToDictionary(r => r.Reference.Key, r => r.Resolved);
        var glb = Path.Combine(RootScope.RealPath(folder), Path.ChangeExtension(Path.GetFileName(scene.Path), ".glb"));
        WholeOrNothing.File(glb, stream =>
            FbxToGlb.Write(scene, stream, r => r.Carried is not null ? null : answers.GetValueOrDefault(r.Key) ?? r.Written, bounds)
        );
        return Arrived(glb, context, bounds);
    }

    /// <summary>A scene that was made of another one, mustered by itself: the ledger is in it already.</summary>
    public static MusterReport Arrived(string path, MusterContext context, Bounds bounds) =>
        CurrentScene.Muster(
            path,
            context with
            {
                Scope = new RootScope([Path.GetDirectoryName(path)!, .. context.Scope.Folders]),
                Relinked = ImmutableDictionary<ReferenceKey, string>.Empty,
                Edited = ImmutableDictionary<string, string>.Empty,
            },
            bounds
        );
}
