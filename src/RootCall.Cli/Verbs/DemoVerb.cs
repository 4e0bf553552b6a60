using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Demo;

namespace RootCall.Cli.Verbs;

/// <summary><c>demo</c>: writes the demo scenes, their textures and the answer key.</summary>
internal static class DemoVerb
{
    public static Command Command()
    {
        var (folder, format) = (new Argument<string>("DIR") { Description = "The folder to write into." }, SharedOptions.Format());
        var command = new Command("demo", "Writes the scenes of The Tin Orchard, their textures and the answer key.") { folder, format };
        command.SetAction(call =>
        {
            var written = DemoWriter.Write(Path.GetFullPath(call.GetValue(folder)!));
            if (call.GetValue(format) == "json")
                Print.Json(new([.. written]), OutputContext.Default.DemoJson);
            else
                Console.WriteLine($"wrote {Print.Count(written.Count, "file")} under {Path.GetFullPath(call.GetValue(folder)!)}");
            return 0;
        });
        return command;
    }
}
