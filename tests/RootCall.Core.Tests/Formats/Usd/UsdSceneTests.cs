using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats.Usd;

/// <summary>
/// UsdGeom, UsdLux and UsdShade as their schema documentation describes them (OpenUSD 24, "UsdGeomXformable",
/// "UsdGeomPointInstancer", "UsdShadeNodeGraph").
/// </summary>
public sealed class UsdSceneTests : IDisposable
{
    private readonly Place place = new();

    [Theory]
    [InlineData("double3 xformOp:translate = (1, 2, 3)", "xformOp:translate", 2, 2, 3)]
    [InlineData("float3 xformOp:scale = (2, 3, 4)", "xformOp:scale", 2, 0, 0)]
    [InlineData("float xformOp:rotateZ = 90", "xformOp:rotateZ", 0, 1, 0)]
    [InlineData("float xformOp:rotateY = 90", "xformOp:rotateY", 0, 0, -1)]
    [InlineData("float3 xformOp:rotateXYZ = (0, 0, 90)", "xformOp:rotateXYZ", 0, 1, 0)]
    [InlineData("float3 xformOp:rotateZYX = (90, 0, 90)", "xformOp:rotateZYX", 0, 0, 1)]
    [InlineData("float3 xformOp:rotateXYZ = (90, 0, 90)", "xformOp:rotateXYZ", 0, 1, 0)]
    [InlineData("quatf xformOp:orient = (0.70710678, 0, 0, 0.70710678)", "xformOp:orient", 0, 1, 0)]
    [InlineData("matrix4d xformOp:transform = ((0, 1, 0, 0), (-1, 0, 0, 0), (0, 0, 1, 0), (5, 0, 0, 1))", "xformOp:transform", 5, 1, 0)]
    [InlineData(
        "double3 xformOp:translate:pivot = (1, 0, 0)\nfloat xformOp:rotateZ = 180",
        "xformOp:translate:pivot\", \"xformOp:rotateZ\", \"!invert!xformOp:translate:pivot",
        1,
        0,
        0
    )]
    [InlineData("double3 xformOp:translate = (1, 0, 0)\nfloat3 xformOp:scale = (2, 2, 2)", "xformOp:translate\", \"xformOp:scale", 3, 0, 0)]
    public void Transform_ops_apply_in_their_order(string ops, string order, double x, double y, double z)
    {
        var scene = Read($"def Xform \"a\" {{\n{ops}\nuniform token[] xformOpOrder = [\"{order}\"]\n}}");
        var m = scene.Nodes.Single().Transform;
        double Row(int c) => Math.Round(m[c] + m[12 + c], 5);
        Assert.Equal((x, y, z), (Row(0), Row(1), Row(2))); // Where (1, 0, 0) comes to lie.
    }

    [Fact]
    public void What_is_shown_is_counted_and_what_is_not_is_left_out()
    {
        var scene = Read(
            """
            def Xform "w" {
                def Mesh "m" {
                    int[] faceVertexCounts.timeSamples = { 0: [3, 4], 5: [3] }
                    point3f[] points = [(0, 0, 0), (2, 0, 0)]
                    float3[] extent = [(0, 0, 0), (9, 9, 9)]
                    color3f[] primvars:displayColor = [(1, 0, 0)]
                    normal3f[] primvars:normals = [(0, 0, 1)]
                    float2[] primvars:second = [(0, 0)]
                    int[] primvars:second:indices = [0]
                }
                def Sphere "ball" { double radius = 2 }
                def Mesh "off" ( active = false ) { int[] faceVertexCounts = [3] }
                over "ghost" { def Mesh "inside" { int[] faceVertexCounts = [3] } }
                class "_c" { def Mesh "never" { int[] faceVertexCounts = [3] } }
                def PointInstancer "many" { int[] protoIndices = [0, 0, 0, 0] rel prototypes = </w/m> }
                def DomeLight "sky" { asset inputs:texture:file = @sky.hdr@ }
                def SphereLight "lamp" {}
                def BasisCurves "hair" {}
            }
            """
        );
        Assert.Equal(["m", "ball", "hair"], scene.Meshes.Select(m => m.Name));
        var mesh = scene.Meshes[0];
        Assert.Equal((2L, 3L, true, true), (mesh.Faces, mesh.Triangles, mesh.HasColours, mesh.HasNormals));
        Assert.Equal(new(9, 9, 9), mesh.Bounds!.Value.Max); // The extent is what the author computed.
        Assert.Equal(["second"], mesh.UvSets.ToArray());
        Assert.NotNull(scene.Meshes[1].Unmeasured);
        Assert.Equal(4, scene.Nodes.Single(n => n.Name == "many").Copies);
        Assert.Equal([("sky", "DomeLight"), ("lamp", "SphereLight")], scene.Lights.Select(l => (l.Name, l.Type)));
        Assert.Equal(new ReferenceUse("sky", "texture:file"), scene.References.Single().UsedBy.Single());
    }

