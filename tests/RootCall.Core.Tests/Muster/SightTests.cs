using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

/// <summary>Answers that no name gives: sets that moved together, contents and looks that were seen before, approved rules.</summary>
public sealed class SightTests : IDisposable
{
    private const string Set = "newmtl oak\nmap_Kd D:/old/oak_col.png\nnorm D:/old/oak_nrm.png\nmap_Pr D:/old/other_name.png\n";
    private readonly Place place = new();

    [Fact]
    public void The_third_map_of_a_set_is_found_by_its_role_under_another_name()
    {
        place.PutPng("lib/oak/oak_col.png", 1);
        place.PutPng("lib/oak/oak_nrm.png", 2);
        place.PutPng("lib/oak/oak_rough.png", 3);
        var found = Obj(Set).Named("other_name.png");
        Assert.Equal((ReferenceState.Elsewhere, place.At("lib/oak/oak_rough.png")), (found.State, found.Clear!.Path));
        Assert.Contains("The roughness map in the folder where 2 of 2 other maps of oak lie", found.Clear.Reasons);
        Assert.Contains("Named like them", found.Clear.Reasons);
    }

    [Fact]
    public void Pictures_that_look_alike_are_the_same_as_comparing_with_every_one()
    {
        var random = new Random(17);
        var looks = Enumerable.Range(0, 4_000).Select(_ => (ulong)random.NextInt64(long.MinValue, long.MaxValue)).ToArray();
        for (var i = 1; i < looks.Length; i += 2)
            looks[i] = Enumerable.Range(0, random.Next(10)).Aggregate(looks[i - 1], (look, _) => look ^ (1UL << random.Next(64)));
        var facts = new FileFacts();
        facts.Add(looks.Select((look, i) => new KnownFile($"/{i}", new(1, DateTime.UnixEpoch), Look: look)));
        var alike = 0;
        foreach (var look in looks.Take(500))
        {
            var expected = looks.Index().Where(x => BitOperations.PopCount(x.Item ^ look) <= EvidenceWeights.AlikeBits);
            var found = facts.LookAlikes(look).ToList();
            Assert.Equal(expected.Select(x => $"/{x.Index}").Order(), found.Select(f => f.File.Path).Order());
            alike += found.Count;
        }

        Assert.True(alike > 700);
    }

    [Fact]
    public void Another_body_or_two_maps_of_the_role_are_left_to_the_artist()
    {
        place.PutPng("lib/oak/oak_col.png", 1);
        place.PutPng("lib/oak/oak_nrm.png", 2);
        place.PutPng("lib/oak/elm_rough.png", 3);
        Assert.Equal(ReferenceState.Contested, Obj(Set).Named("other_name.png").State);
        place.PutPng("lib/oak/oak_rough.png", 4);
        place.PutPng("lib/oak/oak_rgh_2k.png", 5);
        Assert.Equal(ReferenceState.Contested, Obj(Set).Named("other_name.png").State);
    }

    [Fact]
    public void A_map_that_answers_another_reference_is_not_offered()
    {
        place.PutPng("lib/oak/oak_col.png", 1);
        place.PutPng("lib/oak/oak_nrm.png", 2);
        place.PutPng("lib/oak/oak_rough.png", 3);
        var report = Obj(Set + "newmtl elm\nmap_Pr D:/old/oak_rough.png\n");
        Assert.Equal(ReferenceState.Elsewhere, report.Named("oak_rough.png").State);
        Assert.Empty(report.Named("other_name.png").Candidates);
    }

    [Fact]
    public void A_renamed_file_is_found_by_its_contents_and_other_contents_count_against_a_name()
    {
        var bytes = Pictures.Png(4, 4, 77);
        place.Put("lib/x/moss_final.png", bytes);
        place.PutPng("lib/y/oak.png", 78);
        var report = Gltf("D:/old/oak.png", Seen(bytes, null));
        var found = report.References.Single();
        Assert.Equal(place.At("lib/x/moss_final.png"), found.Clear!.Path);
        Assert.Equal(["Same contents as last seen", "Pixels as last seen"], found.Clear.Reasons);
        Assert.Contains("Other contents than last seen", found.Candidates[1].Reasons);
        File.Delete(place.At("lib/x/moss_final.png"));
        Assert.Equal(ReferenceState.Contested, Gltf("D:/old/oak.png", Seen(bytes, null)).References.Single().State);
    }

