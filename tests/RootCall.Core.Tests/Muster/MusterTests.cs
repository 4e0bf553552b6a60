using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

/// <summary>States, flags and candidates, each from files on a disk.</summary>
public sealed class MusterTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void Each_state_is_told_from_the_others()
    {
        place.PutPng("s/here.png");
        place.PutPng("lib/moved.png");
        place.PutPng("lib/x/two.png", 1);
        place.PutPng("lib/y/two.png", 2);
        place.Put("s/cut.png", Pictures.Png(9, 9, 1)[..50]);
        place.PutPng("secret.png");
        var report = Muster(
            "here.png",
            "old/moved.png",
            "two.png",
            "gone.png",
            "cut.png",
            "../secret.png",
            "/etc/hostname",
            "https://h.example/r.png",
            "data:image/png;base64," + Convert.ToBase64String(Pictures.Png(2, 2, 3))
        );
        Assert.Equal(
            [
                ReferenceState.Present,
                ReferenceState.Elsewhere,
                ReferenceState.Contested,
                ReferenceState.Missing,
                ReferenceState.Damaged,
                ReferenceState.Outside,
                ReferenceState.Outside,
                ReferenceState.Missing,
                ReferenceState.Embedded,
            ],
            report.References.Select(r => r.State)
        );
        Assert.Equal(2, report.Answering);
        Assert.Contains("ends at byte 50", report.References[4].Damage, StringComparison.Ordinal);
        Assert.True(report.References[7].Flags.HasFlag(ReferenceFlags.Remote));
    }

    [Theory]
    [InlineData("D:/old/a.png", "absolute|foreign-path")]
    [InlineData("/home/g/Downloads/a.png", "absolute|transient-place")]
    [InlineData("tex/A.PNG", "case-differs")]
    [InlineData("tex/a_4k.png", "other-resolution")]
    [InlineData("tex/what|.png", "not-portable")]
    [InlineData("https://h.example/b.png", "remote")]
    public void Flags_come_on_top_of_the_state(string written, string flags)
    {
        place.PutPng("s/tex/a.png");
        Assert.Equal(flags.Split('|'), Muster(written).References.Single().Flags.Words());
    }

    /// <summary>These roots lie below a temporary place: that is not the file's fault, a folder of theirs is.</summary>
    [Theory]
    [InlineData("s/tex/a.png", "absolute")]
    [InlineData("s/temp/a.png", "absolute|transient-place")]
    public void A_place_is_judged_below_its_root(string file, string flags)
    {
        place.PutPng(file);
        Assert.Equal(flags.Split('|'), Muster(place.At(file)).References.Single().Flags.Words());
    }

    [Fact]
    public void Clashes_and_duplicates_show_between_references()
    {
        place.PutPng("s/a/noise.png", 1);
        place.PutPng("s/b/noise.png", 2);
        place.PutPng("s/c/NOISE.png", 1);
        place.PutPng("s/one.png", 7);
        place.PutPng("s/other.png", 7);
        place.PutPng("s/lonely.png", 9);
        var report = Muster("a/noise.png", "b/noise.png", "c/NOISE.png", "one.png", "other.png", "lonely.png");
        Assert.Equal(
            ["name-clash", "name-clash", "name-clash", "duplicate", "duplicate", ""],
            report.References.Select(r => string.Join(' ', r.Flags.Words()))
        );
    }

    [Fact]
    public void A_file_that_changed_since_it_was_last_seen_is_flagged()
    {
        var path = place.PutPng("s/a.png");
        var scene = place.Put("s/s.gltf", Look.Gltf("a.png"));
        var context = Look.Context(scene);
        var first = CurrentScene.Muster(scene, context, Bounds.Default).References.Single();
        Assert.Equal(ReferenceFlags.None, first.Flags);
        var seen = new Dictionary<Core.Scenes.ReferenceKey, LastSeen>
        {
            [first.Reference.Key] = new(first.Resolved!, first.Stamp!.Value, 4, 4, null),
        };
        File.SetLastWriteTimeUtc(path, DateTime.UtcNow.AddMinutes(5));
        Assert.Equal(
            ReferenceFlags.Changed,
            CurrentScene.Muster(scene, context with { LastSeen = seen }, Bounds.Default).References.Single().Flags
        );
    }

    [Fact]
    public void A_buffer_that_is_too_short_is_damaged()
    {
        place.Put("s/m.bin", new byte[100]);
        var scene = place.Put("s/s.gltf", """{ "asset": { "version": "2.0" }, "buffers": [ { "uri": "m.bin", "byteLength": 101 } ] }""");
        Assert.Equal(ReferenceState.Damaged, Look.Muster(scene).References.Single().State);
    }

    [Fact]
    public void A_buffer_is_never_answered_by_an_image()
    {
        place.PutPng("lib/m.png");
        var scene = place.Put("s/s.gltf", """{ "asset": { "version": "2.0" }, "buffers": [ { "uri": "m.bin", "byteLength": 1 } ] }""");
        Assert.Equal(ReferenceState.Missing, Look.Muster(scene, place.At("lib")).References.Single().State);
    }

    [Fact]
    public void Links_that_lead_out_of_the_roots_answer_nothing()
    {
        var secret = place.PutPng("secret/a.png");
        Directory.CreateDirectory(place.At("s"));
        File.CreateSymbolicLink(place.At("s/a.png"), secret);
        Directory.CreateSymbolicLink(place.At("s/linked"), place.At("secret"));
        var report = Muster("a.png", "linked/a.png");
        Assert.Equal([ReferenceState.Outside, ReferenceState.Outside], report.References.Select(r => r.State));
        Assert.All(report.References, r => Assert.Empty(r.Candidates));
        Assert.Contains(report.Notes, n => n.Contains("leads out", StringComparison.Ordinal));
    }

    [Fact]
    public void Folder_links_in_a_circle_end()
    {
        place.PutPng("lib/deep/moved.png");
        Directory.CreateSymbolicLink(place.At("lib/deep/again"), place.At("lib"));
        Directory.CreateSymbolicLink(place.At("lib/self"), place.At("lib/self"));
        Assert.Equal(ReferenceState.Elsewhere, Muster("moved.png").References.Single().State);
    }

    [Fact]
    public void An_unreadable_name_or_folder_is_a_note_or_passed_over_never_fatal()
    {
        place.PutPng("lib/ok/moved.png");
        place.PutPng("lib/.hidden/moved.png", 3);
        var report = Muster("moved.png");
        Assert.Equal(place.At("lib/ok/moved.png"), report.References.Single().Clear!.Path);
    }

    [Fact]
    public void Copies_with_the_same_contents_are_no_contest()
    {
        place.PutPng("lib/x/a.png", 5);
        place.PutPng("lib/y/a.png", 5);
        Assert.Equal(ReferenceState.Elsewhere, Muster("a.png").References.Single().State);
    }

    [Fact]
    public void Candidates_are_ranked_by_evidence_in_words()
    {
        place.PutPng("lib/job/tex/oak_rough.png", 1);
        place.PutPng("lib/other/OAK_ROUGH.png", 2);
        place.PutPng("lib/other/oak_rough.tif", 3);
        place.PutPng("lib/other/oak_rough_2k.png", 4);
        place.PutPng("lib/other/oak_roughness.png", 5);
        place.PutPng("lib/other/elm_rough.png", 6);
        var found = Muster("D:/job/tex/oak_rough.png").References.Single().Candidates;
        Assert.Equal(
            ["oak_rough.png", "OAK_ROUGH.png", "oak_rough_2k.png", "oak_roughness.png"],
            found.Take(4).Select(c => Path.GetFileName(c.Path))
        );
        Assert.Equal(["Exact name", "2 folders above it have the same names"], found[0].Reasons);
        Assert.Equal(0.76, found[0].Score);
        Assert.Equal(["Same name without case", "The case of the name differs"], found[1].Reasons);
        Assert.Contains("Another resolution, 2k", found[2].Reasons);
        Assert.Equal(["Same map by its name", "Same role, roughness, spelled another way"], found[3].Reasons);
        Assert.DoesNotContain(found, c => c.Path.EndsWith("elm_rough.png", StringComparison.Ordinal));
        // A PNG called .tif is a damaged candidate, so it sinks below the least score.
        Assert.DoesNotContain(found, c => c.Path.EndsWith(".tif", StringComparison.Ordinal));
    }

    [Fact]
    public void Siblings_that_were_found_speak_for_their_folder()
    {
        foreach (var (name, grey) in new[] { ("a_col", 1), ("a_nrm", 2), ("a_rgh", 3) })
            place.PutPng($"lib/set/{name}.png", (byte)grey);
        place.PutPng("lib/else/a_nrm.png", 9);
        var scene = place.Put(
            "s/s.gltf",
            """
            {
              "asset": { "version": "2.0" },
              "images": [ { "uri": "x/a_col.png" }, { "uri": "y/a_nrm.png" }, { "uri": "z/a_rgh.png" } ],
              "textures": [ { "source": 0 }, { "source": 1 }, { "source": 2 } ],
              "materials": [ { "name": "a", "pbrMetallicRoughness": { "baseColorTexture": { "index": 0 },
                "metallicRoughnessTexture": { "index": 2 } }, "normalTexture": { "index": 1 } } ]
            }
            """
        );
        var contested = Look.Muster(scene, place.At("lib")).Named("a_nrm.png");
        Assert.Equal(place.At("lib/set/a_nrm.png"), contested.Candidates[0].Path);
        Assert.Contains("2 of 2 other maps of a can be found here", contested.Candidates[0].Reasons);
        Assert.Equal(0.14, contested.Candidates[0].Score - contested.Candidates[1].Score, 3);
        // 0.14 is below the margin: siblings alone never settle a contest.
        Assert.Equal(ReferenceState.Contested, contested.State);
    }

    [Fact]
    public void Contents_seen_before_beat_every_name()
    {
        var old = place.PutPng("s/a.png", 42);
        var scene = place.Put("s/s.gltf", Look.Gltf("a.png"));
        var first = Look.Muster(scene).References.Single();
        var facts = new FileFacts();
        var seen = new LastSeen(old, first.Stamp!.Value, 4, 4, facts.Hash(old, first.Stamp.Value));
        File.Delete(old);
        place.PutPng("lib/x/a.png", 1);
        place.PutPng("lib/y/a.png", 42);
        var context = Look.Context(scene, place.At("lib")) with
        {
            LastSeen = new Dictionary<Core.Scenes.ReferenceKey, LastSeen> { [first.Reference.Key] = seen },
        };
        var found = CurrentScene.Muster(scene, context, Bounds.Default).References.Single();
        Assert.Equal(place.At("lib/y/a.png"), found.Clear!.Path);
        Assert.Contains("Same contents as last seen", found.Clear.Reasons);
    }

    public void Dispose() => place.Dispose();

    private MusterReport Muster(params string[] uris)
    {
        Directory.CreateDirectory(place.At("lib"));
        return Look.Muster(place.Put("s/s.gltf", Look.Gltf(uris)), place.At("lib"));
    }
}
