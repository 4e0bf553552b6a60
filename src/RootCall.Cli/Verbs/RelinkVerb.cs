using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;

namespace RootCall.Cli.Verbs;

/// <summary><c>relink</c>: a copy of the scene's own files, from where every reference that can be resolved resolves.</summary>
internal static class RelinkVerb
{
    public static Command Command()
    {
        var (scene, roots, format, strict) = (SharedOptions.Scene(), SharedOptions.Roots(), SharedOptions.Format(), SharedOptions.Strict());
        var output = SharedOptions.Out("The folder to write into; no image or buffer is copied.");
        var command = new Command("relink", "Writes a copy of the scene that calls the files that were found.") { scene, roots, output, strict, format };
        command.SetAction(call =>
        {
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!);
            var report = opened.TakeClear(call.GetValue(strict));
            var result = RelinkedCopy.Write(opened.Writable(report), Path.GetFullPath(call.GetValue(output)!)).NumberedAs(report);
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
}
