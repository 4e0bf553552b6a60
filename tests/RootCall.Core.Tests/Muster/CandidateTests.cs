using System.Globalization;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

/// <summary>The table and the worked examples of docs/candidate-score.md, and what else decides.</summary>
public sealed class CandidateTests : IDisposable
{
    private readonly Place place = new();

    public static TheoryData<string, string, string, string> Examples()
    {
        var data = new TheoryData<string, string, string, string>();
        foreach (var cells in Rows("| asks for"))
            data.Add(cells[0].Trim('`'), cells[1].Replace("`", string.Empty, StringComparison.Ordinal), cells[2], cells[3]);
        return data;
    }

    [Theory]
    [MemberData(nameof(Examples))]
    public void Worked_examples_hold(string asks, string holds, string score, string state)
    {
        byte grey = 0;
        foreach (var lies in holds.Split(' '))
            if (lies.EndsWith(".txt", StringComparison.Ordinal))
                place.Put("lib/" + lies, "text");
            else
                place.PutPng("lib/" + lies, grey++);
        var found = Muster(asks);
        Assert.Equal(state, found.State.Word());
        Assert.Equal(score, found.Candidates.FirstOrDefault()?.Score.ToString("0.00", CultureInfo.InvariantCulture) ?? string.Empty);
    }

    [Fact]
    public void The_table_says_what_the_code_weighs()
    {
        var table = Rows("| evidence").ToDictionary(c => c[0].Trim('`'), c => double.Parse(c[1], CultureInfo.InvariantCulture));
        foreach (var (kind, weight) in table)
            Assert.Equal(weight, typeof(EvidenceWeights).GetField(kind)!.GetRawConstantValue());
        Assert.Equal(
            Enum.GetNames<EvidenceKind>().Select(n => n == nameof(EvidenceKind.ParentFolders) ? "ParentFolder" : n).Order(),
            table.Keys.Order()
        );
    }

    [Fact]
    public void Tiles_are_answered_together_and_called_by_their_pattern()
    {
        foreach (var tile in new[] { 1001, 1002, 1011 })
            place.PutPng($"lib/set/Oak_nrm.{tile}.png", (byte)(tile - 1000));
        var scene = place.Put("s/s.gltf", Look.Gltf("D:/old/oak_normal.<UDIM>.png"));
        var found = Look.Muster(scene, place.At("lib")).References.Single();
        Assert.Equal(place.At("lib/set/Oak_nrm.<UDIM>.png"), found.Clear!.Called);
        var taken = Look.TakeClear(scene, place.At("lib")).References.Single();
        Assert.Equal((ReferenceState.Present, 3, found.Clear.Called), (taken.State, taken.Tiles.Length, taken.Called));
    }

    [Fact]
    public void A_file_in_place_but_for_its_case_beats_the_exact_name_somewhere_else()
    {
        place.PutPng("s/tex/oak.png", 1);
        place.PutPng("lib/other/Oak.png", 2);
        var found = Muster("Tex/Oak.png");
        Assert.Equal(place.At("s/tex/oak.png"), found.Clear!.Path);
        Assert.Equal(0.89, found.Candidates[0].Score); // Named without case, where it is called but for the case.
        Assert.Equal(ReferenceFlags.CaseDiffers, found.Flags & ReferenceFlags.CaseDiffers);
    }

    [Fact]
    public void A_damaged_file_never_wins_and_alone_is_left_to_the_artist()
    {
        place.Put("lib/job/oak.png", Pictures.Png(9, 9, 1)[..45]);
        place.PutPng("lib/other/oak.png", 2);
        var found = Muster("D:/job/oak.png");
        Assert.Equal(place.At("lib/other/oak.png"), found.Clear!.Path);

        File.Delete(place.At("lib/other/oak.png"));
        var alone = Muster("D:/a/job/oak.png");
        Assert.Equal(ReferenceState.Contested, alone.State);
        Assert.Contains("ends at byte 45", alone.Candidates.Single().Damage, StringComparison.Ordinal);
        Assert.Contains(alone.Candidates[0].Reasons, r => r.StartsWith("Damaged: ", StringComparison.Ordinal));
    }

    [Fact]
    public void Candidates_are_shown_to_a_handful_best_first_in_an_order_that_stays()
    {
        for (var i = 0; i < 30; i++)
            place.PutPng($"lib/{i:00}/oak.png", (byte)i);
        var found = Muster("D:/job/oak.png").Candidates;
        Assert.Equal(8, found.Length);
        Assert.Equal(found.Select(c => c.Path).Order(StringComparer.Ordinal), found.Select(c => c.Path));
    }

    [Fact]
    public void Suffixes_go_on_past_the_alphabet()
    {
        for (var i = 0; i < 30; i++)
            place.PutPng($"lib/{i:00}/oak.png", (byte)i);
        var scene = place.Put("s/s.gltf", Look.Gltf([.. Enumerable.Range(0, 30).Select(i => $"../lib/{i:00}/oak.png")]));
        var names = PackagePlan.Make(Look.Muster(scene, place.At("lib")), new()).Files.Select(f => f.Name).ToList();
        Assert.Equal(30, names.Distinct(StringComparer.OrdinalIgnoreCase).Count());
        Assert.Equal(["textures/oak.png", "textures/oak-b.png", "textures/oak-c.png"], names.Take(3));
        Assert.Contains("textures/oak-z.png", names);
        Assert.All(names, n => Assert.True(PortableName.IsPortable(Path.GetFileName(n))));
    }

    public void Dispose() => place.Dispose();

    /// <summary>Rows of the table of docs/candidate-score.md that begins so.</summary>
    private static IEnumerable<string[]> Rows(string head) =>
        File.ReadLines(Path.Combine(Tool.Home, "docs", "candidate-score.md"))
            .SkipWhile(l => !l.StartsWith(head, StringComparison.Ordinal))
            .Skip(2)
            .TakeWhile(l => l.StartsWith('|'))
            .Select(l => l.Trim('|').Split('|').Select(c => c.Trim()).ToArray());

    private MusteredReference Muster(string written)
    {
        Directory.CreateDirectory(place.At("lib"));
        return Look.Muster(place.Put("s/s.gltf", Look.Gltf(written)), place.At("lib")).References.Single();
    }
}
