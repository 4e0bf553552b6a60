using System.Globalization;
using RootCall.Core.Audit;

namespace RootCall.Cli.Output;

/// <summary>Findings as a person wants to read them in a terminal: by cause, worst first.</summary>
internal static class AuditText
{
    private const int Named = 4;

    public static void Write(TextWriter to, AuditScene scene, AuditReport report)
    {
        var causes = report.Causes.ToList();
        var going = scene.Destination.Id == "plain" ? string.Empty : $" for {scene.Destination.Name}";
        to.WriteLine(
            causes.Count == 0
                ? $"{Path.GetFileName(scene.Scene.Path)}{going}: nothing was found."
                : $"{Path.GetFileName(scene.Scene.Path)}{going}: {Print.Count(report.Findings.Length, "finding")} from "
                    + $"{Print.Count(causes.Count, "cause")}; {Totals(report)}."
        );
        to.WriteLine(report.Coverage.Sentence);
        foreach (var severity in causes.GroupBy(c => c.Severity))
        {
            to.WriteLine();
            to.WriteLine(severity.Key.Word());
            foreach (var cause in severity)
                Cause(to, cause);
        }

        foreach (var failed in report.Failed)
            to.WriteLine($"{failed.Rule} could not be run: {failed.Reason}");
    }

    private static void Cause(TextWriter to, CauseGroup cause)
    {
        var count = cause.Findings.Length;
        to.WriteLine(
            $"  {count.ToString(CultureInfo.InvariantCulture), 4} {(count == 1 ? cause.Cause.One : cause.Cause.Many)}  [{cause.Rule}]"
        );
        foreach (var finding in cause.Findings.Take(Named))
            to.WriteLine($"       {finding.Message}");
        if (count > Named)
            to.WriteLine($"       and {count - Named} more");
        var plan = FixPlan.Make(cause.Findings);
        if (!plan.Fixed.IsEmpty)
        {
            var sure = plan.Fixed.Min(f => f.Fixes[0].Confidence).ToString("0.00", CultureInfo.InvariantCulture);
            var others = plan.Fixed.Length > 1 ? $", and so for {plan.Fixed.Length}" : string.Empty;
            to.WriteLine($"       fix: {plan.Fixed[0].Fixes[0].Title}{others} ({plan.Count()}; certainty {sure})");
        }

        if (cause.Findings.Select(f => f.Decide).FirstOrDefault(d => d is not null) is { } decide)
            to.WriteLine($"       decide: {decide}");
    }

    public static string Totals(AuditReport report) =>
        string.Join(
            ", ",
            Enum.GetValues<Severity>()
                .Reverse()
                .Select(s => (Severity: s, Count: report.Count(s)))
                .Where(t => t.Count > 0)
                .Select(t => Print.Count(t.Count, t.Severity.Word()))
        );
}
