using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Transfer;

namespace RootCall.Cli.Verbs;

/// <summary><c>compare</c>: what did not survive between two scenes that should show the same asset.</summary>
internal static class CompareVerb
{
    public static Command Command()
    {
        var a = new Argument<string>("A") { Description = "What the source described: a scene file, or a folder or .zip that holds one." };
        var b = new Argument<string>("B") { Description = "What arrived." };
        var (roots, format) = (SharedOptions.Roots(), SharedOptions.Format());
        var command = new Command("compare", "Tells what is missing, extra or different in B beside A.") { a, b, roots, format };
        command.SetAction(call =>
        {
            using var source = OpenedScene.Open(call.GetValue(a)!, call.GetValue(roots)!);
            using var arrived = OpenedScene.Open(call.GetValue(b)!, call.GetValue(roots)!);
            var report = TransferCheck.Compare(source.Report, arrived.Report);
            if (call.GetValue(format) == "json")
                Print.Json(CompareJson.Of(report, source.Report.Scene.Path, arrived.Report.Scene.Path), OutputContext.Default.CompareJson);
            else
            {
                foreach (var family in report.Families)
                {
                    Console.WriteLine(family.Sentence);
                    foreach (var row in family.Rows)
                        Console.WriteLine(
                            $"  {row.Kind} {row.Name}: {row.A ?? "nothing"} -> "
                                + $"{row.B ?? "nothing"}{(row.WhyNot is null ? string.Empty : $" ({row.WhyNot})")}"
                        );
                }

                if (report.Rows.IsEmpty)
                    Console.WriteLine("nothing was lost");
            }

            return report.Rows.IsEmpty ? 0 : 1;
        });
        return command;
    }
}
