using System.Net;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>The Bench over HTTP: marks that stay until a look changes, looks in numbers, values and wires tried and taken.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class BenchTests(ApplicationFixture fixture)
{
    private readonly RunningApplication app = fixture.App;

    [Fact]
    public void A_mark_stays_with_the_scene_until_the_material_looks_another_way_and_stands_in_the_report()
    {
        var bench = Bench("arrived/brass_lamp/brass_lamp.glb");
        var names = bench.Rows().Select(r => Text(r, "name")).ToList();
        bench.Post(
            "/marks",
            new
            {
                materials = names,
                kind = "seen",
                word = (string?)null,
            }
        );
        bench.Post(
            "/marks",
            new
            {
                materials = new[] { names[0] },
                kind = "wrong",
                word = "too dull",
            }
        );
        var view = app.Get(bench.At(""));
        Assert.Equal((names.Count, 1), (view.GetProperty("seen").GetInt32(), view.GetProperty("wrong").GetInt32()));
        string Report() => app.Client.GetStringAsync($"/api/scenes/{bench.Id}/audit/file?format=html").Result;
        Assert.Contains("too dull", Report(), StringComparison.Ordinal);

        bench.Post("/values", Take(names[0], "roughness", 0.31));
        app.Post($"/api/scenes/{bench.Id}/ledger/apply");
        app.Settled(bench.Id);
        var mark = bench.Rows().First(r => Text(r, "name") == names[0]).GetProperty("mark");
        Assert.True(mark.GetProperty("isOld").GetBoolean());
        Assert.DoesNotContain("too dull", Report(), StringComparison.Ordinal);
        app.Post($"/api/scenes/{bench.Id}/ledger/undo");
        app.Settled(bench.Id);
        Assert.False(bench.Rows().First(r => Text(r, "name") == names[0]).GetProperty("mark").GetProperty("isOld").GetBoolean());

        bench.Post(
            "/marks",
            new
            {
                materials = names,
                kind = (string?)null,
                word = (string?)null,
            }
        );
        Assert.All(bench.Rows(), r => Assert.Equal(JsonValueKind.Null, r.GetProperty("mark").ValueKind));
        foreach (var (materials, word) in new[] { (names.Take(1), " "), (["nobody"], "dull"), (names.Take(1), new string('x', 301)) })
            Assert.Equal(
                HttpStatusCode.UnprocessableEntity,
                bench.Status(
                    "/marks",
                    new
                    {
                        materials,
                        kind = "wrong",
                        word,
                    }
                )
            );
    }

    [Fact]
    public void Looks_are_measured_once_and_a_changed_one_lies_away_from_how_it_arrived()
    {
        var bench = Bench("clean/lean_to/lean_to.usda");
        var all = bench.Rows().Count();
        Assert.Equal("done", Text(app.Ended(app.Post(bench.At("/looks"))), "state"));
        var looks = app.Get(bench.At("/looks"));
        Assert.Equal((all, 0), (looks.GetProperty("order").GetArrayLength(), looks.GetProperty("left").GetInt32()));
        Assert.All(looks.GetProperty("moved").EnumerateObject(), m => Assert.Equal(0, m.Value.GetProperty("most").GetDouble()));

        var name = Text(bench.Rows().First(), "name");
        bench.Post("/values", Take(name, "roughness", 0.02));
        app.Post($"/api/scenes/{bench.Id}/ledger/apply");
        app.Settled(bench.Id);
        Assert.Equal(1, app.Get(bench.At("/looks")).GetProperty("left").GetInt32());
        app.Ended(app.Post(bench.At("/looks")));
        var moved = app.Get(bench.At("/looks")).GetProperty("moved");
        Assert.Equal([name], moved.EnumerateObject().Where(m => m.Value.GetProperty("mean").GetDouble() > 0.1).Select(m => m.Name));
        Assert.Equal(1, bench.Rows().First().GetProperty("change").GetInt32());
    }

    [Fact]
    public void What_is_tried_is_drawn_beside_what_is_and_bad_values_are_refused()
    {
        var bench = Bench("arrived/brass_lamp/brass_lamp.glb");
        var name = Text(bench.Rows().First(), "name");
        string Draft(string values) => bench.At($"/draft?name={name}&side=48&values={Uri.EscapeDataString(values)}");
        HttpResponseMessage? drawn = null;
        RunningApplication.Until(
            () => (drawn = app.Client.GetAsync(Draft("{\"roughness\":[0.05]}")).Result).StatusCode == HttpStatusCode.OK,
            "what is tried was not drawn"
        );
        Assert.Contains("mean", Uri.UnescapeDataString(drawn!.Headers.GetValues("Swatch-Difference").Single()), StringComparison.Ordinal);
        foreach (var bad in new[] { "nothing", "{\"roughness\":\"much\"}", "{\"no_such\":[1]}", "{\"roughness\":[1,2]}" })
            Assert.Equal(HttpStatusCode.UnprocessableEntity, app.Client.GetAsync(Draft(bad)).Result.StatusCode);
        Assert.Equal(0, app.Get($"/api/scenes/{bench.Id}/ledger").GetProperty("entries").GetArrayLength());
    }

    [Fact]
    public void A_wire_is_laid_otherwise_and_inputs_are_copied_after_a_dry_run()
    {
        var bench = Bench("clean/lean_to/lean_to.usda");
        var rows = bench.Rows().ToList();
        var (name, input) = rows.Select(r => Text(r, "name")).SelectMany(n => bench.Fed(n).Select(i => (n, i))).First();
        var move = app.Get(bench.At($"/wires?name={name}&input={input}"))
            .EnumerateArray()
            .First(c => Text(c, "act") == "move" && c.GetProperty("whyNot").ValueKind == JsonValueKind.Null);
        var entries = bench.Post(
            "/wires",
            new
            {
                material = name,
                input,
                act = "move",
                to = Text(move, "to"),
                channel = (string?)null,
                seen = (string?)null,
            }
        );
        Assert.Equal(1, entries.GetProperty("pending").GetInt32());
        app.Post($"/api/scenes/{bench.Id}/ledger/apply");
        app.Settled(bench.Id);
        Assert.Contains(Text(move, "to"), bench.Fed(name));
        Assert.DoesNotContain(input, bench.Fed(name));

        var copy = new
        {
            from = name,
            inputs = new[] { Text(move, "to") },
            to = rows.Select(r => Text(r, "name")).ToArray(),
            seen = (string?)null,
        };
        var tried = bench.Post("/copy/preview", copy);
        Assert.Equal((rows.Count, rows.Count - 1), (tried.GetProperty("of").GetInt32(), tried.GetProperty("taking").GetInt32()));
        bench.Post("/copy", copy);
        app.Post($"/api/scenes/{bench.Id}/ledger/apply");
        app.Settled(bench.Id);
        Assert.All(rows, r => Assert.Contains(Text(move, "to"), bench.Fed(Text(r, "name"))));
    }

    private static object Take(string material, string input, double number) =>
        new
        {
            material,
            values = new Dictionary<string, double[]> { [input] = [number] },
            seen = (string?)null,
        };

    private static string Text(JsonElement of, string name) => of.GetProperty(name).GetString()!;

    private BenchOf Bench(string scene) => new(app, fixture.Open(scene));

    private sealed record BenchOf(RunningApplication App, string Id)
    {
        public string At(string rest) => $"/api/scenes/{Id}/bench{rest}";

        public IEnumerable<JsonElement> Rows() => App.Get(At("")).GetProperty("rows").EnumerateArray();

        public JsonElement Post(string to, object body) => App.Post(At(to), body);

        public HttpStatusCode Status(string to, object body) =>
            App.Client.PostAsync(At(to), new StringContent(JsonSerializer.Serialize(body), null, "application/json")).Result.StatusCode;

        /// <summary>Inputs that an image feeds.</summary>
        public IReadOnlyList<string> Fed(string name) =>
            [
                .. App.Get(At("/material?name=" + Uri.EscapeDataString(name)))
                    .GetProperty("inputs")
                    .EnumerateArray()
                    .Where(i => i.GetProperty("maps").GetArrayLength() > 0)
                    .Select(i => i.GetProperty("name").GetString()!),
            ];
    }
}
