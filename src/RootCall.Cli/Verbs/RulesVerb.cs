using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Demo.Examples;
using RootCall.Native;

namespace RootCall.Cli.Verbs;

/// <summary><c>rules</c>: writes the page of every rule, each with its example found and mended for real.</summary>
internal static class RulesVerb
{
    public static Command Command()
    {
        var folder = new Argument<string>("DIR") { Description = "The folder to write into." };
        var command = new Command("rules", "Writes a page for every rule.") { folder };
        command.SetAction(call =>
        {
            using var decoder = new ImageDecoder(Bounds.Default);
            var written = RulePages.Write(Path.GetFullPath(call.GetValue(folder)!), new FileFacts(decoder));
            Console.WriteLine($"wrote {Print.Count(written, "page")} under {Path.GetFullPath(call.GetValue(folder)!)}");
            return 0;
        });
        return command;
    }
}
