using RootCall.Core.Muster;
using RootCall.Testing;
using RootCall.Testing.Trial;
using Xunit.Abstractions;

namespace RootCall.Core.Tests.Muster;

/// <summary>500 scenes broken at random, with the truth known.</summary>
public sealed class TrialTests(ITestOutputHelper output)
{
    [Fact]
    public void Fewer_than_one_automatic_choice_in_a_thousand_is_wrong_and_what_cannot_be_decided_is_contested()
    {
        using var place = new Place();
        var trial = new TrialReport([.. new BrokenScenes(place, seed: 20_261).Run(500)]);
        output.WriteLine(trial.ToString());
        Assert.True(trial.WrongShare < 0.001, string.Join('\n', trial.Wrong.Select(w => $"{w.Kind}: {w.Story}")));
        Assert.True(trial.Recall > 0.97, trial.ToString());
        foreach (var kind in trial.Outcomes.GroupBy(o => o.Kind))
            Assert.True(kind.Count() > 40, kind.Key.ToString());
        Assert.All(trial.Outcomes.Where(o => o.Kind is Break.TwoOfOneName or Break.TwoResolutions), o =>
            Assert.Equal(ReferenceState.Contested, o.State)
        );
        Assert.All(trial.Outcomes.Where(o => o.Kind is Break.Deleted), o => Assert.NotEqual(ReferenceState.Elsewhere, o.State));
    }
}
