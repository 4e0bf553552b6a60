using RootCall.Core.Audit;
using RootCall.Demo.Examples;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>Every rule finds what is wrong in its own example, and each of its fixes makes that finding disappear and adds none.</summary>
public sealed class ExampleTests
{
    public static TheoryData<string> Rules => [.. RuleCatalog.All.Select(r => r.Id)];

    internal static Audited Open(string folder, Example example) =>
        Audits.Open(
            ExampleScene.Write(folder, example),
            ExampleScene.DestinationOf(example),
            example.Format == "gltf" ? RulePages.House : null
        );

    [Theory]
    [MemberData(nameof(Rules))]
    public void Its_example_breaks_it_and_its_fixes_mend_it(string id)
    {
        using var place = new Place();
        var rule = RuleCatalog.Find(id)!;
        var before = Open(place.At("scene"), rule.Descriptor.Example);
        Assert.True(before.Report.Failed.IsEmpty, string.Join("; ", before.Report.Failed));
        var found = before.Of(id).ToList();
        Assert.True(
            found.Count > 0,
            $"Not found in its own example; there is {string.Join(", ", before.Report.Findings.Select(f => f.Rule))}."
        );
        Assert.All(found, f => Assert.True(f.Fixes.Length > 0 || f.Decide is not null, "Neither fix nor decision."));
        foreach (var finding in found)
        foreach (var (fix, n) in finding.Fixes.Select((f, n) => (f, n)))
        {
            var after = before.With(place.At($"fixed {found.IndexOf(finding)} {n}"), fix.Edits);
            FixTests.AssertMended(before, after, finding);
        }

        if (rule.Descriptor.Fix is not null && !id.StartsWith("naming.pattern-texture", StringComparison.Ordinal))
            Assert.Contains(found, f => f.Fixes.Length > 0);
    }

    [Theory]
    [MemberData(nameof(Rules))]
    public void A_near_miss_does_not_break_it(string id)
    {
        using var place = new Place();
        Assert.True(NearMisses.All.TryGetValue(id, out var example), "There is no near miss for it.");
        Assert.Empty(Open(place.At("scene"), example).Of(id).Select(f => f.Message));
    }

    [Fact]
    public void Rules_are_many_and_say_what_they_are()
    {
        Assert.True(RuleCatalog.All.Length >= 70, $"{RuleCatalog.All.Length} rules");
        Assert.Equal(RuleCatalog.All.Length, RuleCatalog.All.Select(r => r.Id).Distinct().Count());
        foreach (var d in RuleCatalog.All.Select(r => r.Descriptor))
        {
            Assert.Contains(d.Family, RuleCatalog.Families);
            Assert.All(new[] { d.Expects, d.Why, d.Source }, t => Assert.EndsWith(".", t, StringComparison.Ordinal));
        }
    }
}
