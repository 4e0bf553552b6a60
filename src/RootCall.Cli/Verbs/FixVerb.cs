using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Audit;
using RootCall.Core.Files;
using RootCall.Core.SendOff;

namespace RootCall.Cli.Verbs;

/// <summary><c>fix</c>: a copy of the scene with the fixes of rules or of a recipe made, and the ledger of what was done.</summary>
internal static class FixVerb
{
    public static Command Command()
    {
        var (scene, roots, names, destination, house, format) = (
            SharedOptions.Scene(),
            SharedOptions.Roots(),
            SharedOptions.Names(),
            SharedOptions.Destination(),
            SharedOptions.HouseRules(),
            SharedOptions.Format()
        );
        var only = AuditVerb.Only("Take the fixes of these rules or families.");
        var recipe = new Option<string?>("--recipe") { Description = "Take the steps of this recipe (a JSON file)." };
        var safe = new Option<bool>("--safe") { Description = $"Leave out fixes that are less sure than {Fix.SafeFrom}." };
        var dry = new Option<bool>("--dry-run") { Description = "Write nothing; tell what would be done." };
        var output = new Option<string?>("--out") { Description = "The folder to write into; no image or buffer is copied." };
        var command = new Command("fix", "Writes a copy of the scene with fixes made, and its ledger.")
        {
            scene,
            roots,
            names,
            destination,
            house,
            only,
            recipe,
            safe,
            dry,
            output,
            format,
        };
        var focus = new FocusOptions();
        focus.AddTo(command);
        command.SetAction(call =>
        {
            if ((call.GetValue(only)!.Length == 0) == (call.GetValue(recipe) is null))
                throw new CannotUseException("Name rules with --rule, or a recipe with --recipe.");
            if (call.GetValue(output) is null && !call.GetValue(dry))
                throw new CannotUseException("Name a folder with --out, or ask what would be done with --dry-run.");
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!, call.GetValue(names), beside: true);
            var audited = opened.Audit(call.GetValue(destination)!, call.GetValue(house));
            var picked = focus.Of(call, audited.Scene);
            var plan = Plan(audited, picked, call.GetValue(recipe), call.GetValue(only)!, call.GetValue(safe) ? Fix.SafeFrom : 0);
            var result = call.GetValue(dry) ? new([], string.Empty) : Write(opened, plan, Path.GetFullPath(call.GetValue(output)!));
            Tell(call.GetValue(format)!, plan, result);
            return plan.Left.IsEmpty ? 0 : 1;
        });
        return command;
    }

    private static FixPlan Plan(AuditScene audited, AuditFocus? focus, string? recipe, string[] rules, double least)
    {
        var report = AuditRun.Make(audited, rules: recipe is null ? AuditVerb.Rules(rules) : null);
        report = focus?.Narrow(audited, report) ?? report;
        return Read(recipe) is { } read
            ? read.Run(audited, report, m => focus?.Materials.Contains(m.Name) != false).Plan
            : FixPlan.Make(report.Findings, least);
    }

    /// <summary>Null when none was named.</summary>
    public static Recipe? Read(string? recipe) =>
        recipe is null ? null
        : File.Exists(recipe) ? Recipe.Read(File.ReadAllText(recipe), Path.GetFileName(recipe))
        : throw new CannotUseException($"There is no file “{Path.GetFullPath(recipe)}”.");

    private static (string[] Written, string Ledger) Write(OpenedScene opened, FixPlan plan, string folder)
    {
        if (!plan.Edits.IsEmpty)
            opened.Apply([OpenedScene.Entry(plan.Count(), plan.Edits)]);
        var written = RelinkedCopy.Write(opened.Writable(), folder).Written;
        var ledger = opened.WriteLedger(folder);
        return ([.. written, ledger], ledger);
    }

    private static void Tell(string format, FixPlan plan, (string[] Written, string Ledger) result)
    {
        if (format == "json")
        {
            Print.Json(
                new(
                    result.Written,
                    [.. plan.Fixed.Select(f => new AppliedJson(f.Rule, f.Target.ToString(), f.Fixes[0].Title))],
                    [.. plan.Left.Select(l => new SkippedJson(l.Finding.Rule, l.Finding.Target.ToString(), l.Reason))],
                    result.Ledger
                ),
                OutputContext.Default.FixJson
            );
            return;
        }

        foreach (var path in result.Written)
            Console.WriteLine($"wrote {path}");
        Console.WriteLine(plan.Edits.IsEmpty ? "nothing to fix" : $"{(result.Written.Length == 0 ? "would make" : "made")} {plan.Count()}");
        foreach (var fixedOne in plan.Fixed)
            Console.WriteLine($"  {fixedOne.Target}: {fixedOne.Fixes[0].Title}");
        foreach (var (finding, reason) in plan.Left)
            Console.WriteLine($"  left: {finding.Target}: {reason}");
    }
}
