using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>Roots with what is known of them: their index, what the files were, and what changes while somebody looks.</summary>
public sealed class RootTests : IDisposable
{
    private readonly Place place = new();
    private readonly RunningApplication app;
    private readonly string scene;

    public RootTests()
    {
        place.PutPng("lib/woods/oak.png", 1);
        place.PutPng("lib/woods/moss.png", 2);
        Directory.CreateDirectory(place.At("out"));
        scene = place.Put("s/s.gltf", Look.Gltf("oak.png", "../lib/woods/moss.png"));
        app = new(new Dictionary<string, string> { ["place"] = place.Folder }, firstScenes: [scene], firstRoots: [place.At("lib")]);
        app.StartWorker();
        RunningApplication.Until(() => app.Get("/api/scenes").GetArrayLength() == 1, "the scene did not arrive");
    }

    private string Id => app.SceneId("s.gltf");

    [Fact]
    public void An_index_outlives_its_worker_and_only_what_changed_is_written()
    {
        RunningApplication.Until(() => Root("lib").GetProperty("files").ValueKind == JsonValueKind.Number, "the root was not listed");
        Assert.Equal((2, 2), (Root("lib").GetProperty("files").GetInt32(), Root("lib").GetProperty("folders").GetInt32()));
        place.PutPng("lib/new/elm.png", 3);
        // Another worker has nothing in memory: it goes on from the database.
        app.StartWorker();
        Assert.Equal("done", app.Ended(app.Post($"/api/roots/{Text(Root("lib"), "id")}/list")).GetProperty("state").GetString());
        Assert.Equal((3, 3), (Root("lib").GetProperty("files").GetInt32(), Root("lib").GetProperty("folders").GetInt32()));
        Directory.Delete(place.At("lib/new"), recursive: true);
        app.Ended(app.Post($"/api/scenes/{Id}/search"));
        Assert.Equal(2, Root("lib").GetProperty("files").GetInt32());
    }

    [Fact]
    public void A_file_written_over_is_flagged_live_with_its_old_picture_and_taken_over()
    {
        var moss = Reference("moss.png").GetProperty("number").GetInt32();
        Remembered();
        Assert.Equal("present", Text(Reference("moss.png"), "state"));
        place.Put("lib/woods/moss.png", Pictures.Png(16, 16, 200));
        RunningApplication.Until(() => Flags("moss.png").Contains("changed"), "the change was not seen");
        var evidence = app.Get($"/api/scenes/{Id}/references/{moss}");
        Assert.Equal((4, 16), (evidence.GetProperty("seen").GetProperty("width").GetInt32(), evidence.GetProperty("width").GetInt32()));
        var old = app.Client.GetAsync($"/api/scenes/{Id}/references/{moss}/picture?before=true").Result;
        Assert.Equal((HttpStatusCode.OK, "image/png"), (old.StatusCode, old.Content.Headers.ContentType!.MediaType));
        app.Ended(app.Post($"/api/scenes/{Id}/references/seen", new { numbers = new[] { moss } }));
        Assert.DoesNotContain("changed", Flags("moss.png"));
        File.Delete(place.At("lib/woods/moss.png"));
        RunningApplication.Until(() => Text(Reference("moss.png"), "state") == "missing", "that it went was not seen");

        // So is one that was written over before anybody looked.
        place.PutPng("s/reed.png");
        var late = place.Put("s/late.gltf", Look.Gltf("reed.png"));
        Assert.Equal("done", Text(app.Ended(app.Post("/api/arrivals/open", new { path = late })), "state"));
        place.Put("s/reed.png", Pictures.Png(16, 16, 200));
        var id = app.SceneId("late.gltf");
        RunningApplication.Until(() => Flags("reed.png", id).Contains("changed"), "what changed before was not seen");
    }

    /// <summary>So is one that a relink called, and another scene that is mustered meanwhile takes no flag away.</summary>
    [Fact]
    public void A_file_written_over_after_a_relink_is_flagged_in_its_scene()
    {
        place.PutPng("lib/woods/birch.png", 9);
        var number = Reference("oak.png").GetProperty("number").GetInt32();
        app.Post($"/api/scenes/{Id}/ledger/entries", new { number, path = place.At("lib/woods/birch.png") });
        app.Post($"/api/scenes/{Id}/ledger/apply");
        RunningApplication.Until(
            () => app.Get("/api/work").EnumerateArray().Count(w => Text(w, "kind") == "remember" && Text(w, "state") == "done") > 1,
            "the file was not remembered"
        );
        Assert.Equal("present", Text(Reference("birch.png"), "state"));
        place.Put("lib/woods/birch.png", Pictures.Png(16, 16, 200));
        RunningApplication.Until(() => Flags("birch.png").Contains("changed"), "the change was not seen");

        var other = place.Put("s/other.gltf", Look.Gltf("../lib/woods/birch.png"));
        Assert.Equal("done", Text(app.Ended(app.Post("/api/arrivals/open", new { path = other })), "state"));
        Assert.DoesNotContain("changed", Flags("birch.png", app.SceneId("other.gltf")));
        Assert.Contains("changed", Flags("birch.png"));
        // Mustered again, it is still not what it was when it was relinked.
        app.Ended(app.Post($"/api/scenes/{Id}/search"));
        Assert.Contains("changed", Flags("birch.png"));
        app.Ended(app.Post($"/api/scenes/{Id}/references/seen", new { numbers = new[] { number } }));
        Assert.DoesNotContain("changed", Flags("birch.png"));
    }

