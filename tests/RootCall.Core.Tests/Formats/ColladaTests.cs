using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>Rules and defaults: COLLADA 1.4.1 specification (Khronos), chapters 5 and 8.</summary>
public sealed class ColladaTests : IDisposable
{
    private readonly Place place = new();

    private static string Document(string image, string asset = "") =>
        $"""
            <?xml version="1.0" encoding="utf-8"?>
            <c:COLLADA xmlns:c="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">{asset}
              <library_images><image id="i"><init_from>
                 {image}  </init_from></image></library_images>
              <library_effects><effect id="fx"><profile_COMMON>
                <newparam sid="surf"><surface type="2D"><init_from>i</init_from></surface></newparam>
                <newparam sid="samp"><sampler2D><source>surf</source><wrap_s>MIRROR</wrap_s></sampler2D></newparam>
                <technique sid="c"><lambert>
                  <emission><color>0 0 0 1</color></emission>
                  <diffuse>
                    <texture texture="samp" texcoord="UV0">
                      <extra>
                        <technique profile="x"><repeatU>3</repeatU><repeatV>2</repeatV></technique>
                      </extra>
                    </texture>
                  </diffuse>
                  <transparency><float>0.5</float></transparency>
                </lambert></technique></profile_COMMON></effect></library_effects>
              <library_materials>
                <material id="m" name="tin &lt;1&gt;"><instance_effect url="#fx"/></material>
                <material id="m2" name="brass"><instance_effect url="#fx"/></material>
              </library_materials>
              <library_geometries><geometry id="g" name="leaf"><mesh>
                <source id="p">
                  <float_array id="pa" count="12">0 0 0 1 0 0 1 1 0 0 1 -2.5e0</float_array>
                  <technique_common><accessor source="#pa" count="4" stride="3"/></technique_common>
                </source>
                <vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
                <polylist material="sym" count="1">
                  <input semantic="VERTEX" source="#v" offset="0"/>
                  <input semantic="TEXCOORD" source="#p" offset="1" set="1"/>
                  <vcount>4</vcount>
                  <p>0 0 1 1 2 2 3 3</p>
                </polylist>
              </mesh></geometry></library_geometries>
              <library_nodes>
                <node id="part" name="part">
                  <instance_geometry url="#g">
                    <bind_material>
                      <technique_common>
                        <instance_material symbol="sym" target="#m">
                          <bind_vertex_input semantic="UV0" input_semantic="TEXCOORD" input_set="1"/>
                        </instance_material>
                      </technique_common>
                    </bind_material>
                  </instance_geometry>
                </node>
              </library_nodes>
              <library_visual_scenes>
                <visual_scene id="s">
                  <node name="top">
                    <translate>1 2 3</translate>
                    <scale>2 2 2</scale>
                    <instance_node url="#part"/>
                  </node>
                </visual_scene>
              </library_visual_scenes>
              <scene><instance_visual_scene url="#s"/></scene>
            </c:COLLADA>
            """;

    [Fact]
    public void Geometry_scene_and_common_profile_are_read()
    {
        var scene = Look.Read(place.Put("s.dae", Document("./tex/tin%20leaf.png")));
        Assert.Empty(scene.Notes);
        Assert.Equal((1.0, "Y"), (scene.MetresPerUnit, scene.UpAxis)); // The defaults of unit and up_axis.
        Assert.Equal([("top", -1, -1), ("part", 0, 0)], scene.Nodes.Select(n => (n.Name, n.Parent, n.Mesh)));
        Assert.Equal((2, 1), (scene.Nodes[0].Transform[0], scene.Nodes[0].Transform[12]));
        var mesh = scene.Meshes.Single();
        Assert.Equal((4L, 1L, 2L, "tin <1>"), (mesh.Vertices, mesh.Faces, mesh.Triangles, mesh.Parts[0].Material));
        Assert.Equal(-2.5, mesh.Bounds!.Value.Min.Z);
        var surface = scene.Materials[0].Graph.SurfaceNode!;
        Assert.Equal(
            (ShaderValue.OfText("lambert"), ShaderValue.Of(0.5)),
            (surface.Input("lighting")!.Value, surface.Input("transparency")!.Value)
        );
        var image = scene.Materials[0].Graph.ImagesOf(surface.Input("diffuse")!).Single();
        Assert.Equal(
            ("./tex/tin leaf.png", "TEXCOORD1", WrapMode.Mirror, WrapMode.Repeat, 3.0),
            (image.Reference.Written, image.UvSet, image.WrapU, image.WrapV, image.Transform.ScaleU)
        );
    }

