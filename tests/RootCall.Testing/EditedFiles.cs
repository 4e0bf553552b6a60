using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Formats;

namespace RootCall.Testing;

/// <summary>Edits applied to a scene and written: copies of the files they changed, by path, and what was refused.</summary>
public sealed record EditedFiles(ImmutableDictionary<string, string> Copies, ImmutableArray<Refusal> Refused)
{
    public static EditedFiles Make(string scene, IEnumerable<LedgerEntry> entries, string folder, ReadContext context)
    {
        Directory.CreateDirectory(folder);
        var edited = EditedScene.Open(scene, context, () => folder).With(entries);
        return new(edited.Write(folder), edited.Refused);
    }

    public static EditedFiles Make(string scene, string folder, ReadContext context, params Edit[] edits) =>
        Make(scene, [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)], folder, context);
}
