using System.IO.Compression;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>
/// What was lost on the way, taken back over HTTP: the ledger, the scene read again with its edits, and the package of
/// it.
/// </summary>
[Collection(ApplicationCollection.Name)]
public sealed class TransferEndpointTests(ApplicationFixture fixture) : IDisposable
{
    private readonly RunningApplication app = fixture.App;
    private readonly Place place = new();

    [Fact]
    public void Losses_are_taken_back_from_the_compared_scene_and_go_into_the_package()
    {
        var clean = fixture.Open("clean/watering_can/watering_can.usda");
        var id = fixture.Open("arrived/watering_can/watering_can.usda");
        app.Settled(id);
        var lost = app.Get($"/api/scenes/{id}/transfer?with={clean}");
        Assert.Equal(9, lost.GetProperty("lost").GetInt32());
        var rows = lost.GetProperty("families")
            .EnumerateArray()
            .SelectMany(f => f.GetProperty("rows").EnumerateArray())
            .Where(r => r.GetProperty("edits").GetInt32() > 0)
            .Select(r => r.GetProperty("number").GetInt32())
            .ToArray();
        var ledger = app.Post(
            $"/api/scenes/{id}/transfer/restore",
            new
            {
                with = clean,
                version = 0,
                rows,
            }
        );
        Assert.Contains("6 things", Text(ledger.GetProperty("entries")[0], "sentence"), StringComparison.Ordinal);
        Apply(id);
        var after = app.Get($"/api/scenes/{id}/transfer?with={clean}")
            .GetProperty("families")
            .EnumerateArray()
            .Select(f => Text(f, "what"));
        Assert.Equal(["bounding box", "unit"], after.Order());
        // The normal map lay where this scene may not look; it was kept in the store and answers from there.
        var normal = app.Get($"/api/scenes/{id}/muster")
            .GetProperty("references")
            .EnumerateArray()
            .Single(r => Text(r, "name") == "brass_normal.png");
        Assert.Equal("present", Text(normal, "state"));

        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{id}/packages", new { zip = true, allowMissing = true })), "state"));
        Assert.Contains("data/textures/brass_normal.png", Packed(id));
        app.Post($"/api/scenes/{id}/ledger/undo");
        app.Settled(id);
        Assert.Equal(9, app.Get($"/api/scenes/{id}/transfer?with={clean}").GetProperty("lost").GetInt32());
    }

    [Fact]
    public void Carried_images_are_extracted_and_the_archive_stays_as_it_is()
    {
        var id = fixture.Open("arrived/tin_pear/tin_pear.usdz");
        app.Settled(id);
        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{id}/carried/extract", new { numbers = new[] { 1 } })), "state"));
        Apply(id);
        var image = app.Get($"/api/scenes/{id}/muster").GetProperty("references").EnumerateArray().Single(r => Text(r, "kind") == "image");
        Assert.Equal(("present", "tin_leaf_basecolor.png"), (Text(image, "state"), Text(image, "name")));
        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{id}/packages", new { zip = true, allowMissing = false })), "state"));
        Assert.Superset(
            new HashSet<string> { "data/tin_pear.usdz", "data/tin_pear_look.usda", "data/textures/tin_leaf_basecolor.png" },
            Packed(id).ToHashSet()
        );
    }

    [Fact]
    public void An_FBX_is_packed_as_a_GLB_with_its_textures()
    {
        var id = fixture.Open("arrived/garden_gate/garden_gate.fbx");
        app.Post($"/api/scenes/{id}/ledger/entries", new { from = "../../tex", to = fixture.Demo.At("library/tin-orchard/tex") });
        app.Post($"/api/scenes/{id}/ledger/apply");
        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{id}/packages", new { zip = true, allowMissing = false })), "state"));
        Assert.Superset(
            new HashSet<string> { "data/garden_gate.glb", "data/textures/chain_iron_basecolor.png", "data/textures/verdigris_normal.png" },
            Packed(id).ToHashSet()
        );
        Assert.Contains("not written", Text(app.Get($"/api/scenes/{id}"), "readOnlyBecause"), StringComparison.Ordinal);
    }

    [Fact]
    public void Another_choice_of_a_variant_is_an_entry_like_any_other()
    {
        var id = fixture.Open("clean/watering_can/watering_can.usda");
        app.Post(
            $"/api/scenes/{id}/variants",
            new
            {
                place = "/World",
                set = "patina",
                option = "aged",
            }
        );
        Apply(id);
        Assert.Equal("aged", Text(app.Get($"/api/scenes/{id}").GetProperty("variants")[0], "selected"));
        app.Post($"/api/scenes/{id}/ledger/undo");
        app.Settled(id);
        Assert.Equal("fresh", Text(app.Get($"/api/scenes/{id}").GetProperty("variants")[0], "selected"));
    }

    [Fact]
    public void A_ledger_is_replayed_on_the_next_version_and_what_no_longer_applies_is_told()
    {
        var path = fixture.Demo.At("again/s.gltf");
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        File.WriteAllBytes(fixture.Demo.At("again/a.png"), Pictures.Png(2, 2, 1));
        File.WriteAllText(path, Look.Gltf("a.png", "gone.png"));
        var id = fixture.Open("again/s.gltf");
        // Both images carried inside: one edit applies again to the next version, the other's image is no longer called.
        File.WriteAllBytes(fixture.Demo.At("again/gone.png"), Pictures.Png(2, 2, 2));
        app.Ended(app.Post($"/api/scenes/{id}/search"));
        app.Post($"/api/scenes/{id}/carried/carry", new { numbers = new[] { 1, 2 } });
        Apply(id);
        Assert.Equal(2, app.Get($"/api/scenes/{id}").GetProperty("carriedImages").GetInt32());

        File.WriteAllText(path, Look.Gltf("a.png", "other.png"));
        Assert.Equal("done", Text(app.Ended(app.Post("/api/arrivals/open", new { path })), "state"));
        var scene = app.Get($"/api/scenes/{id}");
        Assert.Equal((2, 1), (scene.GetProperty("version").GetInt32(), scene.GetProperty("carriedImages").GetInt32()));
        var refused = Assert.Single(app.Get($"/api/scenes/{id}/ledger").GetProperty("entries")[0].GetProperty("refused").EnumerateArray());
        Assert.Contains("gone.png", Text(refused, "reason"), StringComparison.Ordinal);
        // The older version stands beside by default.
        Assert.True(app.Get($"/api/scenes/{id}/transfer").GetProperty("with").GetProperty("older").GetBoolean());
    }

    public void Dispose() => place.Dispose();

    private static string Text(JsonElement element, string name) => element.GetProperty(name).GetString()!;

    private void Apply(string id)
    {
        app.Post($"/api/scenes/{id}/ledger/apply");
        app.Settled(id);
    }

    private List<string> Packed(string id)
    {
        var package = app.Get($"/api/scenes/{id}/send-off").GetProperty("packages")[0];
        var zip = place.Put(
            $"{Guid.NewGuid():N}.zip",
            app.Client.GetByteArrayAsync($"/api/packages/{Text(package, "id")}/download").Result
        );
        using var archive = ZipFile.OpenRead(zip);
        return [.. archive.Entries.Select(e => e.FullName[(e.FullName.IndexOf('/', StringComparison.Ordinal) + 1)..])];
    }
}
