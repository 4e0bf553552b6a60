using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Meshes, nodes, textures and extensions of glTF 2.0 (sections 3.5 to 3.8), KHR_texture_basisu, EXT_texture_webp,
/// KHR_draco_mesh_compression and the KHR_materials extensions, each by its own text.
/// </summary>
public sealed class GltfSceneTests : IDisposable
{
    private const string Accessors = """
        "accessors": [
          { "count": 6, "type": "VEC3", "componentType": 5126, "min": [-1, 0, 0], "max": [1, 2, 3] },
          { "count": 9, "type": "SCALAR", "componentType": 5123 },
          { "count": 6, "type": "VEC2", "componentType": 5126 },
          { "count": 4, "type": "VEC3", "componentType": 5126, "min": [0, 0, 0], "max": [5, 0, 0] }
        ]
        """;

    private readonly Place place = new();

    [Theory]
    [InlineData("\"attributes\": { \"POSITION\": 0 }", 2)]
    [InlineData("\"attributes\": { \"POSITION\": 0 }, \"indices\": 1", 3)]
    [InlineData("\"attributes\": { \"POSITION\": 0 }, \"indices\": 1, \"mode\": 5", 7)]
    [InlineData("\"attributes\": { \"POSITION\": 0 }, \"mode\": 6", 4)]
    [InlineData("\"attributes\": { \"POSITION\": 0 }, \"mode\": 1", 0)]
    [InlineData("\"attributes\": { \"POSITION\": 99 }", 0)]
    [InlineData("\"attributes\": {}", 0)]
    public void Triangles_follow_the_mode(string primitive, long triangles)
    {
        var mesh = Read($"\"meshes\": [{{ \"primitives\": [{{ {primitive} }}] }}], {Accessors}").Meshes.Single();
        Assert.Equal(("mesh 0", triangles), (mesh.Name, mesh.Triangles));
    }

    [Fact]
    public void Points_that_primitives_share_are_counted_once_and_bounds_join()
    {
        var scene = Read(
            $$"""
            "materials": [{ "name": "tin" }],
            "meshes": [{ "name": "pot", "primitives": [
              { "attributes": { "POSITION": 0, "NORMAL": 0, "TEXCOORD_0": 2, "TEXCOORD_1": 2, "COLOR_0": 0 }, "indices": 1, "material": 0 },
              { "attributes": { "POSITION": 0 }, "indices": 1, "material": 7 },
              { "attributes": { "POSITION": 3 }, "extensions": { "KHR_draco_mesh_compression": {} } }] },
                { "name": "none", "primitives": [] }],
            {{Accessors}}
            """
        );
        var mesh = scene.Meshes[0];
        Assert.Equal((10L, 7L, true, true), (mesh.Vertices, mesh.Triangles, mesh.HasNormals, mesh.HasColours));
        Assert.Equal(new Box(new(-1, 0, 0), new(5, 2, 3)), mesh.Bounds);
        Assert.Equal(["TEXCOORD_0", "TEXCOORD_1"], mesh.UvSets.ToArray());
        Assert.Equal(["tin:3", "material 7:3", ":1"], mesh.Parts.Select(p => $"{p.Material}:{p.Triangles}"));
        Assert.Equal("KHR_draco_mesh_compression", mesh.Unmeasured);
        Assert.Contains(scene.Notes, n => n.Message.Contains("Material 7", StringComparison.Ordinal));
        Assert.Single(scene.Meshes[1].Parts);
    }

    [Fact]
    public void Nodes_come_parents_first_with_their_transforms()
    {
        var scene = Read(
            """
            "nodes": [
              { "name": "leaf", "mesh": 4, "matrix": [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 7, 8, 9, 1] },
              { "children": [0, 2, 99] },
              { "name": "turned", "rotation": [0, 0, 0.7071067811865476, 0.7071067811865476], "scale": [2, 2, 2],
                "translation": [1, 0, 0] }]
            """
        );
        Assert.Equal([("node 1", -1), ("leaf", 0), ("turned", 0)], scene.Nodes.Select(n => (n.Name, n.Parent)));
        Assert.Equal([7, 8, 9], scene.Nodes[1].Transform[12..15].ToArray());
        Assert.Empty(scene.Nodes[0].Transform);
        var m = scene.Nodes[2].Transform;
        Assert.Equal((1, 2), (Math.Round(m[0] + m[12], 6), Math.Round(m[1] + m[13], 6))); // (1, 0, 0): doubled, turned to y, moved.
        Assert.Contains(scene.Notes, n => n.Message.Contains("mesh 4", StringComparison.Ordinal));
    }

