using RootCall.Core.Audit;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>The demo's answer key: what was planted is found, and nothing else at blocker or warning level.</summary>
public sealed class AnswerKeyTests(DemoPlace demo) : IClassFixture<DemoPlace>
{
    private static IEnumerable<string> Serious(Audited audited) =>
        audited.Report.Findings.Where(f => f.Severity >= Severity.Warning).Select(f => $"{f.Rule}: {f.Target}");

    [Fact]
    public void Every_planted_fault_is_found_with_its_cause_and_nothing_else_is()
    {
        var answers = demo.Answers();
        Assert.True(answers.Sum(a => a.Findings.Count) > 50);
        foreach (var answer in answers)
        {
            var found = Serious(Audits.OpenRelinked(answer.Arrived, demo.Library)).ToList();
            Assert.Equal(answer.Findings.Order(StringComparer.Ordinal), found.Order(StringComparer.Ordinal));
        }
    }

    [Fact]
    public void The_clean_twins_have_no_blocker_and_no_warning() =>
        Assert.All(demo.Answers(), a => Assert.Empty(Serious(Audits.Open(a.Clean))));
}
