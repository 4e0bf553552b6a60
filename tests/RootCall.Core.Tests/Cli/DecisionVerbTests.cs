using System.Text.Json;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Cli;

/// <summary>The command line decides as the browser does, writes the ledger of it, and replays one.</summary>
public sealed class DecisionVerbTests : IDisposable
{
    private readonly Place place = new();

    public DecisionVerbTests() => Directory.CreateDirectory(place.At("lib"));

    public void Dispose() => place.Dispose();

    /// <summary>Two materials; the maps of the first moved to one folder, those of the second to another.</summary>
    private string Scene()
    {
        var grey = (byte)0;
        foreach (var name in new[] { "tin/tin_normal", "tin/tin_roughness", "oak/oak_normal", "oak/oak_roughness" })
            place.PutPng($"lib/{name}.png", ++grey);
        return place.Put(
            "scene/s.mtlx",
            """
            <?xml version="1.0"?>
            <materialx version="1.39">
              <image name="tn" type="vector3"><input name="file" type="filename" value="D:/jobs/tin/tin_normal.png"/></image>
              <image name="tr" type="float"><input name="file" type="filename" value="D:/jobs/tin/tin_roughness.png"/></image>
              <image name="on" type="vector3"><input name="file" type="filename" value="D:/jobs/oak/oak_normal.png"/></image>
              <image name="or" type="float"><input name="file" type="filename" value="D:/jobs/oak/oak_roughness.png"/></image>
              <standard_surface name="SR_tin" type="surfaceshader">
                <input name="normal" type="vector3" nodename="tn"/><input name="specular_roughness" type="float" nodename="tr"/>
              </standard_surface>
              <standard_surface name="SR_oak" type="surfaceshader">
                <input name="normal" type="vector3" nodename="on"/><input name="specular_roughness" type="float" nodename="or"/>
              </standard_surface>
              <surfacematerial name="tin" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="SR_tin"/>
              </surfacematerial>
              <surfacematerial name="oak" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="SR_oak"/>
              </surfacematerial>
            </materialx>
            """
        );
    }

    private (int Status, JsonElement Json, string Text) Relink(string scene, string into, params string[] more)
    {
        var result = Tool.RootCall(["relink", scene, "--root", place.At("lib"), "--out", place.At(into), "--format", "json", .. more]);
        Assert.True(result.Error.Length == 0, result.Error);
        using var json = JsonDocument.Parse(result.Output);
        var written = json.RootElement.GetProperty("written")[0].GetString()!;
        return (result.Status, json.RootElement.Clone(), File.ReadAllText(written));
    }

    private static int Changed(JsonElement json) => json.GetProperty("changed").GetArrayLength();

    [Fact]
    public void A_rule_relinks_what_lies_under_it_and_no_more()
    {
        var (status, json, text) = Relink(Scene(), "out", "--rule", $"D:/jobs/tin={place.At("lib/tin")}");
        Assert.Equal((1, 2), (status, Changed(json)));
        Assert.Contains("../lib/tin/tin_normal.png", text, StringComparison.Ordinal);
        Assert.Contains("D:/jobs/oak/oak_normal.png", text, StringComparison.Ordinal);
    }

    [Fact]
    public void All_rules_are_those_that_muster_lists()
    {
        var scene = Scene();
        using var muster = JsonDocument.Parse(Tool.RootCall("muster", scene, "--root", place.At("lib"), "--format", "json").Output);
        Assert.Equal(
            ("D:/jobs", place.At("lib")),
            (
                muster.RootElement.GetProperty("relocations")[0].GetProperty("from").GetString(),
                muster.RootElement.GetProperty("relocations")[0].GetProperty("to").GetString()
            )
        );
        var (status, json, _) = Relink(scene, "out", "--all-rules");
        Assert.Equal((0, 4), (status, Changed(json)));
    }

    [Fact]
    public void Decisions_keep_to_the_material_that_was_named()
    {
        var (_, json, text) = Relink(Scene(), "out", "--all-rules", "--material", "oak");
        Assert.Equal(2, Changed(json));
        Assert.Contains("D:/jobs/tin/tin_normal.png", text, StringComparison.Ordinal);
        Assert.Contains("../lib/oak/oak_normal.png", text, StringComparison.Ordinal);
    }

    [Fact]
    public void Find_and_replace_answers_what_resolves()
    {
        var (status, json, text) = Relink(Scene(), "out", "--replace", $"D:/jobs={place.At("lib")}");
        Assert.Equal((0, 4), (status, Changed(json)));
        Assert.Contains("../lib/oak/oak_roughness.png", text, StringComparison.Ordinal);
    }

    [Fact]
    public void A_variant_is_switched_where_its_sibling_lies()
    {
        place.Put("scene/pot_basecolor_2k.png", Pictures.Png(8, 8, 1));
        place.Put("scene/pot_basecolor_4k.png", Pictures.Png(16, 16, 2));
        var scene = place.Put("scene/pot.gltf", Look.Gltf("pot_basecolor_4k.png"));
        var (status, json, text) = Relink(scene, "out", "--variant", "resolution=2k");
        Assert.Equal((0, 1), (status, Changed(json)));
        Assert.Contains("../scene/pot_basecolor_2k.png", text, StringComparison.Ordinal);
    }

    [Fact]
    public void Of_the_same_contents_one_is_called()
    {
        place.PutPng("scene/a.png", 5);
        place.PutPng("scene/b.png", 5);
        var scene = place.Put("scene/s.gltf", Look.Gltf("a.png", "b.png"));
        var (_, _, text) = Relink(scene, "out", "--keep-one");
        Assert.Equal(2, text.Split("../scene/a.png").Length - 1);
    }

