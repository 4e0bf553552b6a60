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
        var (names, paths) = (
            SharedOptions.Names(),
            new Option<string>("--paths")
            {
                Description =
                    "How paths are written: relative (to the file that writes them), root (to the root that answers) or absolute.",
                DefaultValueFactory = _ => "relative",
            }
        );
        paths.AcceptOnlyFromAmong("relative", "root", "absolute");
        var decisions = new DecisionOptions();
        var command = new Command("relink", "Writes a copy of the scene that calls the files that were found.")
        {
            scene,
            roots,
            names,
            output,
            paths,
            strict,
            format,
        };
        decisions.AddTo(command);
        command.SetAction(call =>
        {
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!, call.GetValue(names));
            var replayed = decisions.Make(call, opened, call.GetValue(strict));
            var report = opened.Report;
            var style = call.GetValue(paths) switch
            {
                "root" => PathStyle.RootRelative,
                "absolute" => PathStyle.Absolute,
                _ => PathStyle.Relative,
            };
            if (style != PathStyle.Relative)
                opened.Apply([
                    Decisions.Style(
                        report,
                        null,
                        style,
                        opened.Session.Current.Answers,
                        opened.Context.Scope.Folders,
                        DateTimeOffset.Now
                    ) with
                    {
                        State = EntryState.Applied,
                    },
                ]);
            var folder = Path.GetFullPath(call.GetValue(output)!);
            var result = RelinkedCopy.Write(opened.Writable(replayed), folder, opened.Session.Current.Answers).NumberedAs(report);
            var ledger = opened.Session.Edited.Entries.Any() ? opened.WriteLedger(folder) : null;
            if (call.GetValue(format) == "json")
                Print.Json(RelinkJson.Of(result, ledger), OutputContext.Default.RelinkJson);
            else
            {
                foreach (var path in result.Written)
                    Console.WriteLine($"wrote {path}");
                if (ledger is not null)
                    Console.WriteLine($"wrote {ledger}");
                foreach (var (reference, to) in result.Changed)
                    Console.WriteLine($"  {reference.Reference.Written} -> {to}");
                foreach (var refusal in replayed)
                    Console.WriteLine($"  no longer applies: {refusal.Edit.Describe()}: {refusal.Reason}");
                foreach (var left in result.Left)
                    Console.WriteLine($"  left: {left.State.Word()} {left.Reference.Written}");
            }

            return result.Left.IsEmpty && replayed.IsEmpty ? 0 : 1;
        });
        return command;
    }
}
