using System.Collections.Immutable;
using System.CommandLine;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Core.Sessions;
using RootCall.Native;

namespace RootCall.Cli.Verbs;

/// <summary>What several verbs take.</summary>
internal static class SharedOptions
{
    public static Argument<string> Scene() => new("SCENE") { Description = "A scene file; or a folder or .zip that holds one scene." };

    public static Option<string[]> Roots() =>
        new("--root")
        {
            Description = "A folder to look in, with all its subfolders. May be given several times.",
            AllowMultipleArgumentsPerToken = true,
            DefaultValueFactory = _ => [],
        };

    public static Option<string> Format()
    {
        var option = new Option<string>("--format") { Description = "json or text.", DefaultValueFactory = _ => "text" };
        option.AcceptOnlyFromAmong("json", "text");
        return option;
    }

    public static Option<string> Out(string what) => new("--out") { Description = what, Required = true };

    public static Option<string?> Names() =>
        new("--names") { Description = "A JSON file with the house's own words for texture names, in place of those that ship." };

    public static Option<string> Destination() =>
        new("--destination")
        {
            Description = "What the scene must run on: the id of one that ships, or a JSON file.",
            DefaultValueFactory = _ => "plain",
        };

    public static Option<string?> HouseRules() =>
        new("--house-rules") { Description = "A JSON file with the house's rules, severities, thresholds and patterns." };

    public static Option<bool> Strict() =>
        new("--strict") { Description = "Refuse, and write nothing, when a reference would be left unanswered." };
}

/// <summary>A scene named on the command line, mustered. A zip is unpacked into a place that is removed at the end.</summary>
internal sealed class OpenedScene : IDisposable
{
    private readonly Folders.TemporaryFolder? unpacked;
    private readonly Folders.TemporaryFolder made;

    private readonly ImageDecoder decoder;

    private OpenedScene(Folders.TemporaryFolder? unpacked, Folders.TemporaryFolder made, ImageDecoder decoder, Session session)
    {
        this.unpacked = unpacked;
        this.made = made;
        this.decoder = decoder;
        Session = session;
    }

    public Session Session { get; private set; }

    public ImageDecoder Decoder => decoder;

    public MusterContext Context => Session.Context;

    public MusterReport Report => Session.Report;

    /// <exception cref="CannotUseException">No such scene or root.</exception>
    /// <param name="beside">Whether to look for files beside those in use: an audit needs them.</param>
    public static OpenedScene Open(string scene, string[] roots, string? names = null, bool beside = false)
    {
        foreach (var root in roots)
            if (!Directory.Exists(root))
                throw new CannotUseException($"There is no folder “{Path.GetFullPath(root)}” to look in.");
        Folders.TemporaryFolder? unpacked = null;
        var made = Folders.Temporary();
        var decoder = new ImageDecoder(Bounds.Default);
        try
        {
            if (File.Exists(scene) && scene.EndsWith(".zip", StringComparison.OrdinalIgnoreCase))
            {
                unpacked = Folders.Temporary();
                ZipIntake.Unpack(scene, unpacked.Path, Bounds.Default);
                scene = SceneFinder.In(unpacked.Path);
            }
            else if (Directory.Exists(scene))
            {
                scene = SceneFinder.In(Path.GetFullPath(scene));
            }

            if (!File.Exists(scene))
                throw new CannotUseException($"There is no file “{Path.GetFullPath(scene)}”.");
            var scope = CurrentScene.Scope(scene, roots);
            if (names is not null && !File.Exists(names))
                throw new CannotUseException($"There is no file “{Path.GetFullPath(names)}”.");
            var words = names is null ? NameDictionary.Standard : NameDictionary.Parse(File.ReadAllText(names));
            // A scene is read on one thread; meanwhile others list the roots, and make what references are looked up by.
            var index = Task.Run(() =>
            {
                var built = RootIndex.Build(scope);
                built.Prepare(words);
                return built;
            });
            var edited = EditedScene.Open(scene, new ReadContext(scope, Bounds.Default), () => Inside(made));
            var context = new MusterContext(scope, index.GetAwaiter().GetResult(), new(decoder)) { LooksBeside = beside, Names = words };
            return new(unpacked, made, decoder, Session.Of(edited, context));
        }
        catch
        {
            unpacked?.Dispose();
            made.Dispose();
            decoder.Dispose();
            throw;
        }
    }

