using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

/// <summary>The demo's answer key: every planted fault is found in the right state, and the clean twins are clean.</summary>
public sealed class AnswerKeyTests(DemoPlace demo) : IClassFixture<DemoPlace>
{
    [Theory]
    [InlineData("glasshouse_corner")]
    [InlineData("brass_lamp")]
    [InlineData("enamel_sign")]
    public void Planted_faults_are_found_and_nothing_else(string name)
    {
        var answer = demo.Answers().Single(a => a.Name == name);
        var report = Look.Muster(answer.Arrived, demo.Library);
        var found = report.References.ToDictionary(
            r => r.Reference.Written,
            r => (State: r.State.Word(), Flags: string.Join(' ', r.Flags.Words().Order()))
        );
        foreach (var planted in answer.References)
            Assert.Equal((planted.State, string.Join(' ', planted.Flags.Order())), found[planted.Written]);
        // What the key does not name is a file of the scene itself: it answers.
        var named = answer.References.Select(r => r.Written).ToHashSet();
        Assert.All(report.References.Where(r => !named.Contains(r.Reference.Written)), r => Assert.True(r.State.Answers()));
    }

    [Theory]
    [InlineData("glasshouse_corner")]
    [InlineData("brass_lamp")]
    [InlineData("enamel_sign")]
    public void In_a_clean_twin_every_reference_answers(string name)
    {
        var report = Look.Muster(demo.Answers().Single(a => a.Name == name).Clean);
        Assert.All(report.References, r => Assert.Contains(r.State, new[] { ReferenceState.Present, ReferenceState.Embedded }));
        Assert.Empty(report.Scene.Notes);
        Assert.True(report.Scene.Counts.Triangles > 1000);
    }

    [Fact]
    public void The_demo_is_the_same_every_time()
    {
        using var again = new Place();
        Demo.DemoWriter.Write(again.Folder);
        string[] Hashes(string folder) =>
            [
                .. Directory
                    .GetFiles(folder, "*", SearchOption.AllDirectories)
                    .Order(StringComparer.Ordinal)
                    .Select(f =>
                        Path.GetRelativePath(folder, f)
                        + Convert.ToHexString(System.Security.Cryptography.SHA256.HashData(File.ReadAllBytes(f)))
                    ),
            ];
        Assert.Equal(Hashes(demo.Folder), Hashes(again.Folder));
    }
}
