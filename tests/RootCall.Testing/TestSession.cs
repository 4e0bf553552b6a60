using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Sessions;

namespace RootCall.Testing;

/// <summary>Sessions as tests open them: copies, where any are needed, lie in a folder for temporary files.</summary>
public static class TestSession
{
    public static Session Open(string scene, MusterContext context) => Session.Open(scene, context, Bounds.Default, Folder);

    public static Session Of(MusterReport report, MusterContext context, string folder) =>
        new(
            EditedScene.Of(report.Scene, new(context.Scope, Bounds.Default), () =>
                Directory.CreateDirectory(Path.Combine(folder, Guid.NewGuid().ToString("N"))).FullName
            ),
            report,
            context
        );

    public static LedgerEntry Entry(params ImmutableArray<Edit> edits) =>
        new(Guid.NewGuid(), "edits of a test", edits, EntryState.Applied, "test", DateTimeOffset.UnixEpoch);

    private static string Folder() => Directory.CreateTempSubdirectory("rootcall-test-").FullName;
}
