using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Xml.Linq;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>Scenes as a shelf: called otherwise, found, removed, decided about together, looked into before they are opened.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class ShelfTests(ApplicationFixture fixture) : IDisposable
{
    private readonly RunningApplication app = fixture.App;
    private readonly List<string> made = [];

    [Fact]
    public void A_scene_is_renamed_found_by_what_is_in_it_and_removed_with_all_that_the_store_kept_for_it()
    {
        var id = Upload("trellis.gltf", Look.Gltf("paint/trellis_enamel.png"));
        Send(HttpMethod.Patch, $"/api/scenes/{id}", new { title = "The north trellis" });
        var listed = app.Get("/api/scenes").EnumerateArray().Single(s => Text(s, "id") == id);
        Assert.Equal(("The north trellis", "trellis.gltf"), (Text(listed, "title"), Text(listed, "name")));
        Assert.Equal("The north trellis", Text(app.Get("/api/scenes/" + id), "title"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, Status(HttpMethod.Patch, $"/api/scenes/{id}", new { title = "  " }));

        string Found(string text) =>
            string.Join(
                ' ',
                app.Get("/api/scenes/found?text=" + text)
                    .EnumerateArray()
                    .Where(f => Text(f, "sceneId") == id)
                    .Select(f => $"{Text(f, "kind")}:{Text(f, "name")}")
            );
        Assert.Equal("image:paint/trellis_enamel.png", Found("LLIS_enam"));
        Assert.Equal("material:m0", Found("m0"));
        Assert.Equal(string.Empty, Found("m_"));

        var tree = Directory.GetDirectories(Path.Combine(app.Store, "arrivals")).Single(t => File.Exists(Path.Combine(t, "trellis.gltf")));
        var goes = app.Get($"/api/scenes/{id}/removal");
        Assert.Equal((1, JsonValueKind.Null), (goes.GetProperty("versions").GetInt32(), goes.GetProperty("stays").ValueKind));
        Assert.True(goes.GetProperty("bytes").GetInt64() > 100);
        Send(HttpMethod.Delete, $"/api/scenes/{id}");
        Assert.False(Directory.Exists(tree));
        Assert.DoesNotContain(app.Get("/api/scenes").EnumerateArray(), s => Text(s, "id") == id);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, Status(HttpMethod.Get, $"/api/scenes/{id}/muster"));

        // Read in place: only what Root Call made goes.
        var lamp = fixture.Open("arrived/brass_lamp/brass_lamp.glb");
        Assert.EndsWith("brass_lamp.glb", Text(app.Get($"/api/scenes/{lamp}/removal"), "stays"), StringComparison.Ordinal);
        Send(HttpMethod.Delete, $"/api/scenes/{lamp}");
        Assert.True(File.Exists(fixture.Demo.At("arrived/brass_lamp/brass_lamp.glb")));
    }

    [Fact]
    public void A_version_is_removed_and_the_one_before_is_the_scene_again_but_never_the_last()
    {
        var id = Upload("rack.gltf", Look.Gltf("a.png"));
        using (var form = new MultipartFormDataContent { { new StringContent(Look.Gltf("a.png", "b.png")), "rack.gltf", "file" } })
            app.Ended(Read(app.Client.PostAsync($"/api/arrivals/upload?of={id}&file=rack.gltf", form).Result));
        Assert.Equal((2, 2), (Number("version"), Number("images")));
        app.Ended(Read(app.Client.DeleteAsync($"/api/scenes/{id}/versions/2").Result));
        Assert.Equal((1, 1), (Number("version"), Number("images")));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, Status(HttpMethod.Delete, $"/api/scenes/{id}/versions/1"));
        int Number(string name) => app.Get("/api/scenes/" + id).GetProperty(name).GetInt32();
    }

    [Fact]
    public void What_nothing_uses_is_swept_with_its_bytes_and_what_is_used_stays()
    {
        var id = Upload("stake.gltf", Look.Gltf("stake.png"));
        var blobs = Path.Combine(app.Store, "blobs");
        string Blob() =>
            Directory.GetFiles(blobs, "*", SearchOption.AllDirectories).FirstOrDefault(b => File.ReadAllText(b) == Look.Gltf("stake.png"))
            ?? string.Empty;
        var blob = Blob();
        File.SetLastWriteTimeUtc(blob, DateTime.UtcNow.AddDays(-2));
        app.Ended(app.Post("/api/store/sweep"));
        Assert.True(File.Exists(blob), "a blob that a scene is made of was swept");
        Send(HttpMethod.Delete, $"/api/scenes/{id}");
        File.SetLastWriteTimeUtc(blob, DateTime.UtcNow.AddDays(-2));
        var swept = app.Ended(app.Post("/api/store/sweep"));
        Assert.Matches(@"unused files? (is|are) gone; (it|they) held [\d.,]+ MB", Text(swept, "detail"));
        Assert.False(File.Exists(blob));
    }

    [Fact]
    public void One_relocation_is_tried_on_several_scenes_and_waits_in_the_ledger_of_each_that_it_touches()
    {
        var scenes = new[]
        {
            "arrived/glasshouse_corner/glasshouse_corner.gltf",
            "arrived/watering_can/watering_can.usda",
            "clean/seed_drawer/seed_drawer.mtlx",
        }
            .Select(fixture.Open)
            .ToArray();
        var rule = app.Post("/api/many/choices", new { scenes })
            .GetProperty("rules")
            .EnumerateArray()
            .First(r => r.GetProperty("settles").GetInt32() > 1);
        var decision = new
        {
            scenes,
            recipe = (string?)null,
            rule = new { from = Text(rule, "from"), to = Text(rule, "to") },
        };
        var tried = app.Post("/api/many/preview", decision).EnumerateArray().ToList();
        Assert.Equal(3, tried.Count);
        Assert.Equal(rule.GetProperty("scenes").GetInt32(), tried.Count(r => r.GetProperty("whyNot").ValueKind == JsonValueKind.Null));
        Assert.All(scenes, s => Assert.Equal(0, Pending(s)));
        app.Post("/api/many/apply", decision);
        foreach (var row in tried)
            Assert.Equal(row.GetProperty("whyNot").ValueKind == JsonValueKind.Null ? 1 : 0, Pending(Text(row, "scene")));
        int Pending(string scene) => app.Get($"/api/scenes/{scene}/ledger").GetProperty("pending").GetInt32();
    }

    [Fact]
    public void A_scene_is_found_below_a_folder_looked_into_and_shown_among_the_recent_ones()
    {
        fixture.Open("arrived/glasshouse_corner/glasshouse_corner.gltf");
        var recent = app.Get("/api/folders/recent");
        Assert.Contains(recent.GetProperty("scenes").EnumerateArray(), s =>
            Text(s, "name") == "glasshouse_corner.gltf"
            && Text(s, "format") == "glTF"
            && Text(s, "where") == "The Tin Orchard/arrived/glasshouse_corner"
        );
        var found = app.Get("/api/folders/find?path=&text=GLASSHOUSE_c").EnumerateArray().Where(e => Text(e, "kind") == "scene").ToList();
        Assert.Equal(2, found.Count);
        var path = fixture.Demo.At("arrived/glasshouse_corner/glasshouse_corner.gltf");
        var preview = app.Get("/api/folders/preview?path=" + Uri.EscapeDataString(path));
        Assert.Equal(
            (16, 5, 5),
            (
                preview.GetProperty("nodes").GetInt32(),
                preview.GetProperty("meshes").GetInt32(),
                preview.GetProperty("materialCount").GetInt32()
            )
        );
        Assert.NotEmpty(preview.GetProperty("images").EnumerateArray());
        var crumbs = app.Get("/api/folders?path=" + Uri.EscapeDataString(Path.GetDirectoryName(path)!))
            .GetProperty("crumbs")
            .EnumerateArray()
            .Select(c => Text(c, "name"));
        Assert.Equal(["The Tin Orchard", "arrived", "glasshouse_corner"], crumbs);
        foreach (var route in new[] { "preview", "picture" })
            Assert.Equal(
                HttpStatusCode.UnprocessableEntity,
                Status(HttpMethod.Get, $"/api/folders/{route}?path={Uri.EscapeDataString(fixture.Outside.At("secret.png"))}")
            );
    }

    [Fact]
    public void A_choice_by_hand_waits_in_the_ledger_and_the_report_for_people_tells_of_it()
    {
        var id = fixture.Open("arrived/enamel_sign/enamel_sign.obj");
        RunningApplication.Until(() => Cause() is not null, "the audit did not find it");
        string? Cause() =>
            app.Get($"/api/scenes/{id}/audit")
                .GetProperty("causes")
                .EnumerateArray()
                .Where(c => Text(c, "rule") == "assignment.absent-material")
                .Select(c => Text(c, "key"))
                .FirstOrDefault();
        object Of(string? cause, params string[]? materials) =>
            new
            {
                cause,
                keys = (string[]?)null,
                materials,
            };
        var choices = app.Post($"/api/scenes/{id}/audit/hand/choices", Of(Cause(), null));
        var chain = choices.GetProperty("places")[0];
        Assert.Equal(("chain", "chain_iron"), (Text(chain, "name"), Text(chain, "now")));
        Assert.Equal(["enamel_sign_07", "tin_plate"], choices.GetProperty("materials").EnumerateArray().Select(m => m.GetString()!));
        // The format's reason stands there before anybody tries.
        Assert.Contains("face by face", Text(choices.GetProperty("refused")[0], "why"), StringComparison.Ordinal);

        object Said(double[]? numbers, string? input = "Ns") =>
            new
            {
                of = Of(null, "tin_plate", "enamel_sign_07"),
                places = (string[]?)null,
                kind = "value",
                input,
                numbers,
                path = (string?)null,
                choice = (string?)null,
                seen = (Guid?)null,
            };
        Assert.Equal("Choose an input first.", Title(HttpMethod.Post, $"/api/scenes/{id}/audit/hand", Said([40], null)));
        var fix = app.Post($"/api/scenes/{id}/audit/hand/preview", Said([40]));
        Assert.Equal((2, 0), (fix.GetProperty("edits").GetInt32(), fix.GetProperty("left").GetArrayLength()));
        var ledger = app.Post($"/api/scenes/{id}/audit/hand", Said([40]));
        var entry = ledger.GetProperty("entries")[0];
        Assert.Equal(("Set Ns to 40: 2 places", "by hand"), (Text(entry, "sentence"), Text(entry, "proposedBy")));

        using var answer = app.Client.GetAsync($"/api/scenes/{id}/audit/file?format=html").Result;
        Assert.Equal("text/html", answer.Content.Headers.ContentType?.MediaType);
        var page = XDocument.Parse(answer.Content.ReadAsStringAsync().Result.Split('\n', 2)[1]);
        Assert.Equal("enamel_sign.obj", page.Descendants("h1").Single().Value);
        Assert.Contains("Set Ns to 40: 2 places", page.Descendants("td").Select(t => t.Value));
        Assert.Contains(page.Descendants("h3"), h => h.Value == "blocker: 1 assigned material is not defined");
        Assert.All(page.Descendants("img"), i =>
            Assert.StartsWith("data:image/png;base64,", i.Attribute("src")!.Value, StringComparison.Ordinal)
        );

        var copy = app.Ended(app.Post($"/api/scenes/{id}/copies/fetch"));
        Assert.Equal("to fetch", Text(copy, "phase"));
        using var file = app.Client.GetAsync($"/api/scenes/{id}/copies/{Text(copy, "id")}/file").Result;
        Assert.Equal(HttpStatusCode.OK, file.StatusCode);
    }

    [Fact]
    public void What_turns_out_broken_when_it_is_decoded_is_damaged_at_once_without_another_muster()
    {
        var folder = Directory.CreateDirectory(fixture.Demo.At("made/cracked")).FullName;
        made.Add(folder);
        File.WriteAllBytes(Path.Combine(folder, "cracked_colour.png"), Pictures.Png(64, 64, 3, (x, y, p) => p.Fill((byte)(x * y))));
        File.WriteAllText(Path.Combine(folder, "cracked.gltf"), Look.Gltf("cracked_colour.png"));
        var id = fixture.Open("made/cracked/cracked.gltf");
        RunningApplication.Until(
            () =>
                app.Get("/api/work")
                    .EnumerateArray()
                    .All(w => Text(w, "sceneId") != id || w.GetProperty("endedAt").ValueKind != JsonValueKind.Null),
            "its tasks did not end"
        );
        var searches = Searches();
        // Header, lengths and end stay as they are: only decoding tells.
        var path = Path.Combine(folder, "cracked_colour.png");
        var bytes = File.ReadAllBytes(path);
        var at = bytes.AsSpan().IndexOf("IDAT"u8);
        bytes.AsSpan(at + 6, 12).Fill(0xFF);
        File.WriteAllBytes(path, bytes);
        JsonElement Reference() => app.Get($"/api/scenes/{id}/muster").GetProperty("references")[0];
        RunningApplication.Until(
            () => Reference().GetProperty("flags").EnumerateArray().Any(f => f.GetString() == "changed"),
            () => $"it was not seen to change: {Reference()}"
        );
        app.Client.GetAsync($"/api/scenes/{id}/references/1/picture").Wait();
        RunningApplication.Until(() => Text(Reference(), "state") == "damaged", () => $"it is not told as damaged: {Reference()}");
        Assert.NotEqual(JsonValueKind.Null, Reference().GetProperty("damage").ValueKind);
        Assert.Equal(searches, Searches());
        int Searches() => app.Get("/api/work").EnumerateArray().Count(w => Text(w, "kind") == "search" && Text(w, "sceneId") == id);
    }

    private string Upload(string name, string scene)
    {
        using var form = new MultipartFormDataContent { { new StringContent(scene), name, "file" } };
        app.Ended(Read(app.Client.PostAsync("/api/arrivals/upload", form).Result));
        return app.SceneId(name);
    }

    private void Send(HttpMethod method, string path, object? body = null)
    {
        using var answer = Answer(method, path, body);
        Assert.True(answer.IsSuccessStatusCode, answer.Content.ReadAsStringAsync().Result);
    }

    private HttpStatusCode Status(HttpMethod method, string path, object? body = null)
    {
        using var answer = Answer(method, path, body);
        return answer.StatusCode;
    }

    private string Title(HttpMethod method, string path, object body)
    {
        using var answer = Answer(method, path, body);
        return Text(Read(answer), "title");
    }

    private HttpResponseMessage Answer(HttpMethod method, string path, object? body = null) =>
        app.Client.SendAsync(new(method, path) { Content = body is null ? null : JsonContent.Create(body) }).Result;

    private static JsonElement Read(HttpResponseMessage answer) =>
        JsonDocument.Parse(answer.Content.ReadAsStringAsync().Result).RootElement;

    private static string Text(JsonElement of, string name) =>
        of.GetProperty(name).ValueKind == JsonValueKind.Null ? string.Empty : of.GetProperty(name).ToString();

    public void Dispose()
    {
        foreach (var folder in made)
            Directory.Delete(folder, recursive: true);
    }
}
