using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

public sealed class RelocationRuleTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void One_rule_explains_a_folder_that_moved_with_its_subfolders()
    {
        var rule = Assert.Single(
            Infer(
                ("D:/jobs/2231/tex/a.png", "new/tex/a.png"),
                ("D:/jobs/2231/tex/sub/b.png", "new/tex/sub/b.png"),
                ("D:/jobs/2231/sky/c.png", "new/sky/c.png")
            )
        );
        Assert.Equal(("D:/jobs/2231", place.At("lib/new")), (rule.From, rule.To));
        Assert.Equal([1, 2, 3], rule.Settles.ToArray());
        Assert.Empty(rule.Contradicts);
    }

    [Fact]
    public void Among_rules_that_settle_as_many_the_longest_prefix_promises_least() =>
        Assert.Equal(
            "D:/jobs/2231/tex",
            Assert.Single(Infer(("D:/jobs/2231/tex/a.png", "x/tex/a.png"), ("D:/jobs/2231/tex/b.png", "x/tex/b.png"))).From
        );

    [Fact]
    public void Each_reference_is_settled_once_and_contradictions_are_listed()
    {
        var rules = Infer(
            ("D:/t/a.png", "one/a.png"),
            ("D:/t/b.png", "one/b.png"),
            ("D:/t/c.png", "two/c.png"),
            ("E:/u/d.png", "two/d.png")
        );
        Assert.Equal([("D:/t", 2, 1), ("D:/t", 1, 2), ("E:/u", 1, 0)], rules.Select(r => (r.From, r.Settles.Length, r.Contradicts.Length)));
        Assert.Equal([1, 2, 3, 4], rules.SelectMany(r => r.Settles).Order());
        Assert.Equal([3], rules[0].Contradicts.ToArray());
    }

    [Fact]
    public void Contested_and_missing_references_make_no_rule()
    {
        place.PutPng("lib/x/a.png", 1);
        place.PutPng("lib/y/a.png", 2);
        Assert.Empty(Infer(("D:/t/a.png", "x/a.png"), ("D:/t/none.png", null)));
    }

    [Fact]
    public void The_map_holds_every_reference_once_with_what_can_be_decided_first()
    {
        place.PutPng("s/tex/here.png", 50);
        place.PutPng("lib/x/two.png", 1);
        place.PutPng("lib/y/two.png", 2);
        Infer(("D:/t/a.png", "one/a.png"), ("tex/here.png", null), ("D:/t/two.png", null), ("none.png", null), ("/mnt/v/o.png", null));
        var map = RelocationMap.Of(report!);
        Assert.Equal(
            [ReferenceState.Elsewhere, ReferenceState.Contested, ReferenceState.Present, ReferenceState.Missing, ReferenceState.Outside],
            map.Select(b => b.State)
        );
        Assert.Equal([1, 2, 3, 4, 5], map.SelectMany(b => b.Numbers).Order());
        Assert.Equal([place.At("lib/x"), place.At("lib/y")], map[1].To.Order());
        Assert.Equal(("tex", place.At("s/tex")), (map[2].From, map[2].To.Single()));
    }

    public void Dispose() => place.Dispose();

    private MusterReport? report;

    /// <summary>Musters references by their written path, each with the file that lies in the library for it.</summary>
    private IReadOnlyList<RelocationRule> Infer(params (string Written, string? Lies)[] files)
    {
        byte grey = 10;
        foreach (var (_, lies) in files)
            if (lies is not null)
                place.PutPng("lib/" + lies, grey++);
        report = Look.Muster(place.Put("s/s.gltf", Look.Gltf([.. files.Select(f => f.Written)])), place.At("lib"));
        return RelocationRules.Infer(report.References);
    }
}
