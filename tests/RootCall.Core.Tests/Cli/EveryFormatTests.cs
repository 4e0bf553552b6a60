using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Core.Tests.Cli;

/// <summary>
/// The whole job from the command line, over every scene of the demo: muster, relink, package, and the package opened
/// again.
/// </summary>
public sealed class EveryFormatTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    public static TheoryData<string, string, int> Scenes =>
        new()
        {
            { "watering_can/watering_can.usda", "watering_can.usda", 0 },
            { "tin_pear/tin_pear.usdz", "tin_pear.usdz", 0 },
            { "tin_lantern/tin_lantern.usdc", "tin_lantern_look.usda", 0 },
            { "seed_drawer/seed_drawer.mtlx", "seed_drawer.mtlx", 0 },
            { "moth_jar/moth_jar.dae", "moth_jar.dae", 0 },
            { "garden_gate/garden_gate.fbx", "garden_gate.glb", 0 },
            { "pebble/pebble.stl", "pebble.stl", 0 },
            { "dew_drop/dew_drop.ply", "dew_drop.ply", 0 },
            { "brass_lamp/brass_lamp.glb", "brass_lamp.glb", 0 },
            { "enamel_sign/enamel_sign.obj", "enamel_sign.obj", 1 },
            { "glasshouse_corner/glasshouse_corner.gltf", "glasshouse_corner.gltf", 1 },
        };

    [Theory]
    [MemberData(nameof(Scenes))]
    public void A_scene_is_packed_proven_and_mustered_again_from_its_package(string scene, string root, int left)
    {
        var arrived = demo.At("arrived/" + scene);
        var said = Tool.RootCall("package", arrived, "--root", demo.Library, "--out", place.At("p"), "--format", "json");
        Assert.True(said.Status == left, said.Error + said.Output);
        using var json = JsonDocument.Parse(said.Output);
        Assert.Equal(0, json.RootElement.GetProperty("proof").GetProperty("brokenFiles").GetArrayLength());
        if (left == 0)
            Assert.Equal(0, json.RootElement.GetProperty("proof").GetProperty("unresolved").GetArrayLength());
        Assert.Contains($"Root-Call-Scene: data/{root}", File.ReadAllText(place.At("p/bag-info.txt")), StringComparison.Ordinal);
        Assert.Equal(left, Tool.RootCall("muster", place.At("p/data/" + root)).Status);
        Assert.Equal(0, Tool.Run("sha256sum", ["-c", "--quiet", "manifest-sha256.txt"], place.At("p")).Status);

        // The same geometry is in it, whatever became of the format.
        var (before, after) = (Look.Read(arrived), Look.Read(place.At("p/data/" + root)));
        Assert.Equal(before.Counts.Triangles, after.Counts.Triangles);
        Assert.Equal(
            before.Materials.Where(m => !m.IsTemplate).Select(m => m.Name).Order(),
            after.Materials.Where(m => !m.IsTemplate).Select(m => m.Name).Order()
        );
    }

    [Theory]
    [MemberData(nameof(Scenes))]
    public void A_relinked_copy_calls_what_was_found_and_the_arrived_files_stay(string scene, string root, int left)
    {
        var arrived = demo.At("arrived/" + scene);
        var before = Directory
            .GetFiles(Path.GetDirectoryName(arrived)!, "*", SearchOption.AllDirectories)
            .ToDictionary(f => f, File.ReadAllBytes);
        var said = Tool.RootCall("relink", arrived, "--root", demo.Library, "--out", place.At("out"), "--format", "json");
        Assert.True(said.Status == left, said.Error);
        Assert.True(File.Exists(place.At("out/" + root)));
        using var json = JsonDocument.Parse(said.Output);
        var ids = Look.TakeClear(arrived, demo.Library).References.Select(r => r.Number).ToHashSet();
        Assert.All(json.RootElement.GetProperty("changed").EnumerateArray(), c => Assert.Contains(c.GetProperty("id").GetInt32(), ids));
        var again = Look.Muster(place.At("out/" + root), demo.Library, Path.GetDirectoryName(arrived)!);
        if (left == 0)
            Assert.All(again.References, r => Assert.True(RootCall.Core.Muster.ReferenceWords.Answers(r.State), r.Reference.Written));
        Assert.All(before, f => Assert.Equal(f.Value, File.ReadAllBytes(f.Key)));
        // Nothing that exists is written over.
        Assert.Equal(2, Tool.RootCall("relink", arrived, "--root", demo.Library, "--out", place.At("out")).Status);
    }

    [Fact]
    public void Compare_tells_families_in_words()
    {
        var said = Tool.RootCall("compare", demo.At("clean/seed_drawer/seed_drawer.mtlx"), demo.At("arrived/seed_drawer/seed_drawer.mtlx"));
        Assert.Equal(1, said.Status);
        Assert.Equal(
            [
                "1 roughness map sits in another input",
                "  material drawer_wood: roughness -> metalness",
                "1 base colour map lost the tiling",
                "  material drawer_wood: 4 x 2 -> 1 x 1",
                "1 coat value changed",
                "  material brass_knob: 0.5 -> 0",
            ],
            said.Output.Split('\n', StringSplitOptions.RemoveEmptyEntries)
        );
        var same = Tool.RootCall("compare", demo.At("clean/pebble"), demo.At("clean/pebble/pebble.stl"));
        Assert.Equal((0, "nothing was lost\n"), (same.Status, same.Output));
        var refused = Tool.RootCall("compare", demo.At("clean/pebble"), place.Put("x.fbx", "no scene"));
        Assert.Equal((2, 1), (refused.Status, refused.Error.Count(c => c == '\n')));
    }

    public void Dispose() => place.Dispose();
}
