using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>An edit that could not be made, and why.</summary>
public sealed record Refusal(LedgerEntry Entry, Edit Edit, string Reason);

/// <summary>
/// Arrived scene + ledger = current scene. Entries are applied in memory, each on what the ones before it left; what each left
/// is kept, so that taking entries off again costs nothing. Files are read once when it is opened, and again only where an
/// entry reaches further than can be told in memory. Immutable: another ledger gives another edited scene that shares what is
/// the same.
/// </summary>
public sealed class EditedScene
{
    private readonly ReadContext reading;
    private readonly Func<string>? folder;
    private readonly ImmutableList<Step> steps;

    /// <summary>Of the current scene; one ledger's entries hand it on, so that most find it made.</summary>
    private readonly SceneIndex index;

    private EditedScene(ReadContext reading, Func<string>? folder, ImmutableList<Step> steps, SceneIndex index) =>
        (this.reading, this.folder, this.steps, this.index) = (reading, folder, steps, index);

    /// <summary>The scene after one entry.</summary>
    /// <param name="Entry">Null for the scene before the first.</param>
    /// <param name="Basis">The scene as the files say it: those that arrived, or <paramref name="Copies"/> of them.</param>
    /// <param name="Copies">Copies that an entry made necessary, by the path of the file.</param>
    private sealed record Step(
        LedgerEntry? Entry,
        Scene Basis,
        ImmutableDictionary<string, string> Copies,
        Scene Current,
        ImmutableArray<Refusal> Refused,
        bool Waits = false
    );

    /// <summary>The scene before the first entry.</summary>
    public Scene Arrived => steps[0].Current;

    public Scene Current => steps[^1].Current;

    /// <summary>Edits that do not apply; all others are made.</summary>
    public ImmutableArray<Refusal> Refused => [.. steps.SelectMany(s => s.Refused)];

    /// <summary>Entries reach further than can be told in memory, and files cannot be read here: somebody else has to.</summary>
    public bool Waits => steps.Exists(s => s.Waits);

    /// <summary>The entries that were applied, in their order.</summary>
    public IEnumerable<LedgerEntry> Entries => steps.Select(s => s.Entry).OfType<LedgerEntry>();

    /// <summary>
    /// The entries up to the last one for which files had to be read again: what they changed stands in <see
    /// cref="Basis"/>.
    /// </summary>
    public IEnumerable<LedgerEntry> InBasis
    {
        get
        {
            var last = steps.Count - 1;
            while (last > 0 && ReferenceEquals(steps[last].Basis, steps[last - 1].Basis))
                last--;
            return steps.Take(last + 1).Select(s => s.Entry).OfType<LedgerEntry>();
        }
    }

    /// <summary>The scene as its files say it, after the last entry for which they had to be read again.</summary>
    public Scene Basis => steps[^1].Basis;

    /// <summary>How the files of <see cref="Basis"/> are read.</summary>
    public ReadContext Reading => With(steps[^1].Current, steps[^1].Copies);

    /// <summary>Reads a scene.</summary>
    /// <param name="folder">Gives an empty folder for copies, should one be needed; it must stay as long as the scene is used.</param>
    /// <exception cref="CannotUseException">The file is no scene that is read here.</exception>
    public static EditedScene Open(string path, ReadContext reading, Func<string>? folder) =>
        Of(SceneFormats.Read(path, reading), reading, folder);

    /// <summary>A scene that was read before.</summary>
    /// <param name="folder">Null where files must not be read.</param>
    public static EditedScene Of(Scene scene, ReadContext reading, Func<string>? folder) =>
        new(reading, folder, [new(null, scene, reading.Edited.ToImmutableDictionary(), scene, [])], new(scene));

    /// <summary>The same scene with these entries applied; what is the same at the beginning is not applied again.</summary>
    public EditedScene With(IEnumerable<LedgerEntry> entries)
    {
        var wanted = entries.ToList();
        var same = 0;
        while (
            same < wanted.Count
            && same + 1 < steps.Count
            && steps[same + 1].Entry is { } known
            && known.Id == wanted[same].Id
            && known.Edits.SequenceEqual(wanted[same].Edits)
        )
            same++;
        var next = steps.RemoveRange(same + 1, steps.Count - same - 1);
        var at = next.Count == steps.Count ? index : new(next[^1].Current);
        foreach (var entry in wanted.Skip(same))
        {
            reading.Stop.ThrowIfCancellationRequested();
            next = next.Add(Apply(next[^1], entry, ref at));
        }

        return new(reading, folder, next, at);
    }

