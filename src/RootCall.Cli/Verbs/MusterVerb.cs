using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Muster;

namespace RootCall.Cli.Verbs;

/// <summary><c>muster</c>: every reference with its state, and what could answer those that do not.</summary>
internal static class MusterVerb
{
    public static Command Command()
    {
        var (scene, roots, names, format) = (SharedOptions.Scene(), SharedOptions.Roots(), SharedOptions.Names(), SharedOptions.Format());
        var command = new Command("muster", "Lists what a scene calls for, whether it answers, and the candidates.")
        {
            scene,
            roots,
            names,
            format,
        };
        var focus = new FocusOptions();
        focus.AddTo(command);
        command.SetAction(call =>
        {
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!, call.GetValue(names));
            var report = focus.Of(call, opened.Report.Scene)?.Narrow(opened.Report) ?? opened.Report;
            var rules = RelocationRules.Infer(report.References);
            if (call.GetValue(format) == "json")
                Print.Json(MusterJson.Of(report, rules), OutputContext.Default.MusterJson);
            else
                MusterText.Write(Console.Out, report, rules);
            return report.Answering == report.References.Length ? 0 : 1;
        });
        return command;
    }
}
