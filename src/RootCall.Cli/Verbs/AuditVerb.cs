using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Audit;
using RootCall.Core.Audit.Output;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.SendOff;

namespace RootCall.Cli.Verbs;

/// <summary><c>audit</c>: what is wrong with the materials and textures of a scene, by cause, with evidence and fixes.</summary>
internal static class AuditVerb
{
    public static Command Command()
    {
        var (scene, roots, names, destination, house) = (
            SharedOptions.Scene(),
            SharedOptions.Roots(),
            SharedOptions.Names(),
            SharedOptions.Destination(),
            SharedOptions.HouseRules()
        );
        var format = new Option<string>("--format")
        {
            Description = "text, json, sarif, junit or html (a report for people, with pictures).",
            DefaultValueFactory = _ => "text",
        };
        format.AcceptOnlyFromAmong("text", "json", "sarif", "junit", "html");
        var failOn = new Option<string>("--fail-on")
        {
            Description = "The least severity that makes the exit status 1: blocker, warning, note or never.",
            DefaultValueFactory = _ => "blocker",
        };
        failOn.AcceptOnlyFromAmong("blocker", "warning", "note", "never");
        var coverage = new Option<bool>("--require-coverage")
        {
            Description = "Exit status 1 when anything could not be looked at: maps that did not come, images that do not decode.",
        };
        var only = Only("Run only these rules or families.");
        var command = new Command("audit", "Tells what is wrong with materials and textures, by cause.")
        {
            scene,
            roots,
            names,
            destination,
            house,
            only,
            failOn,
            coverage,
            format,
        };
        var focus = new FocusOptions();
        focus.AddTo(command);
        command.SetAction(call =>
        {
            var rules = Rules(call.GetValue(only)!);
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!, call.GetValue(names), beside: true);
            var audited = opened.Audit(call.GetValue(destination)!, call.GetValue(house));
            var report = AuditRun.Make(audited, rules: rules);
            report = focus.Of(call, audited.Scene)?.Narrow(audited, report) ?? report;
            var least = Severities.Parse(call.GetValue(failOn)!);
            switch (call.GetValue(format))
            {
                case "json":
                    Print.Json(AuditJson.Of(audited, report), OutputContext.Default.AuditJson);
                    break;
                case "sarif":
                    Stream(to => SarifLog.Write(to, audited, report, typeof(AuditVerb).Assembly.GetName().Version!.ToString(3)));
                    break;
                case "junit":
                    Stream(to => JunitReport.Write(to, audited, report, least ?? Severity.Blocker));
                    break;
                case "html":
                    Stream(to => ReadableReport.Write(to, Readable(opened, audited, report)));
                    break;
                default:
                    AuditText.Write(Console.Out, audited, report);
                    break;
            }

            var found = least is { } bar && report.Findings.Any(f => f.Severity >= bar);
            return found || (call.GetValue(coverage) && !report.Coverage.IsFull) ? 1 : 0;
        });
        return command;
    }

    internal static Option<string[]> Only(string what) =>
        new("--rule")
        {
            Description = what,
            AllowMultipleArgumentsPerToken = true,
            DefaultValueFactory = _ => [],
        };

    /// <exception cref="CannotUseException">One of the words is neither a rule nor a family.</exception>
    internal static IReadOnlyList<Rule>? Rules(string[] words)
    {
        if (words.Length == 0)
            return null;
        if (words.FirstOrDefault(w => RuleCatalog.Find(w) is null && !RuleCatalog.Families.Contains(w)) is { } unknown)
            throw new CannotUseException($"There is no rule “{unknown}”; docs/rules lists them.");
        return [.. RuleCatalog.All.Where(r => words.Contains(r.Id) || words.Contains(r.Descriptor.Family))];
    }

    /// <summary>Side of the report's pictures, in pixels.</summary>
    private const int PictureSide = 224;

    private static ReadableScene Readable(OpenedScene opened, AuditScene audited, AuditReport report) =>
        new(Path.GetFileName(audited.Scene.Path), audited, report, new([.. opened.Session.Edited.Entries]), DateTimeOffset.Now)
        {
            Picture = key =>
            {
                try
                {
                    return audited.Answer(key)?.Resolved is { } path ? opened.Decoder.Reduce(path, PictureSide).Picture : null;
                }
                catch (Exception e) when (e is UndecodedException or IOException)
                {
                    return null; // The report says of it what the muster knows.
                }
            },
        };

    private static void Stream(Action<Stream> write)
    {
        using var output = Console.OpenStandardOutput();
        write(output);
        output.WriteByte((byte)'\n');
    }
}