    /// <summary>One more entry.</summary>
    public EditedScene And(LedgerEntry entry) => With(Entries.Append(entry));

    /// <summary>Copies of the own files that edits changed, by the path of the file. What is not among them is as it arrived.</summary>
    /// <param name="into">An empty folder.</param>
    /// <exception cref="CannotUseException">Something of the current scene cannot be written.</exception>
    public ImmutableDictionary<string, string> Write(string into) => Written(steps[^1].Basis, steps[^1].Current, steps[^1].Copies, into);

    private ReadContext With(Scene current, ImmutableDictionary<string, string> copies) =>
        reading with
        {
            Edited = copies,
            Relinked = current
                .Answers.Where(a => a.Key.Kind.IsOwnFile() && a.Value.File is not null)
                .ToDictionary(a => a.Key, a => a.Value.File!),
        };

    /// <param name="index">Of the scene before, then of the scene after.</param>
    private Step Apply(Step before, LedgerEntry entry, ref SceneIndex index)
    {
        var refused = ImmutableArray.CreateBuilder<Refusal>();
        var at = before with { Waits = false };
        var draft = new SceneDraft(index);
        foreach (var edit in entry.Edits)
        {
            if (edit is RestoreScene)
                Settle(entry, refused, ref at, ref draft);
            var why = edit.Change(draft);
            if (why is not null && draft.Ripples)
            {
                // What it asks for may be there once the files were read again.
                Settle(entry, refused, ref at, ref draft);
                why = edit.Change(draft);
            }

            if (why is not null)
                refused.Add(new(entry, edit, why));
            if (edit is RestoreScene)
                Settle(entry, refused, ref at, ref draft);
        }

        Settle(entry, refused, ref at, ref draft);
        index = draft.Index;
        return at with { Entry = entry, Refused = refused.ToImmutable() };
    }

    /// <summary>Builds what is in the draft, and reads the files again where that is needed.</summary>
    private void Settle(LedgerEntry entry, ImmutableArray<Refusal>.Builder refused, ref Step at, ref SceneDraft draft)
    {
        var scene = draft.Build(SceneFormats.Of(at.Current.Path).Capabilities.References);
        if (!draft.Ripples || folder is null)
            at = at with { Current = scene, Waits = at.Waits || draft.Ripples };
        else
        {
            try
            {
                var copies = Written(at.Basis, scene, at.Copies, folder());
                var read = SceneFormats.Read(scene.Path, With(scene, copies)) with { Answers = scene.Answers };
                at = at with { Basis = read, Copies = copies, Current = read };
            }
            catch (CannotUseException e)
            {
                refused.Add(new(entry, entry.Edits[0], e.Message));
            }
        }

        draft = new(ReferenceEquals(at.Current, scene) ? draft.IndexOf(scene) : new(at.Current));
    }

    private static bool Says(Scene a, Scene b) =>
        a.Materials == b.Materials
        && a.Meshes == b.Meshes
        && a.Nodes == b.Nodes
        && a.Variants == b.Variants
        && a.Files == b.Files
        && a.References == b.References;

    private ImmutableDictionary<string, string> Written(Scene basis, Scene current, ImmutableDictionary<string, string> copies, string into)
    {
        // What answers for references is no matter of the files.
        if (Says(basis, current))
            return copies;
        OwnChanges changes;
        try
        {
            changes = SceneFormats.Of(basis.Path).Changes(basis, current);
        }
        catch (ArgumentException e)
        {
            throw new CannotUseException("Two edits want to change the same bytes.", e);
        }

        foreach (var file in changes.Edits)
        {
            var source = basis.Files[file.Key];
            var copy = Path.Combine(into, $"{Guid.NewGuid():N}{Path.GetExtension(source.Path)}");
            WholeOrNothing.File(copy, to =>
            {
                using var from = source.Open();
                SplicedCopy.Write(from, to, file, reading.Stop);
            });
            copies = copies.SetItem(source.Path, copy);
        }

        foreach (var (added, bytes) in changes.Added)
        {
            var copy = Path.Combine(into, $"{Guid.NewGuid():N}{Path.GetExtension(added)}");
            WholeOrNothing.File(copy, to => to.Write(bytes));
            copies = copies.SetItem(added, copy);
        }

        return copies;
    }
}