    [Fact]
    public void The_ledger_beside_what_was_written_makes_the_same_of_the_arrived_scene()
    {
        var scene = Scene();
        var (_, json, text) = Relink(scene, "out", "--rule", $"D:/jobs/tin={place.At("lib/tin")}");
        var ledger = json.GetProperty("ledger").GetString()!;
        Assert.Equal(place.At("out/s.ledger.json"), ledger);
        var replayed = Relink(scene, "again", "--ledger", ledger);
        Assert.Equal((1, text), (replayed.Status, replayed.Text));
        Assert.Equal(2, Changed(replayed.Json));
    }

    [Fact]
    public void What_of_a_ledger_no_longer_applies_is_told_and_the_rest_is_made()
    {
        var scene = Scene();
        LedgerEntry[] entries =
        [
            TestSession.Entry(
                new SetValue("gone", "specular_roughness", null, ShaderValue.Of(0.5)),
                new SetValue("tin", "metalness", null, ShaderValue.Of(1))
            ),
        ];
        var ledger = place.Put("l.json", LedgerFile.Write(entries));
        var result = Tool.RootCall("relink", scene, "--root", place.At("lib"), "--out", place.At("out"), "--ledger", ledger);
        Assert.Equal(1, result.Status);
        Assert.Contains("The scene has no material gone.", result.Output + result.Error, StringComparison.Ordinal);
        Assert.Contains(
            "<input name=\"metalness\" type=\"float\" value=\"1\"",
            File.ReadAllText(place.At("out/s.mtlx")),
            StringComparison.Ordinal
        );
    }

    public static TheoryData<string, string> Refused =>
        new()
        {
            { "--rule|D:/jobs", "“D:/jobs” is no value for --rule; write LEFT=RIGHT." },
            { "--replace|=x", "“=x” is no value for --replace; write LEFT=RIGHT." },
            { "--material|gone", "The scene has no material gone." },
            { "--mesh|gone", "The scene has no mesh gone." },
            { "--ledger|/nowhere/l.json", "There is no file “/nowhere/l.json”." },
            { "--gather|colour", "Argument 'colour' not recognized." },
        };

    [Theory]
    [MemberData(nameof(Refused))]
    public void A_decision_that_means_nothing_is_refused_and_nothing_is_written(string options, string says)
    {
        var result = Tool.RootCall(["relink", Scene(), "--root", place.At("lib"), "--out", place.At("out"), .. options.Split('|')]);
        Assert.Equal(2, result.Status);
        Assert.StartsWith($"rootcall: {says}", result.Error, StringComparison.Ordinal);
        Assert.False(Directory.Exists(place.At("out")));
    }

    [Fact]
    public void Images_are_carried_inside_and_taken_out_again_byte_for_byte()
    {
        var image = place.PutPng("scene/a.png", 77);
        var scene = place.Put("scene/s.gltf", Look.Gltf("a.png"));
        Assert.Equal(0, Tool.RootCall("embed", scene, "--out", place.At("inside")).Status);
        var inside = place.At("inside/s.gltf");
        Assert.DoesNotContain("a.png\"", File.ReadAllText(inside), StringComparison.Ordinal);
        var extracted = Tool.RootCall("extract", inside, "--out", place.At("outside"), "--format", "json");
        Assert.True(extracted.Status == 0, extracted.Error);
        using var json = JsonDocument.Parse(extracted.Output);
        var files = json.RootElement.GetProperty("written").EnumerateArray().Select(f => f.GetString()!).ToList();
        Assert.Equal(File.ReadAllBytes(image), File.ReadAllBytes(files.Single(f => f.EndsWith(".png", StringComparison.Ordinal))));
        Assert.Equal(0, Tool.RootCall("muster", place.At("outside/s.gltf")).Status);
        Assert.Equal(2, Tool.RootCall("extract", place.At("outside/s.gltf"), "--out", place.At("none")).Status);
        Assert.Equal(2, Tool.RootCall("embed", inside, "--out", place.At("none")).Status);
    }

    /// <summary>
    /// Whatever verb is called wrongly: status 2, one line that begins with the program's name, nothing on standard output.
    /// </summary>
    [Theory]
    [InlineData("muster")]
    [InlineData("muster|/nowhere.gltf")]
    [InlineData("muster|{scene}|--root|/nowhere")]
    [InlineData("muster|{scene}|--format|xml")]
    [InlineData("muster|{scene}|--names|/nowhere.json")]
    [InlineData("muster|{empty}")]
    [InlineData("muster|{text}")]
    [InlineData("audit|{scene}|--destination|nowhere")]
    [InlineData("audit|{scene}|--house-rules|{text}")]
    [InlineData("fix|{scene}|--out|{empty}/o")]
    [InlineData("fix|{scene}|--recipe|{text}|--out|{empty}/o")]
    [InlineData("package|{scene}")]
    [InlineData("compare|{scene}")]
    [InlineData("inspect")]
    [InlineData("melt|{scene}")]
    public void A_wrong_call_ends_with_2_and_one_line(string call)
    {
        var arguments = call.Replace("{scene}", place.Put("s.gltf", Look.Gltf("a.png")), StringComparison.Ordinal)
            .Replace("{text}", place.Put("notes.txt", "no scene, no rules"), StringComparison.Ordinal)
            .Replace("{empty}", Directory.CreateDirectory(place.At("empty")).FullName, StringComparison.Ordinal);
        var result = Tool.RootCall(arguments.Split('|'));
        Assert.Equal((2, string.Empty), (result.Status, result.Output));
        Assert.Matches("^rootcall: [^\n]+\n$", result.Error);
        Assert.False(Directory.Exists(place.At("empty/o")));
    }
}
