using System.Text.Json;

namespace RootCall.Core.Audit.Output;

/// <summary>Findings as a SARIF 2.1.0 log (OASIS standard), for code scanning and build servers.</summary>
public static class SarifLog
{
    private static readonly JsonWriterOptions Indented = new()
    {
        Indented = true,
        NewLine = "\n",
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <param name="waivers">Causes that are let stand: their results are suppressed, with the reason.</param>
    public static void Write(
        Stream to,
        AuditScene scene,
        AuditReport report,
        string version,
        IReadOnlyDictionary<string, Waiver>? waivers = null
    )
    {
        using var json = new Utf8JsonWriter(to, Indented);
        var rules = report.Findings.Select(f => f.Rule).Distinct().Order(StringComparer.Ordinal).ToList();
        json.WriteStartObject();
        json.WriteString("$schema", "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json");
        json.WriteString("version", "2.1.0");
        json.WriteStartArray("runs");
        json.WriteStartObject();
        json.WriteStartObject("tool");
        json.WriteStartObject("driver");
        json.WriteString("name", "Root Call");
        json.WriteString("version", version);
        json.WriteStartArray("rules");
        foreach (var rule in rules.Select(r => RuleCatalog.Find(r)!.Descriptor))
            WriteRule(json, rule);
        json.WriteEndArray();
        json.WriteEndObject();
        json.WriteEndObject();
        json.WriteStartArray("results");
        foreach (var finding in report.Findings)
            WriteResult(json, finding, rules.IndexOf(finding.Rule), scene, waivers?.GetValueOrDefault(finding.Cause.Key));
        json.WriteEndArray();
        json.WriteStartArray("invocations");
        json.WriteStartObject();
        json.WriteBoolean("executionSuccessful", report.Failed.IsEmpty);
        json.WriteStartArray("toolExecutionNotifications");
        foreach (var failed in report.Failed)
        {
            json.WriteStartObject();
            json.WriteString("level", "error");
            Text(json, "message", $"{failed.Rule} could not be run: {failed.Reason}");
            json.WriteEndObject();
        }

        if (!report.Coverage.IsFull)
        {
            json.WriteStartObject();
            json.WriteString("level", "warning");
            Text(json, "message", report.Coverage.Sentence);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
        json.WriteEndArray();
        json.WriteString("columnKind", "utf16CodeUnits");
        json.WriteStartObject("properties");
        json.WriteStartObject("coverage");
        json.WriteNumber("rules", report.Coverage.Rules);
        json.WriteNumber("materials", report.Coverage.Materials);
        json.WriteNumber("materialsLookedAt", report.Coverage.MaterialsLookedAt);
        json.WriteNumber("images", report.Coverage.Images);
        json.WriteNumber("imagesLookedAt", report.Coverage.ImagesLookedAt);
        json.WriteNumber("open", report.Coverage.Open);
        json.WriteEndObject();
        json.WriteEndObject();
        json.WriteEndObject();
        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void WriteRule(Utf8JsonWriter json, RuleDescriptor rule)
    {
        json.WriteStartObject();
        json.WriteString("id", rule.Id);
        json.WriteString("name", rule.Title);
        Text(json, "shortDescription", $"{rule.Title}.");
        Text(json, "fullDescription", $"{rule.Expects} {rule.Why}");
        Text(json, "help", $"{rule.Fix ?? "Only a person can decide."} Source: {rule.Source}");
        json.WriteStartObject("defaultConfiguration");
        json.WriteString("level", Level(rule.Severity));
        json.WriteEndObject();
        json.WriteEndObject();
    }

    private static void WriteResult(Utf8JsonWriter json, Finding finding, int rule, AuditScene scene, Waiver? waiver)
    {
        json.WriteStartObject();
        json.WriteString("ruleId", finding.Rule);
        json.WriteNumber("ruleIndex", rule);
        json.WriteString("level", Level(finding.Severity));
        Text(json, "message", finding.Message);
        json.WriteStartArray("locations");
        json.WriteStartObject();
        json.WriteStartObject("physicalLocation");
        json.WriteStartObject("artifactLocation");
        json.WriteString("uri", new Uri(FileOf(finding, scene)).AbsoluteUri);
        json.WriteEndObject();
        json.WriteEndObject();
        json.WriteStartArray("logicalLocations");
        json.WriteStartObject();
        json.WriteString("fullyQualifiedName", finding.Target.ToString());
        json.WriteString("kind", finding.Target.Kind);
        json.WriteEndObject();
        json.WriteEndArray();
        json.WriteEndObject();
        json.WriteEndArray();
        json.WriteStartObject("partialFingerprints");
        json.WriteString(
            "finding/v1",
            Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(finding.Key)))[..32]
        );
        json.WriteEndObject();
        if (waiver is not null)
        {
            json.WriteStartArray("suppressions");
            json.WriteStartObject();
            json.WriteString("kind", "external");
            json.WriteString("justification", waiver.Reason);
            json.WriteEndObject();
            json.WriteEndArray();
        }

        json.WriteStartObject("properties");
        json.WriteString("cause", finding.Cause.Key);
        if (finding.Fixes is [var fix, ..])
            json.WriteString("fix", fix.Title);
        if (finding.Decide is not null)
            json.WriteString("decide", finding.Decide);
        json.WriteEndObject();
        json.WriteEndObject();
    }

    /// <summary>The image in question, or the scene.</summary>
    private static string FileOf(Finding finding, AuditScene scene) =>
        finding.Target.Kind == "image"
        && scene.Report.References.FirstOrDefault(r => r.Reference.Written == finding.Target.Name)?.Resolved is { } path
            ? path
            : scene.Scene.Path;

    private static void Text(Utf8JsonWriter json, string property, string text)
    {
        json.WriteStartObject(property);
        json.WriteString("text", text);
        json.WriteEndObject();
    }

    private static string Level(Severity severity) =>
        severity switch
        {
            Severity.Blocker => "error",
            Severity.Warning => "warning",
            _ => "note",
        };
}