    [Theory]
    [InlineData("file:///D:/jobs/tin.png", "D:/jobs")]
    [InlineData("file://server/share/tin.png", ".")]
    [InlineData(@"..\tex\tin.png", "../tex")]
    public void Every_way_to_write_init_from_is_understood_and_rewritten_as_a_URI(string written, string folder)
    {
        place.PutPng("library/a b.png");
        var report = Look.Muster(place.Put("s/s.dae", Document(written)), place.At("library"));
        var reference = Assert.Single(report.References).Reference;
        if (folder != ".")
            Assert.Equal(folder, WrittenPath.Parse(reference.Written).Folder);
        using var copy = new MemoryStream();
        new SceneWriter(
            report.Scene,
            place.At("s"),
            new Dictionary<ReferenceKey, string> { [reference.Key] = place.At("library/a b.png") }
        ).Write(0, copy);
        Assert.Equal(Document("../library/a%20b.png"), System.Text.Encoding.UTF8.GetString(copy.ToArray()));
    }

    [Fact]
    public void Edits_are_written_into_the_profile_or_refused_with_the_reason()
    {
        var path = place.Put("s.dae", Document("tin.png"));
        var scene = Look.Read(path);
        Assert.Contains(
            "<transparency><float>0.25</float></transparency>",
            Edited(path, new SetValue("tin <1>", "transparency", ShaderValue.Of(0.5), ShaderValue.Of(0.25))),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "<emission><texture texture=",
            Edited(path, new SetImage("tin <1>", "emission", null, new(new(ReferenceKind.Image, "s.dae", "glow.png")))),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "target=\"#m2\"",
            Edited(path, new AssignMaterial("leaf", string.Empty, "tin <1>", "brass")),
            StringComparison.Ordinal
        );
        var graph = scene.Materials[0].Graph;
        var image = graph.ImagesOf(graph.SurfaceNode!.Input("diffuse")!).Single();
        var refused = Make(
            path,
            new SetImage("tin <1>", "diffuse", image, image with { Transform = image.Transform with { ScaleU = 9 } })
        ).Refused;
        Assert.Contains("no UV transform", Assert.Single(refused).Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void A_document_in_sixteen_bits_is_read_and_said_to_be_left_as_it_is()
    {
        var scene = Look.Read(place.Put("s.dae", "\uFEFF" + Document("tin.png"), System.Text.Encoding.Unicode));
        Assert.Equal(2, scene.Meshes.Single().Triangles);
        Assert.Contains(scene.Notes, n => n.Message.Contains("UTF-16", StringComparison.Ordinal));
        Assert.Empty(scene.References.Single().Sites);
    }

    public void Dispose() => place.Dispose();

    private EditedFiles Make(string path, params Edit[] edits)
    {
        Directory.CreateDirectory(place.At("edited"));
        return EditedFiles.Make(
            path,
            [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)],
            place.At("edited"),
            new(new([place.Folder]), Bounds.Default)
        );
    }

    private string Edited(string path, params Edit[] edits)
    {
        var made = Make(path, edits);
        Assert.Empty(made.Refused.Select(r => r.Reason));
        return File.ReadAllText(made.Copies[path]);
    }
}
