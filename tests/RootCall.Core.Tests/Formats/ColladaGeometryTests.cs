using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>Primitives, controllers and transforms of COLLADA 1.4.1 (chapter 5).</summary>
public sealed class ColladaGeometryTests : IDisposable
{
    private readonly Place place = new();

    [Theory]
    [InlineData("<triangles count=\"2\">@<p>0 1 2 2 1 0</p></triangles>", 2, 2)]
    [InlineData("<polylist count=\"2\">@<vcount>3 5</vcount><p>0 1 2 0 1 2 3 0</p></polylist>", 2, 4)]
    [InlineData("<polygons count=\"2\">@<p>0 1 2 3</p><ph><p>0 1 2</p><h>0 1 2</h></ph></polygons>", 2, 3)]
    [InlineData("<tristrips count=\"1\">@<p>0 1 2 3 0</p></tristrips>", 3, 3)]
    [InlineData("<trifans count=\"2\">@<p>0 1 2 3</p><p>0 1 2</p></trifans>", 3, 3)]
    [InlineData("<lines count=\"1\">@<p>0 1</p></lines>", 0, 0)]
    public void Every_primitive_is_counted(string primitive, long faces, long triangles)
    {
        var scene = Read(primitive, "<instance_geometry url=\"#g\"/>");
        Assert.Equal((4L, faces, triangles), (scene.Meshes[0].Vertices, scene.Meshes[0].Faces, scene.Meshes[0].Triangles));
    }

    [Fact]
    public void A_controller_shows_its_geometry_and_one_that_is_not_there_is_told()
    {
        const string Skin = "<library_controllers><controller id=\"c\"><skin source=\"#g\"/></controller></library_controllers>";
        Assert.Equal(
            1,
            Read("<triangles count=\"1\">@<p>0 1 2</p></triangles>", "<instance_controller url=\"#c\"/>", Skin).Counts.Triangles
        );
        var lost = Read("<triangles count=\"1\">@<p>0 1 2</p></triangles>", "<instance_controller url=\"#gone\"/>");
        Assert.Contains(lost.Notes, n => n.Message.Contains("#gone", StringComparison.Ordinal));
    }

    [Fact]
    public void Two_bindings_of_one_geometry_are_two_meshes_and_transforms_apply_from_the_last()
    {
        static string Bound(string target) =>
            $"<instance_geometry url=\"#g\"><bind_material><technique_common><instance_material symbol=\"s\" "
            + $"target=\"{target}\"/></technique_common></bind_material></instance_geometry>";
        var scene = Read(
            "<triangles material=\"s\" count=\"1\">@<p>0 1 2</p></triangles>",
            $"<matrix>1 0 0 5 0 1 0 0 0 0 1 0 0 0 0 1</matrix><rotate>0 0 1 90</rotate>{Bound("#a")}{Bound("#b")}{Bound("#a")}",
            "<library_materials><material id=\"a\" name=\"tin\"/><material id=\"b\"/></library_materials>"
        );
        Assert.Equal(["tin", "b"], scene.Meshes.Select(m => m.Parts[0].Material));
        Assert.Equal([0, 1, 0], scene.Nodes.Select(n => n.Mesh));
        var m = scene.Nodes[0].Transform;
        Assert.Equal((5, 1), (Math.Round(m[0] + m[12], 6), Math.Round(m[1] + m[13], 6))); // (1, 0) is turned to (0, 1), then moved by 5.
    }

    [Fact]
    public void Other_documents_are_references_and_nodes_that_call_themselves_end()
    {
        var scene = Read(
            "<triangles count=\"1\">@<p>0 1 2</p></triangles>",
            "<instance_geometry url=\"parts/lid%20a.dae#x\"/><instance_node url=\"#n\"/>",
            "<library_nodes><node id=\"n\" name=\"n\"><instance_node url=\"#n\"/></node></library_nodes>"
        );
        var other = scene.References.Single();
        Assert.Equal((ReferenceKind.Document, "parts/lid a.dae"), (other.Kind, other.Written));
        Assert.Contains(scene.Notes, n => n.Message.Contains("call for themselves", StringComparison.Ordinal));
        Assert.True(scene.Nodes.Length < 300);
    }

    public void Dispose() => place.Dispose();

    private Scene Read(string primitive, string instances, string libraries = "") =>
        Look.Read(
            place.Put(
                "s.dae",
                $"""
                <COLLADA version="1.4.1">{libraries}
                  <library_geometries><geometry id="g"><mesh>
                    <source id="p">
                      <float_array id="pa" count="12">0 0 0 1 0 0 1 1 0 0 1 0</float_array>
                      <technique_common><accessor source="#pa" count="4" stride="3"/></technique_common>
                    </source>
                    <vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
                    {primitive.Replace("@", "<input semantic=\"VERTEX\" source=\"#v\" offset=\"0\"/>", StringComparison.Ordinal)}
                  </mesh></geometry></library_geometries>
                  <library_visual_scenes><visual_scene id="s"><node name="top">{instances}</node></visual_scene></library_visual_scenes>
                  <scene><instance_visual_scene url="#s"/></scene>
                </COLLADA>
                """
            )
        );
}
