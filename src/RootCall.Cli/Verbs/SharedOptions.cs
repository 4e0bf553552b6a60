using System.CommandLine;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;

namespace RootCall.Cli.Verbs;

/// <summary>What several verbs take.</summary>
internal static class SharedOptions
{
    public static Argument<string> Scene() => new("SCENE") { Description = "A scene file; or a folder or .zip that holds one scene." };

    public static Option<string[]> Roots() => new("--root")
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

    public static Option<string?> Names() => new("--names") { Description = "A JSON file with the house's own words for texture names, in place of those that ship." };

    public static Option<bool> Strict() => new("--strict") { Description = "Refuse, and write nothing, when a reference would be left unanswered." };
}

/// <summary>A scene named on the command line, mustered. A zip is unpacked into a place that is removed at the end.</summary>
internal sealed class OpenedScene : IDisposable
{
    private readonly Folders.TemporaryFolder? unpacked;

    private Folders.TemporaryFolder? made;

    private OpenedScene(Folders.TemporaryFolder? unpacked, MusterContext context, MusterReport report)
    {
        this.unpacked = unpacked;
        Context = context;
        Report = report;
    }

    public MusterContext Context { get; }

    public MusterReport Report { get; }

    /// <exception cref="CannotUseException">No such scene or root.</exception>
    public static OpenedScene Open(string scene, string[] roots, string? names = null)
    {
        foreach (var root in roots)
            if (!Directory.Exists(root)) throw new CannotUseException($"There is no folder “{Path.GetFullPath(root)}” to look in.");
        Folders.TemporaryFolder? unpacked = null;
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

            if (!File.Exists(scene)) throw new CannotUseException($"There is no file “{Path.GetFullPath(scene)}”.");
            var scope = CurrentScene.Scope(scene, roots);
            if (names is not null && !File.Exists(names)) throw new CannotUseException($"There is no file “{Path.GetFullPath(names)}”.");
            var context = new MusterContext(scope, RootIndex.Build(scope), new()) { Names = names is null ? NameDictionary.Standard : NameDictionary.Parse(File.ReadAllText(names)) };
            return new(unpacked, context, CurrentScene.Muster(scene, context, Bounds.Default));
        }
        catch
        {
            unpacked?.Dispose();
            throw;
        }
    }

    /// <summary>A report of the scene in a form that can be written; what is made for it goes when this is disposed.</summary>
    public MusterReport Writable(MusterReport report)
    {
        made ??= Folders.Temporary();
        return WritableScene.Make(report, Context, Bounds.Default, made.Path);
    }

    /// <summary>The report after taking every clear candidate.</summary>
    /// <exception cref="CannotUseException">Strict, and something is left.</exception>
    public MusterReport TakeClear(bool strict)
    {
        var (report, _) = CurrentScene.TakeClear(Report, Context, Bounds.Default);
        var left = report.References.Length - report.Answering;
        if (strict && left > 0)
        {
            var first = report.References.First(r => !r.State.Answers());
            throw new CannotUseException($"{left} of {report.References.Length} references would be left unanswered, the first is {first.State.Word()} “{first.Reference.Written}”; nothing was written.");
        }

        return report;
    }

    public void Dispose()
    {
        unpacked?.Dispose();
        made?.Dispose();
    }
}
