using RootCall.Core.Audit;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>Every fix, made on every demo scene, makes its own finding disappear and adds none.</summary>
public sealed class FixTests(DemoPlace demo) : IClassFixture<DemoPlace>
{
    /// <summary>Findings that were there before, by what they are about; which words they use may change.</summary>
    internal static void AssertMended(Audited before, Audited after, Finding finding)
    {
        Assert.DoesNotContain(finding.Key, after.Report.Findings.Select(f => f.Key));
        // Counted by rule: a rename gives what else was found another name, and is no new finding.
        var there = before.Report.Findings.CountBy(f => f.Rule).ToDictionary();
        var added = after
            .Report.Findings.Where(f => f.Severity >= Severity.Warning)
            .CountBy(f => f.Rule)
            .Where(f => f.Value > there.GetValueOrDefault(f.Key))
            .ToList();
        Assert.True(added.Count == 0, $"{finding.Key}: its fix “{finding.Fixes[0].Title}” adds {string.Join("; ", added)}");
    }

    [Fact]
    public void Every_fix_mends_its_finding_in_all_demo_scenes()
    {
        using var place = new Place();
        var (made, wrong) = (0, new List<string>());
        foreach (var answer in demo.Answers())
        {
            var before = Audits.OpenRelinked(answer.Arrived, demo.Library);
            foreach (var finding in before.Report.Findings)
            foreach (var fix in finding.Fixes)
            {
                var folder = Directory.CreateDirectory(place.At($"{made++}")).FullName;
                try
                {
                    AssertMended(before, before.With(folder, fix.Edits), finding);
                }
                catch (Exception e) when (e is Xunit.Sdk.XunitException or InvalidOperationException)
                {
                    wrong.Add($"{answer.Name}: {finding.Key}: {e.Message}");
                }
            }
        }

        Assert.True(made > 0);
        Assert.True(wrong.Count == 0, string.Join("\n", wrong));
    }
}
