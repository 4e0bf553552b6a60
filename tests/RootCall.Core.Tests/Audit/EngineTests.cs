using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Files;
using RootCall.Demo.Examples;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>How rules are run: in parallel, again only where something changed, one failing alone.</summary>
public sealed class EngineTests
{
    private static readonly Example Brass = Example.Gltf(
        """
        { "name": "brass", "pbrMetallicRoughness": { "metallicFactor": 0.5, "roughnessFactor": 1.8 } },
        { "name": "tin", "pbrMetallicRoughness": { "metallicFactor": 1, "roughnessFactor": 0.3 } }
        """
    );

    private sealed class Failing : MaterialRule
    {
        public override RuleDescriptor Descriptor { get; } =
            new("wiring.failing", "It fails", Severity.Blocker)
            {
                Expects = "E.",
                Why = "W.",
                Source = "S.",
                Evidence = "E.",
                Example = Brass,
            };

        public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene) =>
            throw new InvalidOperationException("on purpose");
    }

    [Fact]
    public void A_rule_that_throws_is_told_of_and_the_others_run()
    {
        using var place = new Place();
        var audited = ExampleTests.Open(place.At("scene"), Brass);
        var report = AuditRun.Make(audited.Scene, rules: [new Failing(), .. RuleCatalog.All]);
        Assert.Equal(("wiring.failing", "on purpose"), (Assert.Single(report.Failed).Rule, report.Failed[0].Reason));
        Assert.Equal(audited.Report.Findings.Length, report.Findings.Length);
    }

    [Fact]
    public void After_an_edit_only_the_material_it_touched_is_looked_at_again()
    {
        using var place = new Place();
        var before = ExampleTests.Open(place.At("scene"), Brass);
        var memory = new AuditMemory();
        AuditRun.Make(before.Scene, memory);
        var first = memory.Ran;
        AuditRun.Make(before.Scene, memory);
        Assert.Equal(0, memory.Ran);
        var fix = before.Of("values.beyond-clamp").Single().Fixes[0];
        Directory.CreateDirectory(place.At("fixed"));
        var after = before.With(place.At("fixed"), fix.Edits);
        var report = AuditRun.Make(after.Scene, memory);
        Assert.Equal(first / 2, memory.Ran); // One of two materials.
        Assert.Equal(after.Report.Findings.Select(f => f.Key), report.Findings.Select(f => f.Key));
        // Another destination can change what any of them is told.
        AuditRun.Make(
            new(
                after.Scene.Report,
                ImmutableDictionary<Core.Muster.FileState, Core.Imaging.Pixels.PixelStats>.Empty,
                DestinationFiles.Open("usd-preview"),
                HouseRules.Standard
            ),
            memory
        );
        Assert.Equal(first, memory.Ran);
    }

    [Fact]
    public void For_another_destination_rules_that_ask_for_it_run_again_and_all_is_found_that_a_whole_audit_finds()
    {
        var demo = new DemoPlace();
        using var place = new Place();
        var examples = RuleCatalog
            .All.Where(r => r.Descriptor.Example.For is not null)
            .Select(r => ExampleTests.Open(place.At(r.Id), r.Descriptor.Example));
        static string[] Said(AuditReport report) => [.. report.Findings.Select(f => $"{f.Severity} {f.Key} {f.Message} {f.Fixes.Length}")];
        var differ = 0;
        foreach (var audited in demo.Answers().Select(a => Audits.Open(a.Arrived)).Concat(examples))
        foreach (var there in DestinationFiles.Shipped)
        {
            var whole = AuditRun.Make(audited.Scene.For(there));
            Assert.Equal(Said(whole), Said(AuditRun.For(audited.Scene, audited.Report, there)));
            differ += whole.Findings.Length == audited.Report.Findings.Length ? 0 : 1;
        }

        Assert.True(differ > 20, $"Only {differ} of them find anything else.");
    }

    [Fact]
    public void House_rules_turn_rules_off_change_their_severity_and_their_numbers()
    {
        using var place = new Place();
        var path = ExampleScene.Write(place.At("scene"), Brass);
        IEnumerable<string> Found(string json) =>
            Audits.Open(path, house: HouseRules.Read(json, "test")).Report.Findings.Select(f => $"{f.Severity.Word()} {f.Rule}");
        Assert.Contains("warning values.beyond-clamp", Found("{}"));
        Assert.Contains("blocker values.beyond-clamp", Found("""{ "severities": { "values.beyond-clamp": "blocker" } }"""));
        Assert.DoesNotContain(Found("""{ "severities": { "values": "off" } }"""), f => f.Contains("values.", StringComparison.Ordinal));
        Assert.Contains("note values.midway-metalness", Found("{}"));
        Assert.DoesNotContain("note values.midway-metalness", Found("""{ "thresholds": { "values.midway-metalness/low": 0.6 } }"""));
    }

    [Theory]
    [InlineData("""{ "severities": { "values.no-such": "off" } }""", "there is none")]
    [InlineData("""{ "severities": { "values.invisible": "loud" } }""", "off, note, warning and blocker")]
    [InlineData("""{ "thresholds": { "values.invisible/low": 1 } }""", "no rule has that number")]
    [InlineData("""{ "patterns": { "material": "(" } }""", "cannot be read")]
    [InlineData("""{ "colour": 1 }""", "no set of house rules, line 1")]
    public void House_rules_that_cannot_be_meant_are_refused_in_one_sentence(string json, string says) =>
        Assert.Contains(
            says,
            Assert.Throws<CannotUseException>(() => HouseRules.Read(json, "rules.json")).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Destinations_are_data_that_comes_back_as_it_went()
    {
        foreach (var shipped in DestinationFiles.Shipped)
            Assert.Equal(shipped, DestinationFiles.Read(DestinationFiles.Write(shipped), "test"));
        Assert.Equal(
            ["dusk-tracer", "dusk-tracer-old", "gltf-viewer", "lantern-headset", "usd-preview"],
            DestinationFiles.Shipped.Select(d => d.Id).Order(StringComparer.Ordinal)
        );
        Assert.Throws<CannotUseException>(() => DestinationFiles.Open("no-such"));
        Assert.Throws<CannotUseException>(() => DestinationFiles.Read("""{ "id": "x", "name": "X", "colour": 1 }""", "test"));
    }

    [Fact]
    public void A_plan_takes_each_edit_once_and_says_what_it_leaves()
    {
        using var place = new Place();
        var audited = ExampleTests.Open(place.At("scene"), Brass);
        var plan = FixPlan.Make(audited.Of("values.beyond-clamp").Concat(audited.Of("values.beyond-clamp")));
        Assert.Equal("1 edit: 1 set value", plan.Count());
        var least = FixPlan.Make(audited.Of("values.midway-metalness"), Fix.SafeFrom);
        Assert.Empty(least.Edits);
        Assert.Contains("0.90 is asked", Assert.Single(least.Left).Reason, StringComparison.Ordinal);
        Assert.Throws<CannotUseException>(() => least.Entry("x", "y", default));
        var decide = FixPlan.Make([audited.Of("values.beyond-clamp").First() with { Fixes = [], Decide = "Choose." }]);
        Assert.Equal("Choose.", Assert.Single(decide.Left).Reason);
        Assert.Equal("values.beyond-clamp", Assert.Single(plan.Entry("x", "y", default).Fixed).Rule);
    }

    [Fact]
    public void A_shader_of_the_house_is_known_by_its_pattern()
    {
        using var place = new Place();
        var path = ExampleScene.Write(place.At("scene"), RuleCatalog.Find("assignment.unknown-shader")!.Descriptor.Example);
        var known = Audits.Open(
            path,
            house: HouseRules.Read(
                """
                {
                  "shaderTypes": [
                    {
                      "pattern": "clockwork_*", "provider": "Clockwork shop", "status": "available",
                      "advice": "Ask the shop.", "model": "open-pbr"
                    }
                  ]
                }
                """,
                "test"
            )
        );
        var finding = known.Of("assignment.unknown-shader").Single();
        Assert.Equal(
            (Severity.Warning, "Ask the shop. It can be carried over as OpenPBR Surface 1.1."),
            (finding.Severity, finding.Decide)
        );
    }
}
