using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>A scene carried to another shading model over HTTP: measured, taken over, worn, swept out, and taken back.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class CrossingEndpointTests(ApplicationFixture fixture)
{
    private readonly RunningApplication app = fixture.App;

    private static string Text(JsonElement of, string name) => of.GetProperty(name).GetString()!;

    private JsonElement View(string id, string to) => app.Get($"/api/scenes/{id}/crossing?to={to}");

    private static JsonElement Row(JsonElement view, string material) =>
        view.GetProperty("rows").EnumerateArray().Single(r => Text(r, "material") == material);

    private void Applied(string id)
    {
        app.Post($"/api/scenes/{id}/ledger/apply");
        app.Settled(id);
    }

    [Fact]
    public void Looks_are_taken_over_worn_and_the_originals_swept_out_each_by_an_entry_that_is_undone_by_itself()
    {
        var id = fixture.Open("clean/lean_to/lean_to.usda");
        app.Settled(id);
        var before = View(id, "open-pbr");
        var names = before.GetProperty("rows").EnumerateArray().Select(r => Text(r, "material")).ToArray();
        Assert.Equal(0, before.GetProperty("pairs").GetInt32());
        var taken = app.Post(
            $"/api/scenes/{id}/crossing",
            new
            {
                to = "open-pbr",
                route = "kept",
                materials = names,
                set = new[]
                {
                    new
                    {
                        material = names[0],
                        input = "specular_roughness",
                        numbers = new[] { 0.125 },
                    },
                },
            }
        );
        Assert.Equal("pending", Text(taken.GetProperty("ledger").GetProperty("entries")[0], "state"));
        Assert.True(Row(View(id, "open-pbr"), names[0]).GetProperty("isPending").GetBoolean());
        Applied(id);
        var worn = View(id, "open-pbr");
        Assert.Equal((names.Length, names.Length), (worn.GetProperty("pairs").GetInt32(), worn.GetProperty("there").GetInt32()));
        Assert.Equal((false, true), Worn(worn));
        // What the artist said holds in place of the formula.
        var mapping = app.Get($"/api/scenes/{id}/crossing/{names[0]}_open_pbr?to=standard-surface")
            .GetProperty("mappings")
            .EnumerateArray()
            .Single(m => Text(m, "to") == "specular_roughness");
        Assert.Equal("0.125", Text(mapping, "before"));

        app.Post($"/api/scenes/{id}/crossing/wear", new { look = "arrived" });
        Applied(id);
        Assert.Equal((true, false), Worn(View(id, "open-pbr")));
        app.Post($"/api/scenes/{id}/ledger/undo");
        app.Settled(id);
        app.Post($"/api/scenes/{id}/crossing/sweep");
        Applied(id);
        Assert.Empty(View(id, "open-pbr").GetProperty("rows").EnumerateArray());
        app.Post($"/api/scenes/{id}/ledger/undo");
        app.Settled(id);
        Assert.Equal(names.Length, View(id, "open-pbr").GetProperty("pairs").GetInt32());
        app.Post($"/api/scenes/{id}/ledger/undo");
        app.Settled(id);
        Assert.Equal(0, View(id, "open-pbr").GetProperty("pairs").GetInt32());
    }

    private static (bool Arrived, bool Crossed) Worn(JsonElement view) =>
        (view.GetProperty("worn").GetProperty("arrived").GetBoolean(), view.GetProperty("worn").GetProperty("crossed").GetBoolean());

    [Fact]
    public void What_the_format_has_no_nodes_for_is_baked_by_a_worker_and_answers_from_the_store()
    {
        var id = fixture.Open("clean/tool_wall/tool_wall.obj");
        app.Settled(id);
        Assert.Equal(
            ["kd", "ks", "ns"],
            Row(View(id, "mtl-phong"), "enamel_label").GetProperty("bakes").EnumerateArray().Select(b => b.GetString())
        );
        var taken = app.Post(
            $"/api/scenes/{id}/crossing",
            new
            {
                to = "mtl-phong",
                route = "kept",
                materials = new[] { "enamel_label" },
            }
        );
        Assert.Equal("done", Text(app.Ended(taken.GetProperty("work")), "state"));
        Applied(id);
        var images = app.Get($"/api/scenes/{id}/muster")
            .GetProperty("references")
            .EnumerateArray()
            .Where(r => Text(r, "name").StartsWith("enamel_label_", StringComparison.Ordinal))
            .ToList();
        Assert.Equal(3, images.Count);
        Assert.All(images, i => Assert.Equal("present", Text(i, "state")));
        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{id}/packages", new { zip = true, allowMissing = true })), "state"));
        app.Post($"/api/scenes/{id}/ledger/undo");
        app.Settled(id);
    }

    [Fact]
    public void Looks_are_measured_under_three_lights_and_what_was_measured_stays_known()
    {
        var id = fixture.Open("clean/seed_drawer/seed_drawer.mtlx");
        app.Settled(id);
        var stopped = app.Post($"/api/scenes/{id}/crossing/measure", new { to = "usd-preview-surface", route = "kept" });
        app.Post($"/api/work/{Text(stopped, "id")}/cancel");
        Assert.Equal("cancelled", Text(app.Ended(stopped), "state"));
        Assert.Equal(0, app.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength());
        var measured = app.Post($"/api/scenes/{id}/crossing/measure", new { to = "usd-preview-surface", route = "kept" });
        Assert.Equal("done", Text(app.Ended(measured), "state"));
        var view = View(id, "usd-preview-surface");
        var means = view.GetProperty("rows").EnumerateArray().Select(r => r.GetProperty("moved").GetProperty("mean").GetDouble()).ToList();
        Assert.Equal(means.OrderDescending(), means);
        var material = Text(view.GetProperty("rows")[0], "material");
        Assert.Equal(
            ["studio", "dusk", "lamp"],
            app.Get($"/api/scenes/{id}/crossing/{material}?to=usd-preview-surface")
                .GetProperty("lights")
                .EnumerateArray()
                .Select(l => Text(l, "light"))
        );
    }
}