    [Fact]
    public void A_file_that_was_renamed_is_found_by_what_it_holds()
    {
        Remembered();
        File.Move(place.At("lib/woods/moss.png"), place.At("lib/woods/final_v7.png"));
        app.Ended(app.Post($"/api/scenes/{Id}/search"));
        var moss = Reference("moss.png");
        Assert.Equal("elsewhere", Text(moss, "state"));
        var candidate = app.Get($"/api/scenes/{Id}/references/{moss.GetProperty("number").GetInt32()}").GetProperty("candidates")[0];
        Assert.Equal(
            ("final_v7.png", "Same contents as last seen"),
            (Text(candidate, "name"), candidate.GetProperty("reasons")[0].GetString())
        );
    }

    [Fact]
    public void Roots_have_a_name_an_order_and_a_purpose_and_only_one_for_output_is_written_to()
    {
        var added = app.Post("/api/roots", new { folder = place.At("out") });
        var id = Text(added, "id");
        Assert.Equal(2, added.GetProperty("position").GetInt32());
        Patch(
            id,
            new
            {
                name = "deliveries",
                purpose = (string?)null,
                position = (int?)1,
            }
        );
        Assert.Equal(["deliveries", "lib"], app.Get("/api/roots").EnumerateArray().Select(r => Text(r, "name")));
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            app.Client.PatchAsJsonAsync(
                $"/api/roots/{id}",
                new
                {
                    name = (string?)null,
                    purpose = "attic",
                    position = (int?)null,
                }
            ).Result.StatusCode
        );
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            app.Client.PostAsJsonAsync($"/api/scenes/{Id}/copies", new { root = id, folder = "one" }).Result.StatusCode
        );

        Patch(
            id,
            new
            {
                name = (string?)null,
                purpose = "output",
                position = (int?)null,
            }
        );
        Assert.Equal("deliveries", Text(app.Get($"/api/scenes/{Id}/copies").GetProperty("outputs")[0], "name"));
        var rule = app.Get($"/api/scenes/{Id}/muster").GetProperty("bundles").EnumerateArray().Single(b => Text(b, "state") == "elsewhere");
        app.Post($"/api/scenes/{Id}/ledger/entries", new { from = Text(rule, "from"), to = Text(rule.GetProperty("to")[0], "path") });
        app.Post(
            $"/api/scenes/{Id}/paths/style",
            new { style = "absolute", numbers = new[] { Reference("moss.png").GetProperty("number").GetInt32() } }
        );
        app.Post($"/api/scenes/{Id}/ledger/apply");
        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{Id}/copies", new { root = id, folder = "one" })), "state"));
        var written = File.ReadAllText(place.At("out/one/s.gltf"));
        Assert.Contains("\"../../lib/woods/oak.png\"", written, StringComparison.Ordinal);
        Assert.Contains($"\"{place.At("lib/woods/moss.png")}\"", written, StringComparison.Ordinal);
        Assert.Contains(
            "already there",
            Text(app.Ended(app.Post($"/api/scenes/{Id}/copies", new { root = id, folder = "one" })), "error"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void The_words_of_names_are_the_houses_own()
    {
        place.Put("s/t.gltf", Look.Gltf("D:/x/oak_knubbly.png"));
        place.PutPng("lib/woods/oak_nrm.png", 4);
        var names = app.Get("/api/names");
        var roles = names
            .GetProperty("roles")
            .EnumerateObject()
            .ToDictionary(r => r.Name, r => r.Value.EnumerateArray().Select(w => w.GetString()!).ToArray());
        object Words(string[] normal) =>
            new
            {
                roles = new Dictionary<string, string[]>(roles) { ["normal"] = normal },
                sizes = Strings(names, "sizes"),
                colours = Strings(names, "colours"),
                skins = Strings(names, "skins"),
            };
        Assert.Equal(HttpStatusCode.UnprocessableEntity, app.Client.PutAsJsonAsync("/api/names", Words(["nrm", "col"])).Result.StatusCode);
        Assert.Equal(HttpStatusCode.OK, app.Client.PutAsJsonAsync("/api/names", Words(["nrm", "knubbly"])).Result.StatusCode);
        app.Ended(app.Post("/api/arrivals/open", new { path = place.At("s/t.gltf") }));
        Assert.Equal("elsewhere", Text(app.Get($"/api/scenes/{app.SceneId("t.gltf")}/muster").GetProperty("references")[0], "state"));
    }

    public void Dispose()
    {
        app.Dispose();
        place.Dispose();
    }

    private void Remembered() =>
        RunningApplication.Until(
            () => app.Get("/api/work").EnumerateArray().Any(w => Text(w, "kind") == "remember" && Text(w, "state") == "done"),
            "the files were not remembered"
        );

    private void Patch(string id, object change) =>
        Assert.Equal(HttpStatusCode.OK, app.Client.PatchAsJsonAsync($"/api/roots/{id}", change).Result.StatusCode);

    private JsonElement Root(string name) => app.Get("/api/roots").EnumerateArray().Single(r => Text(r, "name") == name);

    private JsonElement Reference(string name, string? id = null) =>
        app.Get($"/api/scenes/{id ?? Id}/muster").GetProperty("references").EnumerateArray().Single(r => Text(r, "name") == name);

    private string[] Flags(string name, string? id = null) =>
        [.. Reference(name, id).GetProperty("flags").EnumerateArray().Select(f => f.GetString()!)];

    private static string[] Strings(JsonElement names, string what) =>
        [.. names.GetProperty(what).EnumerateArray().Select(w => w.GetString()!)];

    private static string Text(JsonElement element, string name) => element.GetProperty(name).GetString()!;
}
