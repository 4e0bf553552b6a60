using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
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
        var (report, edited) = FixTrial.Make(Scene.Scene.Path, [entry], Context, Bounds.Default, folder);
        if (!edited.Refused.IsEmpty) throw new InvalidOperationException($"Refused: {edited.Refused[0].Edit.Describe()}: {edited.Refused[0].Reason}");
        return Audits.Of(report, Context, Scene.Destination, Scene.House);
    }
}

public static class Audits
{
    /// <summary>Kept for the whole run, so that no image is decoded twice.</summary>
    private static readonly FileFacts Facts = new(new OpenImageIoLooks(Bounds.Default));

    public static Audited Open(string scene, Destination? destination = null, HouseRules? house = null, params string[] roots)
    {
        var scope = CurrentScene.Scope(scene, roots);
        var context = new MusterContext(scope, RootIndex.Build(scope), Facts);
        return Of(CurrentScene.Muster(scene, context, Bounds.Default), context, destination ?? Destination.Plain, house ?? HouseRules.Standard);
    }

    /// <summary>After taking every clear candidate, as an artist would before looking at materials.</summary>
    public static Audited OpenRelinked(string scene, params string[] roots)
    {
        var scope = CurrentScene.Scope(scene, roots);
        var context = new MusterContext(scope, RootIndex.Build(scope), Facts);
        var (report, edits) = CurrentScene.TakeClear(CurrentScene.Muster(scene, context, Bounds.Default), context, Bounds.Default);
        var relinked = new Ledger([new(Guid.NewGuid(), "relink", edits, EntryState.Applied, "test", DateTimeOffset.UnixEpoch)]).Relinks();
        context = context with { Relinked = relinked };
        return Of(CurrentScene.Muster(report.Scene.Path, context, Bounds.Default), context, Destination.Plain, HouseRules.Standard);
    }

    public static Audited Of(MusterReport report, MusterContext context, Destination destination, HouseRules house)
    {
        var scene = new AuditScene(report, ImageMeasures.Read(report, context.Facts), destination, house);
        return new(scene, AuditRun.Make(scene), context);
    }
}
