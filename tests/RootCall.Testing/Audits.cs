using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Native;

namespace RootCall.Testing;

/// <summary>A scene with everything an audit needs, as every caller puts it together.</summary>
public sealed record Audited(AuditScene Scene, AuditReport Report, MusterContext Context)
{
    public IEnumerable<Finding> Of(string rule) => Report.Findings.Where(f => f.Rule == rule);

    /// <summary>The scene after edits, audited again for the same destination and house.</summary>
    public Audited With(string folder, params IEnumerable<Edit> edits)
    {
        var entry = new LedgerEntry(Guid.NewGuid(), "edits of a test", [.. edits], EntryState.Applied, "test", DateTimeOffset.UnixEpoch);
        var session = TestSession.Of(Scene.Report, Context, folder).And(entry);
        if (!session.Refused.IsEmpty)
            throw new InvalidOperationException($"Refused: {session.Refused[0].Edit.Describe()}: {session.Refused[0].Reason}");
        // What is shown is what is written: whoever makes an edit here finds out when it is not.
        var written = session.Written(Directory.CreateDirectory(Path.Combine(folder, Guid.NewGuid().ToString("N"))).FullName);
        var apart = SceneComparison.Differences(session.Current, written.Scene).ToList();
        if (apart.Count > 0)
            throw new InvalidOperationException($"Written otherwise than shown: {string.Join("; ", apart.Take(3))}");
        var report = session.Report;
        return Audits.Of(report, Context, Scene.Destination, Scene.House);
    }
}

public static class Audits
{
    /// <summary>Kept for the whole run, so that no image is decoded twice.</summary>
    private static readonly FileFacts Facts = new(new ImageDecoder(Bounds.Default));

    public static Audited Open(string scene, Destination? destination = null, HouseRules? house = null, params string[] roots)
    {
        var scope = CurrentScene.Scope(scene, roots);
        var context = new MusterContext(scope, RootIndex.Build(scope), Facts);
        return Of(
            CurrentScene.Muster(scene, context, Bounds.Default),
            context,
            destination ?? Destination.Plain,
            house ?? HouseRules.Standard
        );
    }

    /// <summary>After taking every clear candidate, as an artist would before looking at materials.</summary>
    public static Audited OpenRelinked(string scene, params string[] roots)
    {
        var scope = CurrentScene.Scope(scene, roots);
        var context = new MusterContext(scope, RootIndex.Build(scope), Facts);
        return Of(TestSession.Open(scene, context).TakeClear(TestSession.Entry).Report, context, Destination.Plain, HouseRules.Standard);
    }

    public static Audited Of(MusterReport report, MusterContext context, Destination destination, HouseRules house)
    {
        var scene = new AuditScene(report, ImageMeasures.Read(report, context.Facts).Pixels, destination, house);
        return new(scene, AuditRun.Make(scene), context);
    }
}
