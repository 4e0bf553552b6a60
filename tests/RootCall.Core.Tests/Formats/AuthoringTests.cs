using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Gltf.Authoring;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Muster;
using RootCall.Testing;
using SharpGLTF.Schema2;

namespace RootCall.Core.Tests.Formats;

/// <summary>Files that Root Call makes from nothing, judged by others; and which files of a delivery are scenes.</summary>
public sealed class AuthoringTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void A_GLB_made_here_passes_the_validation_of_SharpGLTF()
    {
        var path = place.At("a.glb");
        using (var glb = new GlbAuthor())
        {
            glb.Materials.Add((System.Text.Json.Nodes.JsonNode)new System.Text.Json.Nodes.JsonObject { ["name"] = "tin" });
            glb.Image("dot", Pictures.Png(2, 2, 9), "image/png");
            var mesh = glb.Mesh(
                "leaf",
                [
                    new(
                        [0, 0, 0, 1, 0, 0, 0, 1, 0],
                        [0, 0, 1, 0, 0, 1, 0, 0, 1],
                        [
                            [0, 0, 1, 0, 0, 1],
                        ],
                        [0, 1, 2],
                        0
                    ),
                    new([0, 0, 0, 1, 0, 0, 0, 1, 5], null, [], [2, 1, 0], -1),
                ]
            );
            var top = glb.Node("top", -1, -1, [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 1, 2, 3, 1]);
            glb.Node("below", top, mesh, []);
            using var file = File.Create(path);
            glb.Write(file);
        }

        var model = ModelRoot.Load(path, new ReadSettings { Validation = SharpGLTF.Validation.ValidationMode.Strict });
        Assert.Equal(
            (2, 1, 1, 1),
            (model.LogicalNodes.Count, model.LogicalMeshes.Count, model.LogicalMaterials.Count, model.LogicalImages.Count)
        );
        Assert.Equal(new(1, 2, 3), model.LogicalNodes.Single(n => n.Name == "below").WorldMatrix.Translation);
        var scene = Look.Read(path);
        Assert.Equal((2L, 5.0), (scene.Counts.Triangles, scene.Meshes[0].Bounds!.Value.Max.Z));
        Assert.Empty(scene.Notes);
    }

    [Fact]
    public void A_package_made_here_is_aligned_and_read_back_whole()
    {
        var files = Enumerable
            .Range(0, 40)
            .Select(i => (Name: $"{new string('n', i)}{i}.bin", Bytes: Enumerable.Range(0, i * 13).Select(b => (byte)b).ToArray()))
            .ToList();
        using var output = new MemoryStream();
        UsdzWriter.Write(output, files);
        var bytes = output.ToArray();
        var errors = new List<string>();
        var archive = UsdzArchive.Read(bytes, "a.usdz", errors);
        Assert.Empty(errors);
        Assert.Equal(files.Select(f => f.Name), archive.Entries.Select(e => e.Name));
        Assert.All(archive.Entries.Zip(files), p =>
        {
            Assert.Equal(0, p.First.Start % UsdzArchive.Alignment);
            Assert.Equal(p.Second.Bytes, bytes.AsSpan((int)p.First.Start, (int)p.First.Length).ToArray());
        });
        Assert.Equal(0, Tool.Run("unzip", ["-t", place.Put("a.usdz", bytes)]).Status);
        using var zip = new System.IO.Compression.ZipArchive(new MemoryStream(bytes));
        Assert.Equal(files[7].Bytes.Length, zip.GetEntry(files[7].Name)!.Length);
        Assert.Throws<CannotUseException>(() => UsdzArchive.Read(bytes.AsSpan(0, 300), "cut.usdz", errors));
    }

    [Fact]
    public void Layers_that_scenes_share_are_parsed_once_and_read_as_if_they_were_not_shared()
    {
        place.Put("props/pot.usda", "#usda 1.0\n( defaultPrim = \"pot\" )\ndef Xform \"pot\" { def Mesh \"lip\" { } }\n");
        foreach (var shot in (string[])["a", "b"])
            place.Put($"shots/{shot}.usda", $"#usda 1.0\ndef \"{shot}\" (references = @../props/pot.usda@) {{ }}\n");
        var parsed = new ParsedFiles();
        var found = SceneFinder.All(place.Folder, parsed);
        Assert.Equal(["a.usda", "b.usda"], found.Select(Path.GetFileName));
        // What was parsed is not parsed again: the file on disk is looked at for its time and size only.
        var props = place.At("props/pot.usda");
        var (text, time) = (File.ReadAllText(props), File.GetLastWriteTimeUtc(props));
        File.WriteAllText(props, text.Replace("lip", "LIP", StringComparison.Ordinal));
        File.SetLastWriteTimeUtc(props, time);
        var reading = new RootCall.Core.Formats.ReadContext(new([place.Folder]), Bounds.Default) { Parsed = parsed };
        foreach (var scene in found)
            Assert.Equal("lip", Assert.Single(SceneFormats.Read(scene, reading).Meshes).Name);
        File.SetLastWriteTimeUtc(props, time.AddSeconds(2));
        Assert.Equal("LIP", Assert.Single(SceneFormats.Read(found[0], reading).Meshes).Name);
    }

    [Fact]
    public void A_layer_that_another_calls_is_no_scene_of_its_own()
    {
        Assert.Equal([demo.At("arrived/watering_can/watering_can.usda")], SceneFinder.All(demo.At("arrived/watering_can")));
        place.Put("a.usda", "#usda 1.0\n( subLayers = [@./b.usda@] )\n");
        place.Put("b.usda", "#usda 1.0\n( subLayers = [@./a.usda@] )\n");
        Assert.Equal(2, SceneFinder.All(place.Folder).Count); // They call each other: neither is above.
        place.Put("c.mtlx", "<materialx version=\"1.38\"><include href=\"lib/d.mtlx\"/></materialx>");
        place.Put("lib/d.mtlx", "<materialx version=\"1.38\"/>");
        place.Put("broken.dae", "no xml");
        Assert.DoesNotContain(place.At("lib/d.mtlx"), SceneFinder.All(place.Folder));
        Assert.Contains(place.At("broken.dae"), SceneFinder.All(place.Folder)); // Told when it is opened.
    }

    [Theory]
    [InlineData("wood.<UDIM>.png", "wood.1001.png wood.1012.png", "wood.1001.png,wood.1012.png")]
    [InlineData("wood_<UVTILE>.exr", "wood_u1_v1.exr wood_u2_v10.exr wood_u1.exr", "wood_u1_v1.exr,wood_u2_v10.exr")]
    [InlineData("wood.<udim>.png", "wood.1001.png wood.2001.png wood.101.png xwood.1001.png", "wood.1001.png")]
    [InlineData("wood.png", "wood.png", "")]
    public void Tiles_are_the_files_that_a_token_stands_for(string path, string files, string found)
    {
        foreach (var file in files.Split(' '))
            place.PutPng(file);
        var tiles = TilePath.Files(place.At(path), new([place.Folder]));
        Assert.Equal(found, string.Join(',', tiles.Select(Path.GetFileName)));
        Assert.Empty(TilePath.Files("/etc/" + path, new([place.Folder])));
    }

    public void Dispose() => place.Dispose();
}
