using System.Text.Json;
using System.Xml.Linq;
using RootCall.Core.Audit;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>The command line: audit in four formats, fix by rule and by recipe.</summary>
public sealed class OutputTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    private string Tins => demo.At("arrived/seed_tins/seed_tins.mtlx");

    [Fact]
    public void Json_tells_findings_with_evidence_and_fixes()
    {
        var result = Tool.RootCall("audit", Tins, "--format", "json");
        Assert.Equal((1, string.Empty), (result.Status, result.Error));
        using var json = JsonDocument.Parse(result.Output);
        var root = json.RootElement;
        Assert.Equal(
            ("plain", 17),
            (root.GetProperty("destination").GetString(), root.GetProperty("totals").GetProperty("blocker").GetInt32())
        );
        var finding = root.GetProperty("findings").EnumerateArray().First(f => f.GetProperty("rule").GetString() == "wiring.role-mismatch");
        Assert.Equal(
            ("blocker", "input", "seed_tin_01", "subsurface"),
            (
                finding.GetProperty("severity").GetString(),
                finding.GetProperty("target").GetProperty("kind").GetString(),
                finding.GetProperty("target").GetProperty("name").GetString(),
                finding.GetProperty("target").GetProperty("part").GetString()
            )
        );
        Assert.Equal("wire", finding.GetProperty("evidence")[0].GetProperty("type").GetString());
        var fix = finding.GetProperty("fixes")[0];
        Assert.True(fix.GetProperty("confidence").GetDouble() > 0.9 && fix.GetProperty("edits").GetArrayLength() == 2);
    }

    [Fact]
    public void Text_is_by_cause_and_the_exit_status_follows_fail_on()
    {
        var text = Tool.RootCall("audit", Tins);
        Assert.Equal(1, text.Status);
        Assert.Contains("12 roughness maps feed subsurface", text.Output, StringComparison.Ordinal);
        Assert.Contains("24 edits = 12 connect + 12 disconnect", text.Output, StringComparison.Ordinal);
        Assert.Equal(0, Tool.RootCall("audit", Tins, "--fail-on", "never").Status);
        Assert.Equal(0, Tool.RootCall("audit", Tins, "--rule", "naming").Status);
        Assert.Equal(1, Tool.RootCall("audit", Tins, "--rule", "values.beyond-clamp", "--fail-on", "warning").Status);
        Assert.Equal(2, Tool.RootCall("audit", Tins, "--rule", "values.no-such").Status);
        Assert.Equal(2, Tool.RootCall("audit", Tins, "--destination", "no-such").Status);
        place.Put("house.json", """{ "severities": { "wiring": "note", "assignment": "note" } }""");
        Assert.Equal(0, Tool.RootCall("audit", Tins, "--house-rules", place.At("house.json")).Status);
    }

    [Fact]
    public void Sarif_is_valid_by_the_published_schema()
    {
        var sarif = Tool.RootCall("audit", Tins, "--format", "sarif").Output;
        place.Put("log.sarif", sarif);
        // OASIS SARIF 2.1.0, sarif-schema-2.1.0.json, judged by ajv.
        const string Script = """
            const Ajv = require('ajv/dist/2020').default, formats = require('ajv-formats').default;
            const { readFileSync } = require('fs');
            const [schema, log] = process.argv.slice(1).map(f => JSON.parse(readFileSync(f, 'utf8')));
            const ajv = new Ajv({ strict: false, allErrors: true });
            formats(ajv);
            const schemaOnly = { ...schema }; delete schemaOnly.$schema; delete schemaOnly.id;
            const valid = ajv.compile(schemaOnly);
            console.log(valid(log) ? 'valid' : JSON.stringify(valid.errors.slice(0, 5)));
            """;
        var schema = Path.Combine(Tool.Home, "tests", "RootCall.Testing", "Schemas", "sarif-2.1.0.json");
        Assert.Equal(
            "valid",
            Tool.Run("node", ["-e", Script, schema, place.At("log.sarif")], Path.Combine(Tool.Home, "web")).Output.Trim()
        );
        place.Put("log.sarif", sarif.Replace("\"version\": \"2.1.0\"", "\"version\": 2", StringComparison.Ordinal));
        Assert.NotEqual(
            "valid",
            Tool.Run("node", ["-e", Script, schema, place.At("log.sarif")], Path.Combine(Tool.Home, "web")).Output.Trim()
        );
        using var json = JsonDocument.Parse(sarif);
        var run = json.RootElement.GetProperty("runs")[0];
        Assert.Equal(Audits.Open(Tins).Report.Findings.Length, run.GetProperty("results").GetArrayLength());
        Assert.All(run.GetProperty("results").EnumerateArray(), r =>
            Assert.Equal(
                r.GetProperty("ruleId").GetString(),
                run.GetProperty("tool")
                    .GetProperty("driver")
                    .GetProperty("rules")[r.GetProperty("ruleIndex").GetInt32()]
                    .GetProperty("id")
                    .GetString()
            )
        );
    }

    [Fact]
    public void Junit_has_a_case_for_each_rule_and_a_failure_where_it_found_something()
    {
        var xml = XDocument.Parse(Tool.RootCall("audit", Tins, "--format", "junit", "--fail-on", "warning").Output).Root!;
        Assert.Equal(RuleCatalog.All.Length, xml.Descendants("testcase").Count());
        var expected = Audits.Open(Tins).Report.Findings.Where(f => f.Severity >= Severity.Warning).Select(f => f.Rule).Distinct().Count();
        Assert.Equal(
            (expected, expected.ToString(System.Globalization.CultureInfo.InvariantCulture)),
            (xml.Descendants("failure").Count(), xml.Attribute("failures")!.Value)
        );
    }

    [Fact]
    public void Fix_writes_a_copy_that_is_clean_and_the_ledger_of_it()
    {
        var dry = Tool.RootCall("fix", Tins, "--rule", "wiring", "--dry-run");
        Assert.Contains("would make", dry.Output, StringComparison.Ordinal);
        var result = Tool.RootCall("fix", Tins, "--rule", "wiring.role-mismatch", "--out", place.At("out"), "--format", "json");
        Assert.Equal((0, string.Empty), (result.Status, result.Error));
        using var json = JsonDocument.Parse(result.Output);
        Assert.Equal(12, json.RootElement.GetProperty("applied").GetArrayLength());
        var ledger = json.RootElement.GetProperty("ledger").GetString()!;
        using var written = JsonDocument.Parse(File.ReadAllBytes(ledger));
        Assert.Equal(24, written.RootElement[0].GetProperty("edits").GetArrayLength());
        var copy = Audits.Open(place.At("out/seed_tins.mtlx"), null, null, demo.At("arrived/seed_tins"));
        Assert.Empty(copy.Of("wiring.role-mismatch"));
        Assert.All(copy.Scene.Images, i => Assert.Equal(Core.Muster.ReferenceState.Present, i.State));
        // What stands there is never written over.
        Assert.Equal(2, Tool.RootCall("fix", Tins, "--rule", "wiring.role-mismatch", "--out", place.At("out")).Status);
        Assert.Equal(2, Tool.RootCall("fix", Tins, "--out", place.At("other")).Status);
    }

    [Fact]
    public void Fix_follows_a_recipe()
    {
        place.Put(
            "recipe.json",
            """{ "name": "Tins", "version": 1, "steps": [{ "rule": "wiring.role-mismatch", "match": { "name": "seed_tin_0*" } }] }"""
        );
        var result = Tool.RootCall("fix", Tins, "--recipe", place.At("recipe.json"), "--out", place.At("out"), "--format", "json");
        using var json = JsonDocument.Parse(result.Output);
        Assert.Equal(9, json.RootElement.GetProperty("applied").GetArrayLength());
        Assert.Equal(
            3,
            Audits.Open(place.At("out/seed_tins.mtlx"), null, null, demo.At("arrived/seed_tins")).Of("wiring.role-mismatch").Count()
        );
    }

    [Fact]
    public void The_pages_about_rules_are_what_the_rules_say()
    {
        Assert.Equal(0, Tool.RootCall("rules", place.At("rules")).Status);
        var pages = Path.Combine(Tool.Home, "docs", "rules");
        Assert.Equal(
            Directory.GetFiles(pages).Select(Path.GetFileName).Order(StringComparer.Ordinal),
            Directory.GetFiles(place.At("rules")).Select(Path.GetFileName).Order(StringComparer.Ordinal)
        );
        foreach (var page in Directory.GetFiles(place.At("rules")))
            Assert.True(
                File.ReadAllText(page) == File.ReadAllText(Path.Combine(pages, Path.GetFileName(page))),
                $"{Path.GetFileName(page)} is old: run rootcall rules docs/rules."
            );
    }

    public void Dispose() => place.Dispose();
}
