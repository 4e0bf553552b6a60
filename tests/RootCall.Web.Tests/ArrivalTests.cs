using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>The ways in: opened in place, dropped as files, dropped as a zip.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class ArrivalTests(ApplicationFixture fixture) : IDisposable
{
    private readonly RunningApplication app = fixture.App;
    private readonly Place place = new();

    [Fact]
    public void A_scene_opened_from_a_folder_is_read_in_place_and_a_second_time_is_a_second_version()
    {
        var blobs = Blobs();
        var id = fixture.Open("arrived/enamel_sign/enamel_sign.obj");
        var version = app.Get("/api/scenes/" + id).GetProperty("version").GetInt32();
        Assert.Equal(id, fixture.Open("arrived/enamel_sign/enamel_sign.obj"));
        var scene = app.Get("/api/scenes/" + id);
        Assert.Equal(
            (version + 1, false, fixture.Demo.At("arrived/enamel_sign/enamel_sign.obj")),
            (scene.GetProperty("version").GetInt32(), scene.GetProperty("uploaded").GetBoolean(), scene.GetProperty("path").GetString())
        );
        Assert.Equal(
            ("Wavefront", 3, 8256),
            (scene.GetProperty("format").GetString(), scene.GetProperty("materials").GetInt32(), scene.GetProperty("triangles").GetInt64())
        );
        Assert.Contains("chain_iron", scene.GetProperty("notes")[0].GetProperty("message").GetString(), StringComparison.Ordinal);
        Assert.Equal(blobs, Blobs());
    }

    [Fact]
    public void A_dropped_folder_and_the_same_as_a_zip_share_their_contents_in_the_store()
    {
        var before = Blobs();
        var clean = fixture.Demo.At("clean/brass_lamp");
        var files = Directory.GetFiles(clean, "*", SearchOption.AllDirectories);
        var dropped = app.Ended(Upload([.. files.Select(f => ("brass_lamp/" + Path.GetRelativePath(clean, f), File.ReadAllBytes(f)))]));
        Assert.Equal("done", dropped.GetProperty("state").GetString());
        var between = Blobs();
        Assert.Equal(before + files.Length, between);

        ZipFile.CreateFromDirectory(clean, place.At("lamp.zip"));
        Assert.Equal("done", app.Ended(Upload([("lamp.zip", File.ReadAllBytes(place.At("lamp.zip")))])).GetProperty("state").GetString());
        Assert.Equal(between, Blobs());
        var both = app.Get("/api/scenes")
            .EnumerateArray()
            .Where(s =>
                s.GetProperty("name").GetString() == "brass_lamp.glb" && s.GetProperty("source").GetString() is "brass_lamp" or "lamp.zip"
            )
            .ToList();
        Assert.Equal(2, both.Count);
        Assert.All(both, s => Assert.Equal(0, s.GetProperty("unanswered").GetInt32()));
        Assert.Empty(Directory.GetFileSystemEntries(Path.Combine(app.Store, "incoming")));
    }

    [Fact]
    public void A_delivery_of_several_scenes_brings_each_and_names_what_could_not_be_read()
    {
        var ended = app.Ended(
            Upload([
                ("kit/one.gltf", Encoding.UTF8.GetBytes(Look.Gltf("a.png"))),
                ("kit/many.gltf", Encoding.UTF8.GetBytes(Look.Gltf([.. Enumerable.Range(0, 45).Select(i => $"b{i}.png")]))),
                ("kit/broken.glb", [1, 2, 3]),
            ])
        );
        Assert.Equal("failed", ended.GetProperty("state").GetString());
        Assert.Contains("broken.glb", ended.GetProperty("error").GetString(), StringComparison.Ordinal);
        Assert.Contains("2 other scenes arrived", ended.GetProperty("error").GetString(), StringComparison.Ordinal);
        Assert.Equal(1, app.Get("/api/scenes/" + app.SceneId("one.gltf")).GetProperty("images").GetInt32());
        // Of many materials the first are listed and the others counted.
        var many = app.Get("/api/scenes/" + app.SceneId("many.gltf"));
        Assert.Equal("m39", many.GetProperty("materialList")[39].GetProperty("name").GetString());
        Assert.Equal((40, 5), (many.GetProperty("materialList").GetArrayLength(), many.GetProperty("moreMaterials").GetInt32()));
    }

    [Fact]
    public void Textures_alone_become_a_root_of_the_picked_scene_are_searched_at_once_and_can_be_taken_out()
    {
        var scene = app.Ended(Upload([("wicket.gltf", Encoding.UTF8.GetBytes(Look.Gltf("tex/wicket_colour.png")))]));
        Assert.Equal("done", scene.GetProperty("state").GetString());
        var id = app.SceneId("wicket.gltf");
        JsonElement Reference() => app.Get($"/api/scenes/{id}/muster").GetProperty("references")[0];
        Assert.Equal("missing", Reference().GetProperty("state").GetString());
        (string, byte[])[] files =
        [
            ("paint/wicket_colour.png", File.ReadAllBytes(Directory.GetFiles(fixture.Demo.At("clean/brass_lamp/textures"), "*.png")[0])),
            ("paint/read me.txt", [65]),
        ];
        Assert.Contains("pick the scene", app.Ended(Upload(files)).GetProperty("error").GetString(), StringComparison.Ordinal);

        Assert.Equal("done", app.Ended(Upload(files, $"?picked={id}")).GetProperty("state").GetString());
        RunningApplication.Until(
            () => Reference().GetProperty("state").GetString() == "elsewhere",
            () => $"it was not looked for: {Reference()}"
        );
        Assert.Equal("added/paint", Reference().GetProperty("answer").GetString());
        var added = Assert.Single(app.Get($"/api/scenes/{id}/added").EnumerateArray());
        Assert.Equal(("paint", 1), (added.GetProperty("name").GetString(), added.GetProperty("files").GetInt32()));

        using var gone = app.Client.DeleteAsync($"/api/scenes/{id}/added/{added.GetProperty("id").GetString()}").Result;
        Assert.Equal(HttpStatusCode.OK, gone.StatusCode);
        RunningApplication.Until(
            () => Reference().GetProperty("state").GetString() == "missing",
            () => $"it is still called from there: {Reference()}"
        );
        Assert.Empty(app.Get($"/api/scenes/{id}/added").EnumerateArray());
    }

    [Fact]
    public void What_holds_no_scene_or_leads_out_keeps_nothing()
    {
        Assert.Contains("no scene", app.Ended(Upload([("notes.txt", [65])])).GetProperty("error").GetString(), StringComparison.Ordinal);

        using (var zip = ZipFile.Open(place.At("evil.zip"), ZipArchiveMode.Create))
        {
            zip.CreateEntry("s.gltf");
            zip.CreateEntry("../../evil.txt");
        }

        Assert.Contains(
            "leads out",
            app.Ended(Upload([("evil.zip", File.ReadAllBytes(place.At("evil.zip")))])).GetProperty("error").GetString(),
            StringComparison.Ordinal
        );
        var refused = Assert.Throws<HttpRequestException>(() => Upload([("ok.gltf", [65]), ("../evil.gltf", [65])]));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Empty(Directory.GetFileSystemEntries(Path.Combine(app.Store, "incoming")));
        Assert.DoesNotContain(Directory.GetFiles(app.Store, "*", SearchOption.AllDirectories), f =>
            f.Contains("evil", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void A_carried_image_and_a_candidate_get_their_pictures_and_a_broken_one_gets_none()
    {
        var lamp = fixture.Open("arrived/brass_lamp/brass_lamp.glb");
        foreach (var query in new[] { "4/picture", "1/picture?candidate=0", "6/picture?large=true" })
        {
            HttpResponseMessage? answer = null;
            RunningApplication.Until(
                () => (answer = app.Client.GetAsync($"/api/scenes/{lamp}/references/{query}").Result).StatusCode != HttpStatusCode.Accepted,
                "no picture was made"
            );
            Assert.Equal((HttpStatusCode.OK, "image/png"), (answer!.StatusCode, answer.Content.Headers.ContentType?.MediaType));
            var picture = Core.Imaging.ImageProbe.Stream(answer.Content.ReadAsStream(), "p.png");
            Assert.Null(picture.Damage);
            Assert.Equal(query.Contains("large", StringComparison.Ordinal) ? 512 : 256, picture.Facts!.Width);
        }

        var corner = fixture.Open("arrived/glasshouse_corner/glasshouse_corner.gltf");
        RunningApplication.Until(
            () => app.Client.GetAsync($"/api/scenes/{corner}/references/8/picture").Result.StatusCode == HttpStatusCode.NoContent,
            "a truncated PNG got a picture"
        );
    }

    [Fact]
    public void A_material_gets_a_swatch_for_each_light_and_one_that_is_not_there_gets_none()
    {
        var can = fixture.Open("clean/watering_can/watering_can.usda");
        (HttpStatusCode, string?, byte[]) Asked(string query)
        {
            HttpResponseMessage? answer = null;
            RunningApplication.Until(
                () => (answer = app.Client.GetAsync($"/api/scenes/{can}/swatch?{query}").Result).StatusCode != HttpStatusCode.Accepted,
                "no swatch was made"
            );
            return (answer!.StatusCode, answer.Headers.ETag?.Tag, answer.Content.ReadAsByteArrayAsync().Result);
        }

        var before = Asked("material=brass_spout&side=48");
        var picture = Core.Imaging.ImageProbe.Stream(new MemoryStream(before.Item3), "p.png");
        Assert.Equal((HttpStatusCode.OK, 48), (before.Item1, picture.Facts!.Width));
        Assert.NotEqual(before.Item2, Asked("material=brass_spout&side=48&light=dusk").Item2);
        Assert.Equal(HttpStatusCode.NoContent, Asked("material=nobody").Item1);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            app.Client.GetAsync($"/api/scenes/{can}/swatch?material=x&side=7").Result.StatusCode
        );
    }

    public void Dispose() => place.Dispose();

    private int Blobs() => Directory.GetFiles(Path.Combine(app.Store, "blobs"), "*", SearchOption.AllDirectories).Length;

    private JsonElement Upload((string Name, byte[] Bytes)[] files, string query = "")
    {
        using var form = new MultipartFormDataContent();
        foreach (var (name, bytes) in files)
            form.Add(new ByteArrayContent(bytes), Uri.EscapeDataString(name), "file");
        var answer = app.Client.PostAsync("/api/arrivals/upload" + query, form).Result;
        var text = answer.Content.ReadAsStringAsync().Result;
        if (!answer.IsSuccessStatusCode)
            throw new HttpRequestException(text, null, answer.StatusCode);
        return JsonDocument.Parse(text).RootElement;
    }
}