    /// <summary>Files in that folder may answer too.</summary>
    public void Widen(string folder) =>
        Session = Session with { Context = Context with { Scope = new([.. Context.Scope.Folders, folder]) } };

    /// <summary>Applies entries on top of those that are applied.</summary>
    public void Apply(IEnumerable<LedgerEntry> entries) => Session = Session.With(Session.Edited.Entries.Concat(entries));

    /// <summary>Takes every clear candidate.</summary>
    /// <exception cref="CannotUseException">Strict, and something is left.</exception>
    /// <param name="only">References that may be decided; null for all.</param>
    public MusterReport TakeClear(IReadOnlySet<int>? only = null, bool strict = false)
    {
        Session = Session.TakeClear(edits => Entry("Take every clear candidate", edits), only);
        var left = Report.References.Length - Report.Answering;
        if (strict && left > 0)
        {
            var first = Report.References.First(r => !r.State.Answers());
            throw new CannotUseException(
                $"{left} of {Report.References.Length} references would be left unanswered, the first is {first.State.Word()} "
                    + $"“{first.Reference.Written}”; nothing was written."
            );
        }

        return Report;
    }

    /// <summary>The current scene in a form that can be written; what is made for it goes when this is disposed.</summary>
    /// <exception cref="CannotUseException">One of the edits does not apply.</exception>
    /// <param name="known">Refusals that the caller tells of itself.</param>
    public MusterReport Writable(IReadOnlyCollection<Refusal>? known = null)
    {
        if (Session.Refused.FirstOrDefault(r => known?.Contains(r) != true) is { } first)
            throw new CannotUseException($"{first.Edit.Describe()}: {first.Reason} Nothing was written.");
        return WritableScene.Make(Session.Written(Inside(made)), Context, Bounds.Default, Inside(made));
    }

    /// <summary>What an audit is made of. A map that lies elsewhere is looked into there, so clear candidates are taken first.</summary>
    /// <exception cref="CannotUseException">No such destination or house rules.</exception>
    public AuditScene Audit(string destination, string? houseRules)
    {
        var going = DestinationFiles.Open(destination);
        var house = House(houseRules);
        TakeClear();
        var measured = ImageMeasures.Read(Report, Context.Facts);
        // What decoding found broken answers no longer.
        var report = measured.Broken.IsEmpty ? Report : Mustering.Judge(Report, Context.Facts);
        return new(report, measured.Pixels, going, house, Context.Names);
    }

    /// <exception cref="CannotUseException">The file is not there, or is no house rules.</exception>
    public static HouseRules House(string? houseRules) =>
        houseRules is null ? HouseRules.Standard
        : File.Exists(houseRules) ? HouseRules.Read(File.ReadAllText(houseRules), Path.GetFileName(houseRules))
        : throw new CannotUseException($"There is no file “{Path.GetFullPath(houseRules)}”.");

    /// <summary>Writes the ledger of what was done beside what was written.</summary>
    /// <returns>Its absolute path.</returns>
    public string WriteLedger(string folder)
    {
        var ledger = Path.Combine(folder, Path.ChangeExtension(Path.GetFileName(Report.Scene.Path), ".ledger.json"));
        WholeOrNothing.File(ledger, to => to.Write(LedgerFile.Write(Session.Edited.Entries)));
        return ledger;
    }

    public static LedgerEntry Entry(string sentence, ImmutableArray<Edit> edits) =>
        new(Guid.CreateVersion7(), sentence, edits, EntryState.Applied, "command line", DateTimeOffset.Now);

    private static string Inside(Folders.TemporaryFolder folder) =>
        Directory.CreateDirectory(Path.Combine(folder.Path, Guid.NewGuid().ToString("N"))).FullName;

    public void Dispose()
    {
        unpacked?.Dispose();
        made.Dispose();
        decoder.Dispose();
    }
}
