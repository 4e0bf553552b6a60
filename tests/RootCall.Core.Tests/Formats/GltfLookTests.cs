using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;
using SharpGLTF.Schema2;
using Scene = RootCall.Core.Scenes.Scene;

namespace RootCall.Core.Tests.Formats;

/// <summary>Graphs and edits of glTF. Defaults: glTF 2.0 sections 5.19 to 5.22 and each KHR_materials extension's own text.</summary>
public sealed class GltfLookTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private const string Document = """
        {
          "asset": { "version": "2.0" }, "extensionsUsed": ["KHR_materials_ior", "VENDOR_haze", "KHR_lights_punctual",
            "EXT_mesh_gpu_instancing"], "extensionsRequired": ["VENDOR_haze"],
          "extensions": { "KHR_lights_punctual": { "lights": [{ "name": "moon", "type": "directional" }] } },
          "images": [{ "uri": "a%20b.png" }, { "uri": "mr.png" }],
          "samplers": [{ "wrapS": 33071, "wrapT": 33648 }],
          "textures": [{ "source": 0, "sampler": 0 }, { "source": 1 }],
          "materials": [{ "name": "tin", "alphaMode": "MASK",
            "pbrMetallicRoughness": { "baseColorFactor": [1, 0.5, 0.25, 0.75], "baseColorTexture": { "index": 0, "texCoord": 1,
                "extensions": { "KHR_texture_transform": { "scale": [2, 3], "rotation": 0.7853981633974483, "offset": [0.1, 0] } }
              }, "metallicRoughnessTexture": { "index": 1 } },
            "extensions": { "KHR_materials_ior": { "ior": 1.33 }, "VENDOR_haze": { "amount": 1, "more": [] } } }],
          "nodes": [{ "name": "a", "children": [1], "translation": [1, 0, 0] },
            { "name": "b", "children": [0], "extensions": { "EXT_mesh_gpu_instancing": { "attributes": { "TRANSLATION": 0 } } } }],
          "accessors": [{ "count": 12, "type": "VEC3", "componentType": 5126 }]
        }
        """;

    private readonly Place place = new();

    [Fact]
    public void A_material_is_the_graph_it_implies()
    {
        var scene = Look.Read(place.Put("s.gltf", Document));
        var graph = scene.Materials.Single().Graph;
        var surface = graph.SurfaceNode!;
        Assert.Equal("gltf-metallic-roughness", surface.Type);
        var color = graph.ImagesOf(surface.Input("baseColor")!).Single();
        Assert.Equal(
            ("a b.png", "TEXCOORD_1", "srgb", WrapMode.Clamp, WrapMode.Mirror),
            (color.Reference.Written, color.UvSet, color.EffectiveSpace.Word(), color.WrapU, color.WrapV)
        );
        Assert.Equal(
            new UvTransform(0.1, 0, 45, 2, 3, "scale rotate offset"),
            color.Transform with
            {
                Rotation = Math.Round(color.Transform.Rotation, 6),
            }
        );
        Assert.Equal(ShaderValue.Of(1, 0.5, 0.25), graph.Nodes.Single(n => n.Name == "baseColor factor").Input("in2")!.Value);
        Assert.Equal(
            (Channels.B, "data"),
            graph.ImagesOf(surface.Input("metallic")!).Select(i => (i.Channels, i.EffectiveSpace.Word())).Single()
        );
        Assert.Equal((ShaderValue.Of(1.33), ShaderValue.Of(0, 0, 0)), (surface.Input("ior")!.Value, surface.Input("emissive")!.Default));
        Assert.NotNull(surface.Input("VENDOR_haze"));
        Assert.Contains(scene.Notes, n => n.Message.Contains("VENDOR_haze", StringComparison.Ordinal));
        Assert.Contains(scene.Notes, n => n.Message.Contains("own ancestor", StringComparison.Ordinal));
        Assert.Equal(("moon", 12), (scene.Lights.Single().Name, scene.Nodes[1].Copies));
    }

    [Fact]
    public void Each_edit_changes_its_own_bytes()
    {
        var path = place.Put("s.gltf", Document);
        (string, string) Change(params Edit[] edits)
        {
            var (gone, came) = ByteDiff.Middle(File.ReadAllBytes(path), File.ReadAllBytes(Make(path, edits).Copies[path]));
            return (gone, came);
        }

        var scene = Look.Read(path);
        var graph = scene.Materials[0].Graph;
        var color = graph.ImagesOf(graph.SurfaceNode!.Input("baseColor")!).Single();
        Assert.Equal(("33", "5"), Change(new SetValue("tin", "ior", ShaderValue.Of(1.33), ShaderValue.Of(1.5))));
        Assert.Equal(("MASK", "BLEND"), Change(new SetValue("tin", "alphaMode", null, ShaderValue.OfText("BLEND"))));
        Assert.Equal(("7", string.Empty), Change(new SetValue("tin", "alpha", null, ShaderValue.Of(0.5))));
        Assert.Equal((string.Empty, ",\n    \"alphaCutoff\": 0.3"), Change(new SetValue("tin", "alphaCutoff", null, ShaderValue.Of(0.3))));
        Assert.Equal(
            ("1", "0"),
            Change(
                new SetImage(
                    "tin",
                    "roughness",
                    null,
                    new(new(ReferenceKind.Image, "s.gltf", "a b.png"))
                    {
                        WrapU = WrapMode.Clamp,
                        WrapV = WrapMode.Mirror,
                        UvSet = "TEXCOORD_0",
                    }
                )
            )
        );
        Assert.Equal(
            (", \"metallicRoughnessTexture\": { \"index\": 1 }", string.Empty),
            Change(new SetImage("tin", "metallic", null, null))
        );
        var moved = color with { Transform = color.Transform with { ScaleU = 5 } };
        var after = Read(path, new SetImage("tin", "baseColor", color, moved)).Materials[0].Graph;
        Assert.Equal(
            (5, 3),
            after.ImagesOf(after.SurfaceNode!.Input("baseColor")!).Select(i => (i.Transform.ScaleU, i.Transform.ScaleV)).Single()
        );
        var more = Read(path, new SetImage("tin", "clearcoat", null, new(new(ReferenceKind.Image, "s.gltf", "new.png")))).References;
        Assert.Equal(new ReferenceUse("tin", "clearcoatTexture"), more.Single(r => r.Written == "new.png").UsedBy.Single());
    }

    [Fact]
    public void Assignments_variants_and_the_archived_model_are_written_to_their_own_fields()
    {
        const string Meshes = """
            { "asset": { "version": "2.0" }, "extensionsUsed": ["KHR_materials_variants", "KHR_materials_pbrSpecularGlossiness"],
              "extensions": { "KHR_materials_variants": { "variants": [{ "name": "day" }, { "name": "night" }] } },
              "materials": [{ "name": "tin" }, { "name": "old",
                "extensions": { "KHR_materials_pbrSpecularGlossiness": { "glossinessFactor": 0.3 } } }],
              "meshes": [{ "name": "box", "primitives": [
                { "attributes": {}, "material": 0, "extensions": { "KHR_materials_variants": { "mappings": [{ "material": 1,
                  "variants": [1] }] } } }, { "attributes": {} }] }] }
            """;
        var path = place.Put("v.gltf", Meshes);
        var scene = Core.Formats.SceneFormats.Read(path, new(new([place.Folder]), Bounds.Default));
        Assert.Equal(["day", "night"], scene.Variants.Single().Options.ToArray());
        Assert.Equal(
            ("gltf-specular-glossiness", ShaderValue.Of(0.3)),
            (scene.Materials[1].Graph.SurfaceNode!.Type, scene.Materials[1].Graph.SurfaceNode!.Input("glossiness")!.Value)
        );
        Assert.Equal(["tin", string.Empty], scene.Meshes[0].Parts.Select(p => p.Material));
        string[] Parts(Edit edit) => [.. Read(path, edit).Meshes[0].Parts.Select(p => p.Material)];
        Assert.Equal(["old", string.Empty], Parts(new SelectVariant(string.Empty, "material variants", string.Empty, "night")));
        Assert.Equal(["tin", "old"], Parts(new AssignMaterial("box", "primitive 1", string.Empty, "old")));
        Assert.Equal(["old", "old"], Parts(new AssignMaterial("/meshes/0", string.Empty, string.Empty, "old")));
        Assert.Equal([string.Empty, string.Empty], Parts(new AssignMaterial("box", string.Empty, "tin", string.Empty)));
        Assert.Equal(
            ShaderValue.Of(0.9),
            Read(path, new SetValue("old", "glossiness", null, ShaderValue.Of(0.9)))
                .Materials[1]
                .Graph.SurfaceNode!.Input("glossiness")!
                .Value
        );
        Assert.Contains(
            "no variant dusk",
            Make(path, new SelectVariant(string.Empty, "material variants", string.Empty, "dusk")).Refused.Single().Reason,
            StringComparison.Ordinal
        );
        var shared = Make(
            path,
            new SetImage("tin", "roughness", null, new(new(ReferenceKind.Image, "v.gltf", "r.png"))),
            new SetImage("tin", "metallic", null, new(new(ReferenceKind.Image, "v.gltf", "m.png")))
        );
        // One texture feeds both: the second would take the place of the first.
        Assert.Equal(
            "metallic shares the texture metallicRoughnessTexture with another input; they cannot read different images.",
            shared.Refused.Single().Reason
        );
    }

    [Fact]
    public void Edits_that_the_format_cannot_say_are_refused_and_the_others_made()
    {
        var path = place.Put("s.gltf", Document);
        var made = Make(
            path,
            new SetValue("tin", "subsurface", null, ShaderValue.Of(1)),
            new SetValue("tin", "ior", null, ShaderValue.Of(1.4)),
            new SetValue("gone", "ior", null, ShaderValue.Of(1))
        );
        Assert.Equal(["glTF has no input subsurface.", "The scene has no material gone."], made.Refused.Select(r => r.Reason));
        Assert.Contains("1.4", File.ReadAllText(made.Copies[path]), StringComparison.Ordinal);
    }

    [Fact]
    public void Carried_images_are_taken_out_and_put_back_in()
    {
        var clean = demo.At("clean/brass_lamp");
        foreach (var image in Directory.GetFiles(clean + "/textures"))
            place.Put("textures/" + Path.GetFileName(image), File.ReadAllBytes(image));
        var copy = place.Put("lamp.glb", File.ReadAllBytes(clean + "/brass_lamp.glb"));
        var report = Look.Muster(copy);
        var carried = report.References.Where(r => r.State == ReferenceState.Embedded).ToList();
        var plan = CarriedImages.Plan(report, carried.Select(c => c.Number), place.Folder);
        CarriedImages.WriteFiles(report, plan);
        var taken = Make(copy, [.. plan.Select(p => p.Edit)]);
        Assert.Empty(taken.Refused);
        var out_ = place.Put("out.glb", File.ReadAllBytes(taken.Copies[copy]));
        Assert.True(new FileInfo(out_).Length <= new FileInfo(copy).Length - carried.Sum(c => c.Stamp!.Value.Bytes) + 2000);
        var after = Look.Muster(out_);
        Assert.DoesNotContain(after.References, r => r.State == ReferenceState.Embedded);
        Assert.All(plan, p => Assert.Equal(ReferenceState.Present, after.Named(Path.GetFileName(p.File)).State));
        Assert.Equal(report.Scene.Meshes.Select(m => (m.Triangles, m.Bounds)), after.Scene.Meshes.Select(m => (m.Triangles, m.Bounds)));

        // The geometry behind the images has moved and still is what it was; another reader opens both.
        var original = Points(copy);
        Assert.Equal(original, Points(out_));
        var back = Make(
            out_,
            [.. after.References.Where(r => r.State == ReferenceState.Present).Select(r => new CarryImage(r.Reference.Key, r.Resolved!))]
        );
        Assert.Empty(back.Refused);
        var inside = place.Put("in.glb", File.ReadAllBytes(back.Copies[out_]));
        Assert.Equal(after.References.Length, Look.Muster(inside).References.Count(r => r.State == ReferenceState.Embedded));
        Assert.Equal(original, Points(inside));
    }

    private static System.Numerics.Vector3[] Points(string glb) =>
        [
            .. ModelRoot
                .Load(glb)
                .LogicalMeshes.SelectMany(m => m.Primitives)
                .SelectMany(p => p.GetVertexAccessor("POSITION").AsVector3Array()),
        ];

    [Fact]
    public void Names_of_extracted_images_never_collide()
    {
        var data = Convert.ToBase64String(Pictures.Png(2, 2, 1));
        var other = Convert.ToBase64String(Pictures.Png(2, 2, 2));
        var path = place.Put(
            "s.gltf",
            $$"""
            { "asset": { "version": "2.0" }, "images": [{ "name": "a", "uri": "data:image/png;base64,{{data}}" }, { "name": "a",
              "uri": "data:image/png;base64,{{other}}" }, { "name": "b", "uri": "data:image/png;base64,{{data}}" }] }
            """
        );
        place.PutPng("textures/a.png", 3);
        var report = Look.Muster(path);
        var plan = CarriedImages.Plan(report, [1, 2, 3], place.Folder);
        Assert.Equal(["textures/a-b.png", "textures/a (2).png", "textures/a-b.png"], plan.Select(p => p.Edit.Written));
        CarriedImages.WriteFiles(report, plan);
        Assert.Equal(3, place.Files("textures").Count());
    }

    public void Dispose() => place.Dispose();

    private EditedFiles Make(string path, params Edit[] edits)
    {
        Directory.CreateDirectory(place.At("edited"));
        return EditedFiles.Make(
            path,
            [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)],
            place.At("edited"),
            new(new([Path.GetDirectoryName(path)!]), Bounds.Default)
        );
    }

    private Scene Read(string path, params Edit[] edits) =>
        Core.Formats.SceneFormats.Read(
            path,
            new(new([Path.GetDirectoryName(path)!]), Bounds.Default) { Edited = Make(path, edits).Copies }
        );
}
