using System.Text.Json;
using RootCall.Core.Imaging;
using RootCall.Testing;

namespace RootCall.Core.Tests.Cli;

/// <summary>The command line's contract: verbs, JSON shapes, exit status 0, 1 and 2.</summary>
public sealed class CommandLineTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void Muster_tells_references_candidates_relocations_and_totals()
    {
        var result = Tool.RootCall("muster", demo.At("arrived/brass_lamp/brass_lamp.glb"), "--root", demo.Library, "--format", "json");
        Assert.Equal((1, string.Empty), (result.Status, result.Error));
        using var json = JsonDocument.Parse(result.Output);
        var root = json.RootElement;
        Assert.Equal(
            (demo.At("arrived/brass_lamp/brass_lamp.glb"), "glb"),
            (root.GetProperty("scene").GetString(), root.GetProperty("format").GetString())
        );
        var first = root.GetProperty("references")[0];
        Assert.Equal(
            (1, "image", "//stow04/lib/metals/brass_basecolor.png", "elsewhere"),
            (
                first.GetProperty("id").GetInt32(),
                first.GetProperty("kind").GetString(),
                first.GetProperty("written").GetString(),
                first.GetProperty("state").GetString()
            )
        );
        Assert.Equal("brass_gardener", first.GetProperty("usedBy")[0].GetProperty("material").GetString());
        var candidate = first.GetProperty("candidates")[0];
        Assert.Equal(Path.Combine(demo.Library, "metals/brass_basecolor.png"), candidate.GetProperty("path").GetString());
        Assert.True(candidate.GetProperty("score").GetDouble() > 0.5 && candidate.GetProperty("reasons").GetArrayLength() > 0);
        var rule = root.GetProperty("relocations")[0];
        Assert.Equal(("//stow04/lib/metals", 3), (rule.GetProperty("from").GetString(), rule.GetProperty("settles").GetInt32()));
        Assert.Equal(3, root.GetProperty("totals").GetProperty("elsewhere").GetInt32());
    }

    [Fact]
    public void Render_draws_a_scene_by_its_camera_or_a_material_on_a_shape_and_refuses_what_is_not_there()
    {
        var lamp = demo.At("clean/brass_lamp/brass_lamp.glb");
        (int Status, string Said) Render(string file, params string[] more)
        {
            var done = Tool.RootCall(["render", lamp, "--samples", "2", "--out", place.At(file), .. more]);
            return (done.Status, done.Output + done.Error);
        }

        var scene = Render("lamp.png", "--size", "32x18", "--camera", "lamp", "--light", demo.At("library/skies/dusk_04.hdr"), "--sky");
        Assert.True(scene.Status == 0, scene.Said);
        var facts = ImageProbe.File(place.At("lamp.png")).Facts!;
        Assert.Equal((32, 18), (facts.Width, facts.Height));
        Assert.Equal(0, Render("slab.hdr", "--size", "24", "--material", "brass_gardener", "--shape", "slab", "--light", "dusk").Status);
        Assert.True(ImageProbe.File(place.At("slab.hdr")).Facts is { Width: 24, IsFloat: true });
        Assert.Equal(0, Render("drape.exr", "--size", "24", "--material", "brass_gardener", "--shape", "drape").Status);
        Assert.True(ImageProbe.File(place.At("drape.exr")).Facts is { Width: 24, Height: 24, Channels: 3, IsFloat: true });
        // The same linear light in both kinds of file.
        Assert.Equal(0, Render("drape.hdr", "--size", "24", "--material", "brass_gardener", "--shape", "drape").Status);
        var apart = Tool.Run("idiff", ["-fail", "0.02", "-warn", "1", place.At("drape.exr"), place.At("drape.hdr")]);
        Assert.True(apart.Status == 0, apart.Output);
        foreach (
            var (refused, why) in new (string[], string)[]
            {
                (["--light", "scene"], "has no lights of its own"),
                (["--camera", "nobody"], "it has “lamp”"),
                (["--material", "nobody"], "no material “nobody”"),
                (["--size", "3"], "8 to 4096"),
                (["--light", "moon"], "is no light"),
            }
        )
        {
            var (status, said) = Render("no.png", refused);
            Assert.Equal(2, status);
            Assert.Contains(why, said, StringComparison.Ordinal);
        }

        Assert.False(File.Exists(place.At("no.png")));
    }

    [Fact]
    public void A_focus_narrows_muster_audit_and_fix_to_materials_or_to_what_meshes_wear_and_the_report_for_people_stands_alone()
    {
        var tins = demo.At("arrived/seed_tins/seed_tins.mtlx");
        JsonElement Json(params string[] call)
        {
            var done = Tool.RootCall([.. call, "--format", "json"]);
            Assert.True(done.Status < 2, done.Error);
            return JsonDocument.Parse(done.Output).RootElement.Clone();
        }

        static HashSet<string> About(JsonElement audit) =>
            [.. audit.GetProperty("findings").EnumerateArray().Select(f => f.GetProperty("target").GetProperty("name").GetString()!)];
        Assert.True(About(Json("audit", tins)).Count > 5);
        Assert.Equal(["seed_tin_03"], About(Json("audit", tins, "--material", "seed_tin_03")));
        var uses = Json("muster", tins, "--material", "seed_tin_03").GetProperty("references").EnumerateArray();
        Assert.All(uses, r =>
            Assert.Contains(r.GetProperty("usedBy").EnumerateArray(), u => u.GetProperty("material").GetString() == "seed_tin_03")
        );
        var mended = Json("fix", tins, "--rule", "wiring.role-mismatch", "--dry-run", "--material", "seed_tin_03", "seed_tin_04");
        Assert.Equal(2, mended.GetProperty("applied").GetArrayLength());
        var corner = demo.At("arrived/glasshouse_corner/glasshouse_corner.gltf");
        var scene = Look.Read(corner);
        var mesh = scene.Meshes[0];
        var worn = mesh.Parts.Select(p => p.Material).ToHashSet();
        var called = Json("muster", corner, "--mesh", mesh.Name).GetProperty("references").GetArrayLength();
        Assert.Equal(scene.References.Count(r => r.UsedBy.Any(u => worn.Contains(u.Material))), called);
        var nobody = Tool.RootCall(["audit", tins, "--material", "nobody"]);
        Assert.Equal((2, true), (nobody.Status, nobody.Error.Contains("no material nobody", StringComparison.Ordinal)));

        var page = Tool.RootCall(["audit", tins, "--format", "html"]).Output;
        Assert.StartsWith("<!doctype html>", page, StringComparison.Ordinal);
        Assert.Contains("12 roughness maps feed subsurface", page, StringComparison.Ordinal);
        // Self-contained: its pictures are in it, and nothing is fetched.
        Assert.Contains("src=\"data:image/png;base64,", page, StringComparison.Ordinal);
        Assert.DoesNotContain("src=\"http", page, StringComparison.Ordinal);
    }

    [Fact]
    public void Convert_writes_a_document_tells_what_moved_and_keeps_what_is_there()
    {
        var lamp = demo.At("clean/brass_lamp/brass_lamp.glb");
        (int Status, string Said) Convert(params string[] more)
        {
            var done = Tool.RootCall(["convert", lamp, "--out", place.At("crossed"), .. more]);
            return (done.Status, done.Output + done.Error);
        }

        var written = place.At("crossed/brass_lamp.standard-surface.mtlx");
        var (status, said) = Convert("--to", "standard-surface", "--material", "brass_gardener", "--fit", "--format", "json");
        var json = JsonDocument.Parse(said).RootElement;
        Assert.Equal((0, written), (status, json.GetProperty("written").GetString()));
        var row = Assert.Single(json.GetProperty("materials").EnumerateArray());
        double Mean(string of) => row.GetProperty(of).GetProperty("mean").GetDouble();
        Assert.InRange(Mean("deltaE"), 0.01, Mean("formula") - 0.5);
        Assert.Contains(row.GetProperty("mappings").EnumerateArray(), m =>
            m.GetProperty("to").GetString() == "base_color" && m.GetProperty("kind").GetString() == "exact"
        );
        Assert.Equal("brass_gardener", Assert.Single(Look.Read(written).Materials).Name);
        Assert.Contains("already there", Convert("--to", "standard-surface").Said, StringComparison.Ordinal);
        // A look that moves further than it may is said by the status.
        Assert.Equal(1, Convert("--to", "open-pbr", "--material", "brass_gardener", "--limit", "0.0001").Status);
        foreach (var (more, why) in new[] { ("toon", "“toon” is no shading model here"), ("open-pbr", "no material “nobody”") })
        {
            var (refused, sentence) = Convert("--to", more, "--material", "nobody");
            Assert.Equal(2, refused);
            Assert.Contains(why, sentence, StringComparison.Ordinal);
        }
    }

    [Fact]
    public void Convert_writes_a_copy_of_a_scene_whose_format_says_the_model_with_what_had_to_be_baked()
    {
        var wall = demo.At("clean/tool_wall/tool_wall.obj");
        var recipe = place.Put(
            "house.json",
            """
            {"version": 1, "name": "House", "steps": [
              {"cross": {"model": "mtl-phong", "set": [{"input": "Ka", "numbers": [0.25, 0.5, 0.125]}]}, "match": {"name": "enamel*"}}]}
            """
        );
        ReadOnlySpan<string> enamel = [wall, "--to", "mtl-phong", "--material", "enamel_label", "--recipe", recipe, "--limit", "4"];
        var done = Tool.RootCall(["convert", .. enamel, "--out", place.At("as-scene")]);
        Assert.True(done.Status == 0, done.Output + done.Error);
        var written = Look.Read(place.At("as-scene/tool_wall.obj"));
        var crossed = written.Called("enamel_label")!;
        Assert.Equal("mtl-phong", crossed.Graph.SurfaceNode!.Type);
        Assert.Equal("mtl-pbr", written.Called("enamel_label_arrived")!.Graph.SurfaceNode!.Type);
        Assert.All(crossed.Uses(), u => Assert.True(File.Exists(Path.Combine(place.At("as-scene"), u.Key.Written)), u.Key.Written));
        Assert.Contains(crossed.Uses(), u => u.Key.Written == "textures/enamel_label_ns.png");
        // The same scene crossed once more is the same bytes.
        Assert.Equal([0.25, 0.5, 0.125], crossed.Graph.SurfaceNode!.Input("Ka")!.Value!.Numbers.ToArray());
        Tool.RootCall(["convert", .. enamel, "--out", place.At("once-more")]);
        foreach (var name in new[] { "tool_wall.mtl", "tool_wall.obj", "textures/enamel_label_kd.png", "textures/enamel_label_ns.png" })
            Assert.Equal(File.ReadAllBytes(place.At($"as-scene/{name}")), File.ReadAllBytes(place.At($"once-more/{name}")));
        Assert.Equal(2, Tool.RootCall("convert", wall, "--to", "open-pbr", "--as", "scene", "--out", place.At("none")).Status);
    }

    [Fact]
    public void A_clean_scene_ends_with_0_and_a_folder_or_zip_may_stand_for_its_scene()
    {
        Assert.Equal(0, Tool.RootCall("muster", demo.At("clean/enamel_sign")).Status);
        var packed = Tool.RootCall("package", demo.At("clean/enamel_sign/enamel_sign.obj"), "--out", place.At("p.zip"), "--format", "json");
        Assert.Equal(0, packed.Status);
        using var json = JsonDocument.Parse(packed.Output);
        Assert.Equal(
            (place.At("p.zip"), 11, 10),
            (
                json.RootElement.GetProperty("written").GetString(),
                json.RootElement.GetProperty("files").GetInt32(),
                json.RootElement.GetProperty("proof").GetProperty("resolved").GetInt32()
            )
        );
        Assert.Equal(0, json.RootElement.GetProperty("proof").GetProperty("unresolved").GetArrayLength());
        Assert.Equal(0, json.RootElement.GetProperty("proof").GetProperty("deltaE").GetDouble());
        var opened = Tool.RootCall("muster", place.At("p.zip"));
        Assert.True(opened.Status == 0, opened.Output + opened.Error);
    }

    [Fact]
    public void Relink_writes_a_copy_and_names_what_it_left()
    {
        var result = Tool.RootCall(
            "relink",
            demo.At("arrived/glasshouse_corner/glasshouse_corner.gltf"),
            "--root",
            demo.Library,
            "--out",
            place.At("out"),
            "--format",
            "json"
        );
        Assert.Equal(1, result.Status);
        using var json = JsonDocument.Parse(result.Output);
        Assert.Equal(
            place.At("out/glasshouse_corner.gltf"),
            Assert.Single(json.RootElement.GetProperty("written").EnumerateArray()).GetString()
        );
        Assert.Equal(6, json.RootElement.GetProperty("left").GetArrayLength());
        Assert.All(json.RootElement.GetProperty("changed").EnumerateArray(), c =>
            Assert.True(Path.IsPathRooted(c.GetProperty("to").GetString()))
        );
    }

    [Fact]
    public void Strict_refuses_and_writes_nothing()
    {
        foreach (var verb in new[] { "relink", "package" })
        {
            var result = Tool.RootCall(
                verb,
                demo.At("arrived/glasshouse_corner/glasshouse_corner.gltf"),
                "--root",
                demo.Library,
                "--out",
                place.At("out"),
                "--strict"
            );
            Assert.Equal(2, result.Status);
            Assert.Contains("6 of 20 references", result.Error, StringComparison.Ordinal);
        }

        Assert.False(Directory.Exists(place.At("out")));
    }

    [Fact]
    public void What_cannot_be_used_ends_with_2_and_one_sentence()
    {
        place.Put("two/a.obj", "v 0 0 0\n");
        place.Put("two/b.obj", "v 0 0 0\n");
        string[][] calls =
        [
            ["muster", place.At("none.gltf")],
            ["muster", place.Put("a.gltf", "no JSON")],
            ["muster", place.Put("a.txt", "text")],
            ["muster", place.At("two")],
            ["muster", place.Put("bad.zip", "no zip")],
            ["muster", place.Put("a.obj", "v 0 0 0\n"), "--root", place.At("no-folder")],
            ["muster", place.At("a.obj"), "--format", "xml"],
            ["package", place.At("a.obj")],
            ["package", place.At("a.obj"), "--out", place.At("p/a.glb")],
            ["inspect", place.At("none.png")],
            ["demo", place.At("a.txt")],
            ["nonsense"],
        ];
        foreach (var call in calls)
        {
            var result = Tool.RootCall(call);
            Assert.True(result.Status == 2, $"{string.Join(' ', call)} ended with {result.Status}");
            Assert.Equal(1, result.Error.Count(c => c == '\n'));
            Assert.StartsWith("rootcall: ", result.Error, StringComparison.Ordinal);
            Assert.Empty(result.Output);
        }
    }

    /// <summary>An option of many values does not take the scene for one of them, and the tool calls itself as people call it.</summary>
    [Fact]
    public void A_scene_may_stand_behind_its_options()
    {
        var sign = demo.At("arrived/enamel_sign/enamel_sign.obj");
        var usual = Tool.RootCall("muster", sign, "--root", demo.Library);
        Assert.Equal(usual.Output, Tool.RootCall("muster", "--root", demo.Library, sign).Output);
        var audit = Tool.RootCall("audit", "--rule", "naming", "settings", sign, "--format", "json");
        Assert.Equal(Tool.RootCall("audit", sign, "--rule", "naming", "settings", "--format", "json").Output, audit.Output);
        Assert.StartsWith("{", audit.Output, StringComparison.Ordinal);
        var help = Tool.RootCall("--help");
        Assert.Contains("rootcall [command]", help.Output, StringComparison.Ordinal);
        Assert.DoesNotContain("RootCall.Cli", help.Output, StringComparison.Ordinal);
        Assert.Contains("audit <SCENE>", help.Output, StringComparison.Ordinal);
    }

    [Fact]
    public void Inspect_tells_the_facts_and_the_damage()
    {
        var result = Tool.RootCall(
            "inspect",
            demo.At("library/skies/dusk_04.hdr"),
            demo.At("arrived/glasshouse_corner/textures/mossy_floor_basecolor.png"),
            "--format",
            "json"
        );
        Assert.Equal(1, result.Status);
        using var json = JsonDocument.Parse(result.Output);
        var (sky, moss) = (json.RootElement.GetProperty("images")[0], json.RootElement.GetProperty("images")[1]);
        Assert.Equal(
            ("Radiance HDR", 1024, true),
            (sky.GetProperty("format").GetString(), sky.GetProperty("width").GetInt32(), sky.GetProperty("float").GetBoolean())
        );
        Assert.Contains("is a JPEG", moss.GetProperty("damage").GetString(), StringComparison.Ordinal);
    }

    [Fact]
    public void Text_leads_with_the_sentence_and_lists_what_needs_a_decision_first()
    {
        var lines = Tool.RootCall("muster", demo.At("arrived/enamel_sign/enamel_sign.obj"), "--root", demo.Library).Output.Split('\n');
        Assert.StartsWith("4 of 8 references answer. 4 present, 3 elsewhere, 1 contested", lines[2], StringComparison.Ordinal);
        Assert.Contains(lines, l =>
            l.Contains("contested", StringComparison.Ordinal) && l.Contains("name-clash", StringComparison.Ordinal)
        );
    }

    public void Dispose() => place.Dispose();
}