    [Fact]
    public void A_picture_that_looks_the_same_is_a_candidate_and_one_that_looks_different_loses()
    {
        place.PutPng("lib/x/moss.png", 5);
        place.PutPng("lib/y/oak.png", 6);
        var facts = new FileFacts();
        facts.Add([Looks("lib/x/moss.png", 0b1111), Looks("lib/y/oak.png", ~0UL)]);
        var found = Gltf("D:/old/oak.png", Seen([1, 2, 3], 0b0111), facts).References.Single();
        Assert.Equal(ReferenceState.Contested, found.State);
        Assert.Contains(
            "Looks like what was last seen (1 of 64 bits differ)",
            found.Candidates.Single(c => c.Path.EndsWith("moss.png", StringComparison.Ordinal)).Reasons
        );
        Assert.Contains(
            "Looks different from what was last seen",
            found.Candidates.Single(c => c.Path.EndsWith("oak.png", StringComparison.Ordinal)).Reasons
        );
    }

    [Fact]
    public void A_rule_that_was_approved_before_decides_a_contest()
    {
        place.PutPng("lib/a/oak.png", 1);
        place.PutPng("lib/b/oak.png", 2);
        var scene = place.Put("s/s.gltf", Look.Gltf("D:/jobs/oak.png"));
        Assert.Equal(ReferenceState.Contested, Look.Muster(scene, place.At("lib")).References.Single().State);
        var context = Look.Context(scene, place.At("lib")) with { Approved = [new("D:/jobs", place.At("lib/b"))] };
        var found = CurrentScene.Muster(scene, context, Bounds.Default).References.Single();
        Assert.Equal(place.At("lib/b/oak.png"), found.Clear!.Path);
        Assert.Contains(found.Clear.Reasons, r => r.StartsWith("A rule approved before leads here", StringComparison.Ordinal));
    }

    [Fact]
    public void A_file_that_changes_or_goes_while_somebody_looks_is_flagged_or_missing()
    {
        place.PutPng("s/a.png", 1);
        place.PutPng("s/b.png", 2);
        place.PutPng("s/c.png", 3);
        var scene = place.Put("s/s.gltf", Look.Gltf("a.png", "b.png", "c.png"));
        var report = Look.Muster(scene);
        place.Put("s/a.png", Pictures.Png(9, 9, 9));
        File.Delete(place.At("s/b.png"));
        var again = Mustering.Again(
            report,
            new HashSet<string> { place.At("s/a.png"), place.At("s/b.png"), place.At("s/c.png") },
            CurrentScene.Scope(scene, []),
            new()
        );
        Assert.Equal(
            [
                (ReferenceState.Present, ReferenceFlags.Changed),
                (ReferenceState.Missing, ReferenceFlags.None),
                (ReferenceState.Present, ReferenceFlags.None),
            ],
            again.References.Select(r => (r.State, r.Flags))
        );
        Assert.Equal(9, again.References[0].Facts!.Width);
        Assert.Equal(2, again.Totals[ReferenceState.Present]);
        Assert.Same(
            report,
            Mustering.Again(report, new HashSet<string> { place.At("elsewhere.png") }, CurrentScene.Scope(scene, []), new())
        );
    }

    public void Dispose() => place.Dispose();

    private static LastSeen Seen(byte[] bytes, ulong? look) =>
        new(
            "D:/old/oak.png",
            new(bytes.Length, default),
            4,
            4,
            Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(bytes)),
            look
        );

    private MusterReport Obj(string library)
    {
        place.Put("s/s.mtl", library);
        return Look.Muster(place.Put("s/s.obj", "mtllib s.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl oak\nf 1 2 3\n"), place.At("lib"));
    }

    private MusterReport Gltf(string written, LastSeen seen, FileFacts? facts = null)
    {
        var scene = place.Put("s/s.gltf", Look.Gltf(written));
        var context = Look.Context(scene, place.At("lib"));
        var key = Look.Read(scene, place.At("lib")).References.Single().Key;
        return CurrentScene.Muster(
            scene,
            context with
            {
                Facts = facts ?? context.Facts,
                LastSeen = new Dictionary<ReferenceKey, LastSeen> { [key] = seen },
            },
            Bounds.Default
        );
    }

    private KnownFile Looks(string name, ulong look) =>
        new(place.At(name), FileFacts.Stamp(place.At(name))!.Value, Look: look, Pixels: PixelStats.Of(new(1, 1, 1, [0])));
}
