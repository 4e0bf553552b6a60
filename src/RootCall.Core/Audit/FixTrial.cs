using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Core.Audit;

/// <summary>The scene as it would be with edits made: written into copies and read again from them.</summary>
public static class FixTrial
{
    /// <param name="entries">The ledger's entries, in their order.</param>
    /// <param name="folder">An empty folder for the copies; it must stay as long as the report is used.</param>
    public static (MusterReport Report, EditedFiles Edited) Make(string scene, IReadOnlyList<LedgerEntry> entries, MusterContext context, Bounds bounds, string folder)
    {
        var ledger = new Ledger([.. entries.Select(e => e with { State = EntryState.Applied })]);
        var relinked = context.Relinked.ToImmutableDictionary().SetItems(ledger.Relinks());
        var edited = EditedFiles.Make(scene, ledger.Entries, folder, new(context.Scope, bounds, relinked, null, context.Stop));
        return (CurrentScene.Muster(scene, context with { Relinked = relinked, Edited = edited.Copies }, bounds), edited);
    }
}