    [Fact]
    public void A_texture_in_a_newer_container_calls_both_its_images()
    {
        var scene = Read(
            """
            "images": [{ "uri": "a.png" }, { "uri": "a.ktx2" }, { "uri": "b.webp" }],
            "textures": [{ "source": 0, "extensions": { "KHR_texture_basisu": { "source": 1 } } },
              { "extensions": { "EXT_texture_webp": { "source": 2 } } }],
            "materials": [{ "name": "tin", "pbrMetallicRoughness": { "baseColorTexture": { "index": 0 } },
              "emissiveTexture": { "index": 1 }, "normalTexture": { "index": 9, "scale": 0.5 } }]
            """
        );
        Assert.All(scene.References, r => Assert.Single(r.UsedBy));
        var graph = scene.Materials[0].Graph;
        Assert.Equal("b.webp", graph.ImagesOf(graph.SurfaceNode!.Input("emissive")!).Single().Reference.Written);
        Assert.Null(graph.SurfaceNode.Input("normal")!.From);
        Assert.Contains(scene.Notes, n => n.Message.Contains("texture 9", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("KHR_materials_clearcoat", "\"clearcoatFactor\": 0.5", "clearcoat", 0.5)]
    [InlineData("KHR_materials_clearcoat", "\"clearcoatRoughnessFactor\": 0.1", "clearcoatRoughness", 0.1)]
    [InlineData("KHR_materials_ior", "\"ior\": 1.7", "ior", 1.7)]
    [InlineData("KHR_materials_transmission", "\"transmissionFactor\": 0.9", "transmission", 0.9)]
    [InlineData("KHR_materials_volume", "\"thicknessFactor\": 0.2", "thickness", 0.2)]
    [InlineData("KHR_materials_sheen", "\"sheenRoughnessFactor\": 0.3", "sheenRoughness", 0.3)]
    [InlineData("KHR_materials_anisotropy", "\"anisotropyStrength\": 0.6", "anisotropyStrength", 0.6)]
    [InlineData("KHR_materials_iridescence", "\"iridescenceIor\": 1.8", "iridescenceIor", 1.8)]
    [InlineData("KHR_materials_emissive_strength", "\"emissiveStrength\": 4", "emissiveStrength", 4)]
    [InlineData("KHR_materials_dispersion", "\"dispersion\": 0.1", "dispersion", 0.1)]
    [InlineData("KHR_materials_specular", "\"specularFactor\": 0.25", "specular", 0.25)]
    [InlineData("KHR_materials_diffuse_transmission", "\"diffuseTransmissionFactor\": 0.4", "diffuseTransmission", 0.4)]
    public void Extensions_give_their_inputs_and_nothing_without_them(string extension, string field, string input, double value)
    {
        ShaderNode Surface(string extensions) =>
            Read($"\"materials\": [{{ \"name\": \"m\"{extensions} }}]").Materials[0].Graph.SurfaceNode!;
        var surface = Surface($", \"extensions\": {{ \"{extension}\": {{ {field} }} }}");
        Assert.Equal(value, surface.Input(input)!.Value!.Numbers.Single());
        Assert.NotEqual(value, surface.Input(input)!.Default!.Numbers.Single());
        Assert.Null(Surface(string.Empty).Input(input));
        // Present and empty: the default of the extension holds.
        var empty = Surface($", \"extensions\": {{ \"{extension}\": {{}} }}").Input(input)!;
        Assert.Equal((null, empty.Default), (empty.Value, empty.Effective));
    }

    [Fact]
    public void Unlit_and_alpha_are_said_and_a_broken_factor_is_left_out()
    {
        var surface = Read(
            "\"materials\": [{ \"alphaMode\": \"BLEND\", \"doubleSided\": true, \"pbrMetallicRoughness\": { "
                + "\"baseColorFactor\": [1, \"x\"], \"metallicFactor\": \"much\" }, \"extensions\": { \"KHR_materials_unlit\": {} } }]"
        )
            .Materials[0]
            .Graph.SurfaceNode!;
        Assert.Equal(
            ("BLEND", "true", "true"),
            (surface.Input("alphaMode")!.Value!.Text, surface.Input("doubleSided")!.Value!.Text, surface.Input("unlit")!.Value!.Text)
        );
        Assert.Null(surface.Input("baseColor")!.Value);
        Assert.Equal(ShaderValue.Of(1), surface.Input("metallic")!.Effective);
    }

    [Fact]
    public void An_image_in_an_outside_buffer_answers_with_it()
    {
        var report = Look.Muster(
            place.Put(
                "s.gltf",
                """
                { "asset": { "version": "2.0" }, "buffers": [{ "uri": "b.bin", "byteLength": 100 }],
                  "bufferViews": [{ "buffer": 0, "byteLength": 80 }],
                  "images": [{ "bufferView": 0, "mimeType": "image/png" }, { "bufferView": 5 }, {}] }
                """
            )
        );
        Assert.Equal([ReferenceState.Embedded, ReferenceState.Missing], report.References.Select(r => r.State));
        Assert.Equal(2, report.Scene.Notes.Length);
    }

    public void Dispose() => place.Dispose();

    private Scene Read(string members) => Look.Read(place.Put("s.gltf", $"{{ \"asset\": {{ \"version\": \"2.0\" }}, {members} }}"));
}
