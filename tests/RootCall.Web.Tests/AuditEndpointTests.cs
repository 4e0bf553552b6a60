using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>The audit over HTTP: causes with evidence, fixes into the ledger, waivers, destinations, house rules and recipes.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class AuditEndpointTests(ApplicationFixture fixture)
{
    private const string RoughInSubsurface = "wiring.role-mismatch/roughness in subsurface";
    private readonly RunningApplication app = fixture.App;

    [Fact]
    public void A_family_is_fixed_as_one_entry_and_its_cause_is_gone_once_it_is_applied_and_back_when_undone()
    {
        var id = Open("seed_tins/seed_tins.mtlx");
        Assert.Equal((17, 5), (Audit(id).GetProperty("blockers").GetInt32(), Audit(id).GetProperty("warnings").GetInt32()));
        var cause = Cause(id, RoughInSubsurface);
        Assert.Equal(
            (12, "24 edits = 12 connect + 12 disconnect"),
            (cause.GetProperty("members").GetArrayLength(), Text(cause.GetProperty("fix"), "count"))
        );
        var wire = cause.GetProperty("evidence").GetProperty("wires")[0];
        Assert.Equal(("subsurface", "specular_roughness"), (Text(wire, "now"), Text(wire, "after")));
        Assert.Equal(32, cause.GetProperty("evidence").GetProperty("images")[0].GetProperty("histogram").GetArrayLength());
        Assert.Equal(12, cause.GetProperty("plot").GetProperty("dots").GetArrayLength());
        Assert.Contains(cause.GetProperty("evidence").GetProperty("rail").EnumerateArray(), r =>
            Text(r, "input") == "subsurface" && Text(r, "after") == "0.00"
        );

        var ledger = Fix(
            id,
            new
            {
                cause = RoughInSubsurface,
                keys = (string[]?)null,
                safe = false,
                seen = (Guid?)null,
            }
        );
        Assert.Equal(
            ("Fix 12 roughness maps feed subsurface", "rule wiring.role-mismatch", 24),
            (
                Text(ledger.GetProperty("entries")[0], "sentence"),
                Text(ledger.GetProperty("entries")[0], "proposedBy"),
                ledger.GetProperty("entries")[0].GetProperty("edits").GetInt32()
            )
        );
        Assert.Equal(1, Item(id, RoughInSubsurface).GetProperty("pending").GetInt32());
        app.Post($"/api/scenes/{id}/ledger/apply");
        RunningApplication.Until(() => Audit(id).GetProperty("blockers").GetInt32() == 5, "the counts did not fall");
        app.Post($"/api/scenes/{id}/ledger/undo");
        RunningApplication.Until(() => Audit(id).GetProperty("blockers").GetInt32() == 17, "undo did not bring them back");
        // What was undone can be done again, until something new is put in.
        Assert.Equal(1, app.Post($"/api/scenes/{id}/ledger/redo").GetProperty("pending").GetInt32());
        Assert.Contains(
            "could be done again",
            Refused(app.Client.PostAsJsonAsync($"/api/scenes/{id}/ledger/redo", new { }).Result),
            StringComparison.Ordinal
        );
        var file = JsonDocument.Parse(app.Client.GetStringAsync($"/api/scenes/{id}/ledger/file").Result).RootElement;
        Assert.Equal(24, file[0].GetProperty("edits").GetArrayLength());
        app.Post($"/api/scenes/{id}/ledger/undo");
    }

    [Theory]
    [InlineData("seed_tins/seed_tins.mtlx")]
    [InlineData("lean_to/lean_to.usda")]
    [InlineData("brass_gardener/brass_gardener.gltf")]
    public void The_command_line_finds_the_same(string scene)
    {
        var causes = Audit(Open(scene))
            .GetProperty("causes")
            .EnumerateArray()
            .Select(c => (Text(c, "key"), c.GetProperty("count").GetInt32()));
        var told = Tool.RootCall("audit", fixture.Demo.At("arrived/" + scene), "--format", "json");
        using var json = JsonDocument.Parse(told.Output);
        var findings = json.RootElement.GetProperty("findings").EnumerateArray().CountBy(f => Text(f, "cause"));
        Assert.NotEmpty(causes);
        Assert.Equal(causes.Order(), findings.Select(f => (f.Key, f.Value)).Order());
    }

    [Fact]
    public void Single_findings_and_all_that_is_safe_are_fixed_and_what_is_pending_is_not_put_in_twice()
    {
        var id = Open("lean_to/lean_to.usda");
        var safe = Audit(id).GetProperty("safe").GetInt32();
        Assert.True(safe >= 6, $"{safe}");
        var member = Text(Cause(id, "values.cut-out-threshold").GetProperty("members")[0], "key");
        Fix(
            id,
            new
            {
                cause = (string?)null,
                keys = new[] { member },
                safe = false,
                seen = (Guid?)null,
            }
        );
        Assert.Equal(safe - 1, Audit(id).GetProperty("safe").GetInt32());
        Fix(
            id,
            new
            {
                cause = (string?)null,
                keys = (string[]?)null,
                safe = true,
                seen = (Guid?)null,
            }
        );
        Assert.Equal(0, Audit(id).GetProperty("safe").GetInt32());
        app.Post($"/api/scenes/{id}/ledger/apply");
        RunningApplication.Until(() => Audit(id).GetProperty("blockers").GetInt32() <= 1, "the safe ones were not mended");
        while (app.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength() > 0)
            app.Post($"/api/scenes/{id}/ledger/undo");
    }

    [Fact]
    public void The_later_of_two_windows_is_told_and_nothing_is_lost()
    {
        var id = Open("tool_wall/tool_wall.obj");
        var first = Fix(
            id,
            new
            {
                cause = "values.black-tint",
                keys = (string[]?)null,
                safe = false,
                seen = (Guid?)null,
            }
        );
        var seen = first.GetProperty("entries")[0].GetProperty("id").GetGuid();
        var all = Cause(id, "values.invisible");
        Fix(
            id,
            new
            {
                cause = "values.invisible",
                keys = (string[]?)null,
                safe = false,
                seen = (Guid?)seen,
            }
        );
        // A window that knows only the first entry wants the same thing, by a recipe.
        Put("/api/recipes", new { id = "visible", text = """{ "name": "visible", "steps": [{ "rule": "values.invisible" }] }""" });
        var told = Refused(
            app.Client.PostAsJsonAsync($"/api/scenes/{id}/recipes/visible/apply", new { keys = (string[]?)null, seen }).Result
        );
        Assert.Contains("from another window", told, StringComparison.Ordinal);
        Assert.Equal(2, app.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength());
        Assert.Equal(1, all.GetProperty("members").GetArrayLength());
        Assert.Equal(HttpStatusCode.NoContent, app.Client.DeleteAsync("/api/recipes/visible").Result.StatusCode);
        while (app.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength() > 0)
            app.Post($"/api/scenes/{id}/ledger/undo");
    }

    [Fact]
    public void A_waiver_needs_a_reason_and_can_be_taken_back()
    {
        var id = Open("brass_gardener/brass_gardener.gltf");
        var before = Audit(id).GetProperty("findings").GetInt32();
        Assert.Contains(
            "needs a reason",
            Refused(app.Client.PostAsJsonAsync($"/api/scenes/{id}/audit/waive", new { cause = "values.self-lit", reason = " " }).Result),
            StringComparison.Ordinal
        );
        var after = app.Post($"/api/scenes/{id}/audit/waive", new { cause = "values.self-lit", reason = "it glows in the film" });
        Assert.Equal(before - 1, after.GetProperty("findings").GetInt32());
        Assert.Equal("it glows in the film", Text(Item(id, "values.self-lit"), "waived"));
        using var sarif = JsonDocument.Parse(app.Client.GetStringAsync($"/api/scenes/{id}/audit/file").Result);
        var waived = sarif
            .RootElement.GetProperty("runs")[0]
            .GetProperty("results")
            .EnumerateArray()
            .Single(r => r.TryGetProperty("suppressions", out _));
        Assert.Equal(
            ("values.self-lit", "it glows in the film"),
            (Text(waived, "ruleId"), Text(waived.GetProperty("suppressions")[0], "justification"))
        );
        Assert.DoesNotContain(
            "glow with",
            app.Client.GetStringAsync($"/api/scenes/{id}/audit/file?format=junit").Result,
            StringComparison.Ordinal
        );
        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{id}/packages", new { zip = true, allowMissing = true })), "state"));
        var package = Text(app.Get($"/api/scenes/{id}/send-off").GetProperty("packages")[0], "id");
        using var zip = new ZipArchive(new MemoryStream(app.Client.GetByteArrayAsync($"/api/packages/{package}/download").Result));
        using var report = JsonDocument.Parse(zip.Entries.Single(e => e.Name == "report.json").Open());
        Assert.Equal("it glows in the film", Text(Assert.Single(report.RootElement.GetProperty("waived").EnumerateArray()), "reason"));
        Assert.Equal(
            before,
            app.Post($"/api/scenes/{id}/audit/unwaive", new { cause = "values.self-lit" }).GetProperty("findings").GetInt32()
        );
    }

    [Fact]
    public void Another_destination_says_what_it_would_change_and_a_changed_one_is_the_houses_own()
    {
        var id = Open("brass_lamp/brass_lamp.glb");
        JsonElement Change(string destination) =>
            app.Get($"/api/scenes/{id}/audit/destinations")
                .EnumerateArray()
                .Single(d => Text(d.GetProperty("destination"), "id") == destination);
        Assert.True(Change("plain").GetProperty("chosen").GetBoolean());
        Assert.Contains(Change("usd-preview").GetProperty("comes").EnumerateArray(), c =>
            c.GetString()!.Contains("does not evaluate", StringComparison.Ordinal)
        );
        var chosen = Put($"/api/scenes/{id}/audit/destination", new { id = "usd-preview" });
        Assert.Equal("USD preview", Text(chosen.GetProperty("destination"), "name"));
        Assert.True(chosen.GetProperty("warnings").GetInt32() >= 3);
        var text = Text(app.Get("/api/destinations/usd-preview"), "text")
            .Replace("\"usd-preview\"", "\"orchard-screen\"", StringComparison.Ordinal)
            .Replace("USD preview", "Orchard screen", StringComparison.Ordinal);
        Assert.True(Put("/api/destinations", new { text }).GetProperty("own").GetBoolean());
        Assert.Equal("Orchard screen", Text(Change("orchard-screen").GetProperty("destination"), "name"));
        Assert.Contains(
            "no destination",
            Refused(app.Client.PutAsJsonAsync("/api/destinations", new { text = "{ \"id\": 3" }).Result),
            StringComparison.Ordinal
        );
        app.Client.DeleteAsync("/api/destinations/orchard-screen").Wait();
        Put($"/api/scenes/{id}/audit/destination", new { id = "plain" });
    }

    [Fact]
    public void House_rules_hold_for_every_scene_and_are_refused_when_they_cannot_be_read()
    {
        var id = Open("brass_gardener/brass_gardener.gltf");
        Assert.Equal("warning", Text(Item(id, "values.beyond-clamp/roughness"), "severity"));
        app.Client.PatchAsJsonAsync("/api/rules/values.beyond-clamp", new { severity = "blocker", thresholds = (object?)null }).Wait();
        Assert.Equal("blocker", Text(Item(id, "values.beyond-clamp/roughness"), "severity"));
        Assert.Contains("\"values.beyond-clamp\": \"blocker\"", Text(app.Get("/api/house-rules"), "text"), StringComparison.Ordinal);
        Assert.Contains(
            "there is none",
            Refused(app.Client.PutAsJsonAsync("/api/house-rules", new { text = """{ "severities": { "values.none": "off" } }""" }).Result),
            StringComparison.Ordinal
        );
        Put("/api/house-rules", new { text = "{}" });
        Assert.Equal("warning", Text(Item(id, "values.beyond-clamp/roughness"), "severity"));
    }

    [Fact]
    public void A_recipe_recorded_from_the_ledger_waits_in_every_arrival_from_its_source()
    {
        var id = Open("seed_tins/seed_tins.mtlx");
        var entry = Fix(
                id,
                new
                {
                    cause = RoughInSubsurface,
                    keys = (string[]?)null,
                    safe = false,
                    seen = (Guid?)null,
                }
            )
            .GetProperty("entries")[0]
            .GetProperty("id")
            .GetString();
        var recipe = app.Post($"/api/scenes/{id}/recipes/record", new { name = "Tins of the supplier", entries = new[] { entry } });
        Assert.Equal(
            ("tins-of-the-supplier", "material seed_tin_*, input subsurface, image seed_tin_*_roughness.png"),
            (Text(recipe, "id"), Text(recipe.GetProperty("stepList")[0], "match"))
        );
        app.Post($"/api/scenes/{id}/ledger/undo");
        var dry = app.Post($"/api/scenes/{id}/recipes/tins-of-the-supplier/dry-run");
        Assert.Equal(24, dry.GetProperty("fix").GetProperty("edits").GetInt32());
        Assert.Equal(0, app.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength());

        var text = Text(app.Get("/api/recipes/tins-of-the-supplier"), "text")
            .Replace("\"source\": \"\"", "\"source\": \"*\"", StringComparison.Ordinal);
        Put("/api/recipes", new { id = "tins-of-the-supplier", text });
        var copy = Directory.CreateDirectory(fixture.Demo.At($"again_{Guid.NewGuid():N}")).FullName;
        foreach (var file in Directory.EnumerateFiles(fixture.Demo.At("arrived/seed_tins"), "*", SearchOption.AllDirectories))
        {
            var to = Path.Combine(copy, Path.GetRelativePath(fixture.Demo.At("arrived/seed_tins"), file));
            Directory.CreateDirectory(Path.GetDirectoryName(to)!);
            File.Copy(file, to);
        }

        Assert.Equal("done", Text(app.Ended(app.Post("/api/arrivals/open", new { path = Path.Combine(copy, "seed_tins.mtlx") })), "state"));
        var again = app.Get("/api/scenes")
            .EnumerateArray()
            .Select(s => Text(s, "id"))
            .First(s => Text(app.Get("/api/scenes/" + s), "path").StartsWith(copy, StringComparison.Ordinal));
        RunningApplication.Until(
            () => app.Get($"/api/scenes/{again}/ledger").GetProperty("pending").GetInt32() == 1,
            "the recipe did not wait in the new arrival"
        );
        Assert.Equal("recipe Tins of the supplier", Text(app.Get($"/api/scenes/{again}/ledger").GetProperty("entries")[0], "proposedBy"));
        app.Client.DeleteAsync("/api/recipes/tins-of-the-supplier").Wait();
    }

    /// <summary>Opened, with an empty ledger, and every image measured.</summary>
    private string Open(string scene)
    {
        var id = fixture.Open("arrived/" + scene);
        RunningApplication.Until(() => Audit(id).GetProperty("toMeasure").GetInt32() == 0, "the images were not measured");
        return id;
    }

    private JsonElement Audit(string id) => app.Get($"/api/scenes/{id}/audit");

    private JsonElement Item(string id, string key) => Audit(id).GetProperty("causes").EnumerateArray().Single(c => Text(c, "key") == key);

    private JsonElement Cause(string id, string key) => app.Get($"/api/scenes/{id}/audit/cause?key={Uri.EscapeDataString(key)}");

    private JsonElement Fix(string id, object request) => app.Post($"/api/scenes/{id}/audit/fix", request);

    private JsonElement Put(string path, object body)
    {
        var answer = app.Client.PutAsJsonAsync(path, body).Result;
        var text = answer.Content.ReadAsStringAsync().Result;
        Assert.True(answer.IsSuccessStatusCode, text);
        return JsonDocument.Parse(text).RootElement.Clone();
    }

    private static string Refused(HttpResponseMessage answer)
    {
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        return Text(JsonDocument.Parse(answer.Content.ReadAsStringAsync().Result).RootElement, "title");
    }

    private static string Text(JsonElement element, string property) => element.GetProperty(property).GetString()!;
}
