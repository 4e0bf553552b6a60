using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

/// <summary>The worked examples of docs/decisions/candidate-score.md, and what is no candidate.</summary>
public sealed class CandidateTests : IDisposable
{
    private readonly Place place = new();

    [Theory]
    [InlineData("oak.png", "oak.png", 0.60)]
    [InlineData("oak.png", "OAK.PNG", 0.55)]
    [InlineData("oak.tif", "oak.png", 0.42)]
    [InlineData("oak_4k.png", "oak_2k.png", 0.36)]
    [InlineData("oak_v1.png", "oak_v2.png", 0.36)]
    [InlineData("oak_4k.tif", "oak_2k.png", 0.30)]
    [InlineData("oak_nrm.png", "oak_normal.png", 0.33)]
    [InlineData("job/oak.png", "job/oak.png", 0.68)]
    [InlineData("a/b/job/oak.png", "a/b/job/oak.png", 0.84)]
    [InlineData("z/a/b/job/oak.png", "z/a/b/job/oak.png", 0.84)]
    public void A_name_and_its_folders_weigh_what_the_table_says(string written, string lies, double score)
    {
        place.PutPng("lib/" + lies);
        Assert.Equal(score, Muster("D:/elsewhere/" + written).Candidates.Single().Score);
    }

    [Theory]
    [InlineData("oak.png", "elm.png")]
    [InlineData("oak_01.png", "oak_02.png")]
    [InlineData("oak.png", "oak.txt")]
    [InlineData("oak_basecolor.png", "oak_normal.png")]
    public void What_is_another_map_or_no_image_is_no_candidate(string written, string lies)
    {
        place.PutPng("lib/" + lies);
        Assert.Empty(Muster("D:/elsewhere/" + written).Candidates);
    }

    [Fact]
    public void A_file_in_place_but_for_its_case_beats_the_exact_name_somewhere_else()
    {
        place.PutPng("s/tex/oak.png", 1);
        place.PutPng("lib/other/Oak.png", 2);
        var found = Muster("Tex/Oak.png");
        Assert.Equal(place.At("s/tex/oak.png"), found.Clear!.Path);
        Assert.Equal(0.88, found.Candidates[0].Score);
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
        for (var i = 0; i < 30; i++) place.PutPng($"lib/{i:00}/oak.png", (byte)i);
        var found = Muster("D:/job/oak.png").Candidates;
        Assert.Equal(8, found.Length);
        Assert.Equal(found.Select(c => c.Path).Order(StringComparer.Ordinal), found.Select(c => c.Path));
    }

    [Fact]
    public void The_margin_decides_between_clear_and_contested()
    {
        place.PutPng("lib/a/b/oak.png", 1);
        place.PutPng("lib/x/oak.png", 2);
        Assert.Equal(ReferenceState.Contested, Muster("D:/b/oak.png").State); // One folder is 0.08 ahead.
        Assert.Equal(ReferenceState.Elsewhere, Muster("D:/a/b/oak.png").State); // Two are 0.16 ahead.
    }

    [Fact]
    public void Suffixes_go_on_past_the_alphabet()
    {
        for (var i = 0; i < 30; i++) place.PutPng($"lib/{i:00}/oak.png", (byte)i);
        var scene = place.Put("s/s.gltf", Look.Gltf([.. Enumerable.Range(0, 30).Select(i => $"../lib/{i:00}/oak.png")]));
        var names = PackagePlan.Make(Look.Muster(scene, place.At("lib")), new()).Files.Select(f => f.Name).ToList();
        Assert.Equal(30, names.Distinct(StringComparer.OrdinalIgnoreCase).Count());
        Assert.Equal(["textures/oak.png", "textures/oak-b.png", "textures/oak-c.png"], names.Take(3));
        Assert.Contains("textures/oak-z.png", names);
        Assert.All(names, n => Assert.True(PortableName.IsPortable(Path.GetFileName(n))));
    }

    public void Dispose() => place.Dispose();

    private MusteredReference Muster(string written)
    {
        Directory.CreateDirectory(place.At("lib"));
        return Look.Muster(place.Put("s/s.gltf", Look.Gltf(written)), place.At("lib")).References.Single();
    }
}
