using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats;

namespace RootCall.Core.Edits;

/// <summary>An edit that could not be made, and why.</summary>
public sealed record Refusal(LedgerEntry Entry, Edit Edit, string Reason);

/// <summary>Copies of a scene's own files with the look edits of a ledger made.</summary>
/// <param name="Copies">Where the changed copy of each changed file lies, by the path of the file.</param>
/// <param name="Refused">Edits that no longer apply; all others are made.</param>
public sealed record EditedFiles(ImmutableDictionary<string, string> Copies, ImmutableArray<Refusal> Refused)
{
    public static EditedFiles None { get; } = new(ImmutableDictionary<string, string>.Empty, []);

    /// <summary>Makes the edits entry by entry: each is made on what the ones before it left.</summary>
    /// <param name="scene">Path of the scene as it arrived.</param>
    /// <param name="folder">An empty folder for the copies; the caller removes it.</param>
    /// <param name="context">How own files are found and read.</param>
    public static EditedFiles Make(string scene, IEnumerable<LedgerEntry> entries, string folder, ReadContext context)
    {
        var copies = ImmutableDictionary<string, string>.Empty;
        var refused = ImmutableArray.CreateBuilder<Refusal>();
        foreach (var entry in entries)
        {
            var looks = entry.Edits.OfType<LookEdit>().ToList();
            if (looks.Count == 0) continue;
            context.Stop.ThrowIfCancellationRequested();
            copies = Together(scene, entry, looks, folder, context, copies, refused);
        }

        return new(copies, refused.ToImmutable());
    }

    private static ImmutableDictionary<string, string> Together(
        string scene, LedgerEntry entry, List<LookEdit> looks, string folder, ReadContext context, ImmutableDictionary<string, string> copies, ImmutableArray<Refusal>.Builder refused)
    {
        try
        {
            return Apply(scene, looks, folder, context with { Edited = copies }, copies);
        }
        catch (Exception e) when (e is CannotUseException or ArgumentException)
        {
            if (looks.Count > 1)
            {
                // One of them does not apply: make the others by themselves.
                foreach (var look in looks) copies = Together(scene, entry, [look], folder, context, copies, refused);
                return copies;
            }

            refused.Add(new(entry, looks[0], e is CannotUseException ? e.Message : "It touches the same bytes as another edit."));
            return copies;
        }
    }

    private static ImmutableDictionary<string, string> Apply(
        string path, List<LookEdit> looks, string folder, ReadContext context, ImmutableDictionary<string, string> copies)
    {
        var scene = SceneFormats.Read(path, context);
        var changes = SceneFormats.Of(path).LookEdits(scene, looks);
        foreach (var file in changes.Edits)
        {
            var source = scene.Files[file.Key];
            var copy = Path.Combine(folder, $"{Guid.NewGuid():N}{Path.GetExtension(source.Path)}");
            WholeOrNothing.File(copy, to =>
            {
                using var from = source.Open();
                SplicedCopy.Write(from, to, file, context.Stop);
            });
            copies = copies.SetItem(source.Path, copy);
        }

        foreach (var (added, bytes) in changes.Added)
        {
            var copy = Path.Combine(folder, $"{Guid.NewGuid():N}{Path.GetExtension(added)}");
            WholeOrNothing.File(copy, to => to.Write(bytes));
            copies = copies.SetItem(added, copy);
        }

        return copies;
    }
}
