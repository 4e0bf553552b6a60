using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Sessions;

/// <summary>
/// One scene in hand: what arrived, its ledger, and what answers. It is the only thing that gives a current scene, in the web,
/// in a worker and on the command line. Immutable: another ledger gives another session that shares what is the same.
/// </summary>
/// <param name="Edited">The scene with the entries that are counted in.</param>
/// <param name="Report">What it calls for, and what answers.</param>
/// <param name="Context">The roots, the files under them and what is known of those.</param>
public sealed record Session(EditedScene Edited, MusterReport Report, MusterContext Context)
{
    public Scene Current => Edited.Current;

    public ImmutableArray<Refusal> Refused => Edited.Refused;

    /// <summary>Reads a scene and musters it.</summary>
    /// <param name="folder">Gives an empty folder for copies, should one be needed; it must stay as long as the session.</param>
    /// <param name="parsed">Files that other scenes of the same delivery were made of.</param>
    /// <exception cref="CannotUseException">The file is no scene that is read here.</exception>
    public static Session Open(
        string path,
        MusterContext context,
        Bounds bounds,
        Func<string> folder,
        Action<string>? progress = null,
        ParsedFiles? parsed = null
    )
    {
        var reading = new ReadContext(context.Scope, bounds, context.Relinked, progress, context.Stop)
        {
            Edited = context.Edited,
            Parsed = parsed,
        };
        return Of(EditedScene.Open(path, reading, folder), context);
    }

    /// <summary>A scene that was read, mustered.</summary>
    public static Session Of(EditedScene edited, MusterContext context)
    {
        context.Index.Prepare(context.Names);
        return new(edited, Mustering.Run(edited.Current, context), context);
    }

    /// <summary>The same scene with these entries applied.</summary>
    public Session With(IEnumerable<LedgerEntry> entries)
    {
        var edited = Edited.With(entries);
        return new(edited, Mustering.Run(edited.Current, Context with { Edited = edited.Reading.Edited }, Report), Context);
    }

    /// <summary>One more entry.</summary>
    public Session And(LedgerEntry entry) => With(Edited.Entries.Append(entry));

    /// <summary>Every clear candidate taken, libraries first, as entries of the ledger; the rest is left as it is.</summary>
    /// <param name="entryOf">Makes an entry of edits.</param>
    /// <param name="only">Numbers of the references that may be decided; null for all.</param>
    public Session TakeClear(Func<ImmutableArray<Edit>, LedgerEntry> entryOf, IReadOnlySet<int>? only = null)
    {
        var session = this;
        while (true)
        {
            var clear = session
                .Report.References.Where(r => r.Clear is not null && only?.Contains(r.Number) != false)
                .Select(r => (Edit)CurrentScene.Take(r))
                .ToImmutableArray();
            if (clear.IsEmpty)
                return session;
            session = session.And(entryOf(clear));
        }
    }

    /// <summary>The scene as it is written: with the copies of its own files that edits changed, read again and mustered.</summary>
    /// <param name="folder">An empty folder for the copies; it must stay as long as the report is used.</param>
    /// <exception cref="CannotUseException">Something of the current scene cannot be written.</exception>
    public MusterReport Written(string folder)
    {
        var copies = Edited.Write(folder);
        if (copies.Count == 0 && Current.Answers.IsEmpty)
            return Report;
        var reading = Edited.Reading with { Edited = copies };
        var scene = copies.Count == 0 ? Current : SceneFormats.Read(Current.Path, reading) with { Answers = Current.Answers };
        return Mustering.Run(scene, Context with { Edited = copies });
    }
}
