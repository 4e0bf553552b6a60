using RootCall.Core.Audit;
using RootCall.Core.Edits;

namespace RootCall.Cli.Output;

internal sealed record AuditJson(
    string Scene,
    string Destination,
    AuditCoverage Coverage,
    FindingJson[] Findings,
    Dictionary<string, int> Totals,
    FailedRule[] Failed
)
{
    public static AuditJson Of(AuditScene scene, AuditReport report) =>
        new(
            scene.Scene.Path,
            scene.Destination.Id,
            report.Coverage,
            [.. report.Findings.Select(FindingJson.Of)],
            Enum.GetValues<Severity>().Reverse().ToDictionary(s => s.Word(), report.Count),
            [.. report.Failed]
        );
}

internal sealed record FindingJson(
    string Rule,
    string Severity,
    string Cause,
    TargetJson Target,
    string Message,
    Evidence[] Evidence,
    FixOfferJson[] Fixes,
    string? Decide
)
{
    public static FindingJson Of(Finding f) =>
        new(
            f.Rule,
            f.Severity.Word(),
            f.Cause.Key,
            new(f.Target.Kind, f.Target.Name, f.Target.Part),
            f.Message,
            [.. f.Evidence],
            [.. f.Fixes.Select(x => new FixOfferJson(x.Title, Math.Round(x.Confidence, 3), [.. x.Edits.Select(EditJson.Of)]))],
            f.Decide
        );
}

internal sealed record TargetJson(string Kind, string Name, string? Part);

internal sealed record FixOfferJson(string Title, double Confidence, EditJson[] Edits);

internal sealed record EditJson(string Kind, string Where, string Before, string After, string Sentence)
{
    public static EditJson Of(Edit e) => new(e.Text.Kind, e.Text.Where, e.Text.Before, e.Text.After, e.Describe());
}

internal sealed record FixJson(string[] Written, AppliedJson[] Applied, SkippedJson[] Skipped, string Ledger);

internal sealed record AppliedJson(string Rule, string Target, string Fix);

internal sealed record SkippedJson(string Rule, string Target, string Reason);
