using System.Collections.Immutable;
using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;

namespace RootCall.Cli.Verbs;

/// <summary>
/// <c>extract</c> and <c>embed</c>: a copy of the scene with the images it carries beside it, or with those beside it
/// inside.
/// </summary>
internal static class CarriedVerbs
{
    public static Command Extract() =>
        Verb("extract", "Writes a copy of the scene with the images it carries taken out into files.", (opened, folder) =>
        {
            var plan = CarriedImages.Plan(opened.Report, opened.Report.References.Select(r => r.Number), folder);
            if (plan.IsEmpty)
                throw new CannotUseException("The scene carries no images inside.");
            CarriedImages.WriteFiles(opened.Report, plan);
            opened.Apply([
                OpenedScene.Entry(
                    $"Extract {(plan.Length == 1 ? "1 image" : $"{plan.Length} images")}",
                    CarriedImages.Edits(opened.Report, plan)
                ),
            ]);
            return [.. plan.Select(p => p.File).Distinct(StringComparer.Ordinal)];
        });

    public static Command Embed() => Verb("embed", "Writes a copy of the scene with the images that answer carried inside.", (opened, _) =>
        {
            opened.TakeClear();
            var edits = opened
                .Report.References.Where(r =>
                    r.Reference.Kind == Core.Scenes.ReferenceKind.Image
                    && r.Reference.Carried is null
                    && r.State == ReferenceState.Present
                    && r.Tiles.IsEmpty
                )
                .Select(r => (Edit)new CarryImage(r.Reference.Key, r.Resolved!))
                .ToImmutableArray();
            if (edits.IsEmpty)
                throw new CannotUseException("No image that answers lies outside the scene.");
            opened.Apply([OpenedScene.Entry($"Carry {(edits.Length == 1 ? "1 image" : $"{edits.Length} images")} inside", edits)]);
            return [];
        });

    private static Command Verb(string name, string what, Func<OpenedScene, string, string[]> act)
    {
        var (scene, roots, format) = (SharedOptions.Scene(), SharedOptions.Roots(), SharedOptions.Format());
        var output = SharedOptions.Out("The folder to write into.");
        var command = new Command(name, what) { scene, roots, output, format };
        command.SetAction(call =>
        {
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!);
            // Links are followed now: paths are written from where the files really lie.
            var folder = RootScope.RealPath(Path.GetFullPath(call.GetValue(output)!));
            opened.Widen(folder);
            var files = act(opened, folder);
            var result = RelinkedCopy.Write(opened.Writable(), folder);
            var ledger = opened.WriteLedger(folder);
            if (call.GetValue(format) == "json")
                Print.Json(
                    RelinkJson.Of(result with { Written = [.. result.Written, .. files] }, ledger),
                    OutputContext.Default.RelinkJson
                );
            else
                foreach (var path in result.Written.Concat(files).Append(ledger))
                    Console.WriteLine($"wrote {path}");
            return result.Left.IsEmpty ? 0 : 1;
        });
        return command;
    }
}