    [Fact]
    public void Node_graphs_and_interfaces_are_followed_and_unknown_shaders_keep_their_name()
    {
        var scene = Read(
            """
            def Material "m" {
                asset inputs:map = @a.png@
                float inputs:gain = 0.3
                token outputs:mine:surface.connect = </m/s.outputs:out>
                def Shader "s" {
                    uniform token info:id = "orchard_enamel"
                    color3f inputs:coat.connect = </m/g.outputs:result>
                    float inputs:gloss.connect = </m.inputs:gain>
                    float inputs:broken.connect = </m/gone.outputs:out>
                }
                def NodeGraph "g" {
                    color3f outputs:result.connect = </m/g/i.outputs:rgb>
                    def Shader "i" {
                        uniform token info:id = "UsdUVTexture"
                        asset inputs:file.connect = </m.inputs:map>
                        float2 inputs:st.connect = </m/g/r.outputs:result>
                        float4 inputs:fallback = (1, 0, 1, 1)
                    }
                    def Shader "r" { uniform token info:id = "UsdPrimvarReader_float2" token inputs:varname = "uv2" }
                }
            }
            def Material "loop" {
                token outputs:surface.connect = </loop/a.outputs:x>
                def Shader "a" { float inputs:i.connect = </loop/b.outputs:x> }
                def Shader "b" { float inputs:i.connect = </loop/a.outputs:x> }
            }
            """
        );
        var graph = scene.Materials[0].Graph;
        Assert.Equal("orchard_enamel", graph.SurfaceNode!.Type);
        Assert.Equal(new Connection("g/i", "rgb"), graph.SurfaceNode.Input("coat")!.From);
        Assert.Equal(ShaderValue.Of(0.3), graph.SurfaceNode.Input("gloss")!.Value);
        Assert.Null(graph.SurfaceNode.Input("broken")!.From);
        var image = graph.ImagesOf(graph.SurfaceNode.Input("coat")!).Single();
        Assert.Equal(("a.png", "uv2"), (image.Reference.Written, image.UvSet));
        Assert.Equal([1, 0, 1, 1], image.Default.ToArray());
        Assert.Equal(2, scene.Materials[1].Graph.Nodes.Length); // A circle of connections ends.
    }

    [Fact]
    public void List_edits_of_stronger_layers_join_replace_and_take_out()
    {
        place.Put(
            "weak.usda",
            "#usda 1.0\ndef \"a\" ( prepend references = [</one>, </two>] ) {}\ndef \"b\" ( references = </one> ) {}\ndef "
                + "\"c\" ( prepend references = [</one>, </two>] ) {}\ndef \"one\" { def Mesh \"m1\" {} }\ndef \"two\" { def "
                + "Mesh \"m2\" {} }\ndef \"three\" { def Mesh \"m3\" {} }"
        );
        var scene = Read(
            "over \"a\" ( append references = </three> ) {}\nover \"b\" ( references = </three> ) {}\nover \"c\" ( delete "
                + "references = </one> ) {}",
            "subLayers = [@./weak.usda@]"
        );
        string Below(string prim) =>
            string.Join(' ', scene.Nodes.Where(n => n.Parent >= 0 && scene.Nodes[n.Parent].Name == prim).Select(n => n.Name).Order());
        Assert.Equal(("m1 m2 m3", "m3", "m2"), (Below("a"), Below("b"), Below("c")));
    }

    [Fact]
    public void A_layer_called_without_a_leading_dot_is_looked_for_in_the_roots_too()
    {
        place.Put("lib/kit/pot.usda", "#usda 1.0\n( defaultPrim = \"P\" )\ndef Mesh \"P\" { int[] faceVertexCounts = [3] }");
        var path = place.Put(
            "s/s.usda",
            "#usda 1.0\ndef \"a\" ( references = @kit/pot.usda@ ) {}\ndef \"b\" ( references = @./kit/pot.usda@ ) {}\ndef "
                + "\"c\" ( references = @kit/gone.usda@ ) {}"
        );
        var scene = Look.Read(path, place.At("lib"));
        Assert.Equal("a", Assert.Single(scene.Meshes).Name);
        Assert.Equal([path, place.At("lib/kit/pot.usda")], scene.Files.Select(f => f.Path));
        Assert.Empty(Look.Read(path).Meshes);
    }

    [Fact]
    public void Limits_hold()
    {
        var path = place.Put("s.usda", "#usda 1.0\n" + new string(' ', 4000));
        var refused = Assert.Throws<CannotUseException>(() =>
            SceneFormats.Read(path, new(new([place.Folder]), Bounds.Default with { TextBytes = 1000 }))
        );
        Assert.Contains("at most 1,000", refused.Message, StringComparison.Ordinal);
        var deep = Read(string.Concat(Enumerable.Repeat("def \"a\" {", 600)) + string.Concat(Enumerable.Repeat("}", 600)));
        Assert.Contains(deep.Notes, n => n.Message.Contains("deep", StringComparison.Ordinal));
    }

    public void Dispose() => place.Dispose();

    private Scene Read(string prims, string metadata = "upAxis = \"Y\"") =>
        Look.Read(place.Put("s.usda", $"#usda 1.0\n( {metadata} )\n{prims}\n"));
}
