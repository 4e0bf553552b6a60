using System.CommandLine;
using System.Text;
using RootCall.Core.Files;
using RootCall.Demo.Looks;

namespace RootCall.Cli.Verbs;

/// <summary><c>crossings</c>: writes the page that tells how far looks move between shading models; it takes minutes.</summary>
internal static class CrossingsVerb
{
    public static Command Command()
    {
        var file = new Argument<string>("FILE") { Description = "The page to write." };
        var command = new Command("crossings", "Measures all shading models against each other, and writes the page of it.") { file };
        command.SetAction(call =>
        {
            var path = Path.GetFullPath(call.GetValue(file)!);
            var text = CrossingsPage.Text(model => Console.WriteLine(model));
            WholeOrNothing.File(path, to => to.Write(Encoding.UTF8.GetBytes(text)));
            Console.WriteLine($"wrote {path}");
            return 0;
        });
        return command;
    }
}
