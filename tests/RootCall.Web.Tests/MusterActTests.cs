using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>Decisions over many references, over HTTP: each is one entry, previewed, undone as one.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class MusterActTests(ApplicationFixture fixture)
{
    private const string Glasshouse = "arrived/glasshouse_corner/glasshouse_corner.gltf";
    private readonly RunningApplication app = fixture.App;

    [Fact]
    public void Find_and_replace_is_previewed_put_in_as_one_entry_and_undone_as_one()
    {
        var id = fixture.Open(Glasshouse);
        var replace = new
        {
            find = "D:/jobs/2231/tex",
            with = Path.Combine(fixture.Demo.Library, "tin-orchard/tex"),
            matchCase = false,
            wholeName = false,
            regex = false,
            numbers = (int[]?)null,
        };
        var rows = app.Post($"/api/scenes/{id}/paths/preview", replace).GetProperty("rows");
        Assert.Equal(3, rows.GetArrayLength());
        Assert.All(rows.EnumerateArray(), r =>
            Assert.Equal((JsonValueKind.Null, "library/tin-orchard/tex"), (r.GetProperty("whyNot").ValueKind, Text(r, "answer")))
        );
        var entry = app.Post($"/api/scenes/{id}/paths/replace", replace).GetProperty("entries")[0];
        Assert.Equal(
            (3, "find and replace", "pending"),
            (entry.GetProperty("edits").GetInt32(), Text(entry, "proposedBy"), Text(entry, "state"))
        );
        app.Post($"/api/scenes/{id}/ledger/apply");
        Assert.Equal(9, Muster(id).GetProperty("answering").GetInt32());
        app.Post($"/api/scenes/{id}/ledger/undo");
        Assert.Equal(6, Muster(id).GetProperty("answering").GetInt32());
        Assert.Contains(
            "at character",
            Text(app.Post($"/api/scenes/{id}/paths/preview", replace with { find = "(", regex = true }), "whyNot"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Who_has_a_version_of_the_muster_is_sent_the_rows_that_differ()
    {
        var id = fixture.Open(Glasshouse);
        var whole = Muster(id);
        var rows = Rows(whole);
        Assert.Equal(JsonValueKind.Null, whole.GetProperty("since").ValueKind);
        JsonElement Since(JsonElement known) => app.Get($"/api/scenes/{id}/muster?since={Text(known, "version")}");
        var same = Since(whole);
        Assert.Equal((Text(whole, "version"), 0), (Text(same, "since"), Rows(same).Count));
        // Something decided, applied and taken back: laid over what was known, the differences give what all rows are.
        app.Post(
            $"/api/scenes/{id}/ledger/entries",
            new { number = 1, path = fixture.Demo.At("library/tin-orchard/tex/mossy_floor_normal.png") }
        );
        var pending = Since(whole);
        Assert.InRange(Rows(pending).Count, 1, 3);
        app.Post($"/api/scenes/{id}/ledger/apply");
        var applied = Since(pending);
        Assert.InRange(Rows(applied).Count, 1, rows.Count - 1);
        app.Post($"/api/scenes/{id}/ledger/undo");
        foreach (var change in (JsonElement[])[pending, applied, Since(applied)])
        foreach (var (number, row) in Rows(change))
            rows[number] = row;
        Assert.Equal(Rows(Muster(id)), rows);
        // A version that is not known any more is answered with all rows.
        Assert.Equal(rows.Count, Rows(app.Get($"/api/scenes/{id}/muster?since=gone-1")).Count);
    }

    private static SortedDictionary<int, string> Rows(JsonElement muster) =>
        new(muster.GetProperty("references").EnumerateArray().ToDictionary(r => r.GetProperty("number").GetInt32(), r => r.GetRawText()));

    [Fact]
    public void Variants_are_offered_with_their_sizes_and_switched_for_the_focus()
    {
        var id = fixture.Open("arrived/brass_lamp/brass_lamp.glb");
        var rule = Muster(id).GetProperty("bundles")[0];
        app.Post($"/api/scenes/{id}/ledger/entries", new { from = Text(rule, "from"), to = Text(rule.GetProperty("to")[0], "path") });
        app.Post($"/api/scenes/{id}/ledger/apply");
        var option = Assert.Single(app.Post($"/api/scenes/{id}/map-variants", new { numbers = (int[]?)null }).EnumerateArray());
        Assert.Equal(
            ("resolution", "proxy", 2),
            (Text(option, "kind"), Text(option, "value"), option.GetProperty("references").GetInt32())
        );
        Assert.True(option.GetProperty("memoryAfter").GetInt64() * 10 < option.GetProperty("memoryBefore").GetInt64());
        var normal = Number(id, "brass_normal.png");
        var ledger = app.Post(
            $"/api/scenes/{id}/map-variants/switch",
            new
            {
                kind = "resolution",
                value = "proxy",
                numbers = new[] { normal },
            }
        );
        Assert.Equal("Switch 1 reference to proxy", Text(ledger.GetProperty("entries")[1], "sentence"));
        app.Post($"/api/scenes/{id}/ledger/apply");
        Assert.EndsWith("brass_normal_proxy.png", Text(Reference(id, normal), "resolved"), StringComparison.Ordinal);
    }

    [Fact]
    public void The_house_is_put_in_order_and_packed_so()
    {
        var id = fixture.Open(Glasshouse);
        var house = app.Get($"/api/scenes/{id}/house?by=role");
        Assert.Equal("noise.png", Text(house.GetProperty("clashes")[0], "name"));
        Assert.Equal(
            "glasshouse_corner/textures/pot_glaze_test.png",
            Text(Assert.Single(house.GetProperty("unused").EnumerateArray()), "path")
        );
        app.Post(
            $"/api/scenes/{id}/house",
            new
            {
                act = "rename",
                by = "role",
                numbers = (int[]?)null,
            }
        );
        app.Post(
            $"/api/scenes/{id}/house",
            new
            {
                act = "keepOne",
                by = "role",
                numbers = (int[]?)null,
            }
        );
        app.Post($"/api/scenes/{id}/ledger/apply");
        var files = app.Get($"/api/scenes/{id}/send-off").GetProperty("files").EnumerateArray().Select(f => Text(f, "name")).ToList();
        Assert.Contains("textures/glazed_pot_noise.png", files);
        Assert.DoesNotContain("textures/noise.png", files);
        Assert.Single(files, f => f.Contains("mossy_floor_o", StringComparison.Ordinal));
        Assert.Contains(
            "glTF 2.0",
            Refused($"/api/scenes/{id}/paths/style", new { style = "rootRelative", numbers = (int[]?)null }),
            StringComparison.Ordinal
        );
        app.Post($"/api/scenes/{id}/paths/style", new { style = "absolute", numbers = (int[]?)null });
    }

    [Fact]
    public void A_stand_in_is_marked_and_a_package_with_it_is_built_only_when_somebody_says_so()
    {
        var id = fixture.Open("arrived/brass_lamp/brass_lamp.glb");
        var rule = Muster(id).GetProperty("bundles")[0];
        app.Post($"/api/scenes/{id}/ledger/entries", new { from = Text(rule, "from"), to = Text(rule.GetProperty("to")[0], "path") });
        app.Post($"/api/scenes/{id}/ledger/apply");
        var glass = fixture.Open(Glasshouse);
        var gone = Number(glass, "terracotta_pot_occlusion.png");
        Assert.Equal("pot", app.Get($"/api/scenes/{glass}/references/{gone}").GetProperty("blocked")[0].GetString());
        app.Post($"/api/scenes/{glass}/stand-ins", new { numbers = new[] { gone } });
        app.Post($"/api/scenes/{glass}/ledger/apply");
        Assert.Contains("stand-in", Reference(glass, gone).GetProperty("flags").EnumerateArray().Select(f => f.GetString()));
        Assert.Contains(Muster(glass).GetProperty("bundles").EnumerateArray(), b => b.GetProperty("standIns").GetBoolean());
        Assert.Equal(
            "terracotta_pot_occlusion.png",
            Text(Assert.Single(app.Get($"/api/scenes/{glass}/send-off").GetProperty("standIns").EnumerateArray()), "name")
        );
        var refused = app.Ended(
            app.Post(
                $"/api/scenes/{glass}/packages",
                new
                {
                    zip = true,
                    allowMissing = true,
                    allowStandIns = false,
                }
            )
        );
        Assert.Contains("stands in for 1", Text(refused, "error"), StringComparison.Ordinal);
        Assert.Equal(
            "done",
            Text(
                app.Ended(
                    app.Post(
                        $"/api/scenes/{glass}/packages",
                        new
                        {
                            zip = true,
                            allowMissing = true,
                            allowStandIns = true,
                        }
                    )
                ),
                "state"
            )
        );
    }

    [Fact]
    public void A_rule_that_was_applied_is_offered_in_the_next_scene_until_it_is_forgotten()
    {
        var id = fixture.Open(Glasshouse);
        var rule = Muster(id).GetProperty("bundles").EnumerateArray().Single(b => Text(b, "from") == "D:/jobs/2231/tex");
        var to = Text(rule.GetProperty("to")[0], "path");
        app.Post(
            $"/api/scenes/{id}/paths/rule",
            new
            {
                from = "D:/jobs/2231/tex",
                to,
                numbers = (int[]?)null,
            }
        );
        app.Post($"/api/scenes/{id}/ledger/apply");
        Assert.Contains(Root().GetProperty("rules").EnumerateArray(), r => Text(r, "from") == "D:/jobs/2231/tex");
        app.Post($"/api/scenes/{id}/ledger/undo");
        app.Ended(app.Post($"/api/scenes/{id}/search"));
        var again = Muster(id).GetProperty("bundles").EnumerateArray().Single(b => Text(b, "from") == "D:/jobs/2231/tex");
        Assert.True(again.GetProperty("approvedBefore").GetBoolean());
        var candidate = app.Get($"/api/scenes/{id}/references/{again.GetProperty("numbers")[0].GetInt32()}").GetProperty("candidates")[0];
        Assert.Contains(candidate.GetProperty("reasons").EnumerateArray(), r =>
            r.GetString()!.StartsWith("A rule approved before", StringComparison.Ordinal)
        );
        app.Post("/api/roots/rules/forget", new { from = "D:/jobs/2231/tex", to });
        Assert.Equal(0, Root().GetProperty("rules").GetArrayLength());
    }

    private JsonElement Root() => app.Get("/api/roots").EnumerateArray().Single(r => Text(r, "folder") == fixture.Demo.Library);

    private JsonElement Muster(string id) => app.Get($"/api/scenes/{id}/muster");

    private JsonElement Reference(string id, int number) =>
        Muster(id).GetProperty("references").EnumerateArray().Single(r => r.GetProperty("number").GetInt32() == number);

    private int Number(string id, string name) =>
        Muster(id).GetProperty("references").EnumerateArray().First(r => Text(r, "name") == name).GetProperty("number").GetInt32();

    private string Refused(string path, object body)
    {
        var answer = app.Client.PostAsJsonAsync(path, body).Result;
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        return answer.Content.ReadAsStringAsync().Result;
    }

    private static string Text(JsonElement element, string name) => element.GetProperty(name).GetString()!;
}
