using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Files;
using RootCall.Core.Imaging;

namespace RootCall.Cli.Verbs;

/// <summary><c>inspect</c>: what the headers of images say.</summary>
internal static class InspectVerb
{
    public static Command Command()
    {
        var images = new Argument<string[]>("IMAGE") { Description = "Image files.", Arity = ArgumentArity.OneOrMore };
        var format = SharedOptions.Format();
        var command = new Command("inspect", "Tells size, channels, depth and colour tag of images, and whether they are whole.")
        {
            images,
            format,
        };
        command.SetAction(call =>
        {
            var paths = call.GetValue(images)!.Select(Path.GetFullPath).ToArray();
            if (paths.FirstOrDefault(p => !File.Exists(p)) is { } absent)
                throw new CannotUseException($"There is no file “{absent}”.");
            var probes = paths.Select(p => (Path: p, Probe: ImageProbe.File(p))).ToArray();
            if (call.GetValue(format) == "json")
                Print.Json(new([.. probes.Select(p => ImageJson.Of(p.Path, p.Probe))]), OutputContext.Default.InspectJson);
            else
            {
                foreach (var (path, probe) in probes)
                {
                    var facts = probe.Facts is { } f ? Print.Facts(f) : "unknown";
                    Console.WriteLine(probe.Damage is null ? $"{path}: {facts}" : $"{path}: {facts}, damaged: {probe.Damage}");
                }
            }

            return probes.Any(p => p.Probe.Damage is not null) ? 1 : 0;
        });
        return command;
    }
}
