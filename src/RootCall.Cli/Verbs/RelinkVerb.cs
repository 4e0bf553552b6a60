using System.Collections.Immutable;
using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Edits;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;

namespace RootCall.Cli.Verbs;

/// <summary><c>relink</c>: a copy of the scene's own files, from where every reference that can be resolved resolves.</summary>
internal static class RelinkVerb
{
    public static Command Command()
    {
        var (scene, roots, format, strict) = (SharedOptions.Scene(), SharedOptions.Roots(), SharedOptions.Format(), SharedOptions.Strict());
        var output = SharedOptions.Out("The folder to write into; no image or buffer is copied.");
        var (names, paths) = (SharedOptions.Names(), new Option<string>("--paths") { Description = "How paths are written: relative (to the file that writes them), root (to the root that answers) or absolute.", DefaultValueFactory = _ => "relative" });
        paths.AcceptOnlyFromAmong("relative", "root", "absolute");
        var command = new Command("relink", "Writes a copy of the scene that calls the files that were found.") { scene, roots, names, output, paths, strict, format };
        command.SetAction(call =>
        {
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!, call.GetValue(names));
            var report = opened.TakeClear(call.GetValue(strict));
            var writable = opened.Writable();
            var style = call.GetValue(paths) switch { "root" => PathStyle.RootRelative, "absolute" => PathStyle.Absolute, _ => PathStyle.Relative };
            var result = RelinkedCopy.Write(writable, Path.GetFullPath(call.GetValue(output)!), Styles(writable, style, opened.Context.Scope.Folders)).NumberedAs(report);
            if (call.GetValue(format) == "json") Print.Json(RelinkJson.Of(result), OutputContext.Default.RelinkJson);
            else
            {
                foreach (var path in result.Written) Console.WriteLine($"wrote {path}");
                foreach (var (reference, to) in result.Changed) Console.WriteLine($"  {reference.Reference.Written} -> {to}");
                foreach (var left in result.Left) Console.WriteLine($"  left: {left.State.Word()} {left.Reference.Written}");
            }

            return result.Left.IsEmpty ? 0 : 1;
        });
        return command;
    }

    private static ImmutableDictionary<ReferenceKey, Answer> Styles(MusterReport report, PathStyle style, IReadOnlyCollection<string> roots) => style == PathStyle.Relative ? ImmutableDictionary<ReferenceKey, Answer>.Empty :
        Decisions.Style(report, null, style, ImmutableDictionary<ReferenceKey, Answer>.Empty, roots, DateTimeOffset.Now).Edits.OfType<SetPathStyle>().ToImmutableDictionary(s => s.Reference, s => new Answer(Style: s.To, Root: s.Root));
}
