using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Formats.Usd.Text;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats.Usd;

/// <summary>
/// Text layers and composition. Rules: OpenUSD documentation, "USD Terms and Concepts" (LIVRPS strength ordering, list editing,
/// path translation) and the "UsdPreviewSurface Proposal" 2.6.
/// </summary>
public sealed class UsdaTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void Every_kind_of_value_is_read_with_its_bytes()
    {
        const string Text = """
            #usda 1.0
            ( "about this layer"
              customLayerData = { string by = "a \"b\""; dictionary more = { int n = 3 } } )
            def "A" (
                doc = '''three
            lines'''
                add references = [@./b.usda@</B> (offset = 1; scale = 2), </C>]
                payload = None
                inherits = <//bad>
            )
            {
                custom float x = 1.5 ( customData = { string why = "z" } ) # a comment
                float x.timeSamples = { 0: 1, 1: 2.5, }
                double3[] p = [(1, 2, 3), (-4e2, inf, .5)]
                uniform token[] t = ["a", "b"]
                asset f = @@@odd@name.png@@@
                asset[] many = [@a.png@, @b.png@]
                bool b = true
                rel r = [</A>, </B>]
                delete rel r2 = </X>
                matrix4d m = ( (1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0), (5, 6, 7, 1) )
            }
            """;
        var errors = new List<string>();
        var layer = UsdaParser.Read(Encoding.UTF8.GetBytes(Text), errors);
        Assert.Empty(errors);
        var prim = Assert.Single(layer.Root.Children);
        Assert.Equal(2, prim.References!.Appended.Length);
        Assert.Equal(("./b.usda", "/B"), (prim.References.Appended[0].Asset!.Path, prim.References.Appended[0].Prim));
        Assert.Equal([1, 2, 3, -400, double.PositiveInfinity, 0.5], prim.Property("p")!.Value!.AsNumbers);
        Assert.Equal(2, ((UsdNumbers)prim.Property("p")!.Value!).Count);
        Assert.Equal(["a", "b"], prim.Property("t")!.Value!.AsNames);
        Assert.Equal([1], prim.Property("x")!.FirstSample!.AsNumbers);
        Assert.Equal("z", ((UsdDictionary)prim.Property("x")!.Metadata["customData"]).Entries["why"].AsText);
        Assert.Equal(16, prim.Property("m")!.Value!.AsNumbers.Length);
        Assert.Equal(["/A", "/B"], prim.Property("r")!.Targets!.Items);
        var asset = (UsdAsset)prim.Property("f")!.Value!;
        Assert.Equal("odd@name.png", Encoding.UTF8.GetString(Encoding.UTF8.GetBytes(Text), asset.Start, asset.Length));
        var x = prim.Property("x")!;
        Assert.Equal("1.5", Text[x.ValueStart..x.ValueEnd]);
    }

    [Fact]
    public void What_is_not_understood_costs_its_statement_and_no_more()
    {
        var errors = new List<string>();
        var layer = UsdaParser.Read(
            "#usda 1.0\ndef \"A\"\n{\n    float x = ?!\n    float y = 2\n    nonsense\n    float z = 3\n}\ndef \"B\" {"u8.ToArray(),
            errors
        );
        Assert.Equal(["A", "B"], layer.Root.Children.Select(c => c.Name));
        Assert.Equal([2], layer.Find("/A")!.Property("y")!.Value!.AsNumbers);
        Assert.Equal([3], layer.Find("/A")!.Property("z")!.Value!.AsNumbers);
        Assert.Contains(errors, e => e.StartsWith("line 4", StringComparison.Ordinal));
        Assert.Contains(errors, e => e.Contains("not closed", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("local", 1)]
    [InlineData("inherits", 2)]
    [InlineData("variants", 3)]
    [InlineData("references", 4)]
    [InlineData("payload", 5)]
    [InlineData("specializes", 6)]
    public void Opinions_win_in_the_order_of_their_strength(string strongest, int wins)
    {
        string[] order = ["local", "inherits", "variants", "references", "payload", "specializes"];
        string Say(string arc) =>
            Array.IndexOf(order, arc) >= Array.IndexOf(order, strongest)
                ? $"float inputs:roughness = {Array.IndexOf(order, arc) + 1}"
                : string.Empty;
        string Shader(string arc) => $"over \"surface\" {{ {Say(arc)} }}";
        place.Put("ref.usda", $"#usda 1.0\ndef \"R\" {{ {Shader("references")} }}");
        place.Put("pay.usda", $"#usda 1.0\n( defaultPrim = \"P\" )\ndef \"P\" {{ {Shader("payload")} }}");
        var scene = Look.Read(
            place.Put(
                "s.usda",
                $$"""
                #usda 1.0
                class "_c" { {{Shader("inherits")}} }
                class "_s" { {{Shader("specializes")}} }
                def Material "M" (
                    inherits = </_c>
                    references = @./ref.usda@</R>
                    payload = @./pay.usda@
                    specializes = </_s>
                    variants = { string v = "a" }
                    prepend variantSets = "v"
                )
                {
                    token outputs:surface.connect = </M/surface.outputs:surface>
                    def Shader "surface" { uniform token info:id = "UsdPreviewSurface" {{Say("local")}} }
                    variantSet "v" = { "a" { {{Shader("variants")}} } "b" { over "surface" { float inputs:roughness = 9 } } }
                }
                """
            )
        );
        Assert.Empty(scene.Notes);
        Assert.Equal(ShaderValue.Of(wins), scene.Materials.Single(m => m.Name == "M").Graph.SurfaceNode!.Input("roughness")!.Value);
        Assert.Equal("v", Assert.Single(scene.Variants).Set);
        Assert.Equal(2, scene.References.Count(r => r.Kind == ReferenceKind.Layer));
    }

    [Fact]
    public void Paths_are_carried_over_references_and_list_edits_join()
    {
        place.Put(
            "asset/pot.usda",
            """
            #usda 1.0
            ( defaultPrim = "Pot" )
            def Xform "Pot" {
                def Mesh "body" {
                    int[] faceVertexCounts = [4, 3]
                    point3f[] points = [(0,0,0), (1,0,0), (1,1,0)]
                    rel material:binding = </Pot/tin>
                }
                def Material "tin" {
                    token outputs:surface.connect = </Pot/tin/s.outputs:surface>
                    def Shader "s" {
                        uniform token info:id = "ND_standard_surface_surfaceshader"
                        color3f inputs:base_color.connect = </Pot/tin/i.outputs:out>
                    }
                    def Shader "i" {
                        uniform token info:id = "ND_image_color3"
                        asset inputs:file = @tex/tin.<UDIM>.png@ ( colorSpace = "srgb_texture" )
                        string inputs:uaddressmode = "mirror"
                    }
                }
            }
            """
        );
        place.PutPng("asset/tex/tin.1001.png");
        place.PutPng("asset/tex/tin.1002.png");
        var report = Look.Muster(
            place.Put(
                "s.usda",
                """
                #usda 1.0
                def "World" {
                    def "a" ( prepend references = @./asset/pot.usda@ ) {
                        double3 xformOp:translate = (1, 2, 3)
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                    def "b" ( prepend references = @./asset/pot.usda@ ) { over "body" { rel material:binding = </World/other> } }
                    def Material "other" { }
                }
                """
            )
        );
        var scene = report.Scene;
        Assert.Empty(scene.Notes);
        Assert.Equal(["tin", "other"], scene.Meshes.Select(m => m.Parts[0].Material));
        Assert.Equal((2L, 3L), (scene.Meshes[0].Faces, scene.Meshes[0].Triangles));
        Assert.Equal("/World/a/tin", scene.Materials[0].Id);
        Assert.Equal(3, scene.Nodes.Single(n => n.Name == "a").Transform[14]);
        var image = scene.Materials[0].Graph.ImagesOf(scene.Materials[0].Graph.SurfaceNode!.Input("base_color")!).Single();
        Assert.Equal(("srgb", WrapMode.Mirror, WrapMode.Repeat), (image.EffectiveSpace.Word(), image.WrapU, image.WrapV));
        Assert.Equal(ReferenceState.Present, report.Named("<UDIM>.png").State);
        Assert.Equal(2, report.Named("<UDIM>.png").Tiles.Length);
    }

    [Fact]
    public void Subsets_collections_and_stronger_bindings_assign_materials()
    {
        var scene = Look.Read(
            place.Put(
                "s.usda",
                """
                #usda 1.0
                def Xform "w" (
                    prepend apiSchemas = ["CollectionAPI:metal"]
                )
                {
                    rel material:binding = </m/wood> ( bindMaterialAs = "weakerThanDescendants" )
                    rel material:binding:collection:metal = [</w.collection:metal>, </m/tin>]
                    rel collection:metal:includes = [</w/lid>]
                    uniform token collection:metal:expansionRule = "expandPrims"
                    def Mesh "lid" { int[] faceVertexCounts = [3] }
                    def Mesh "box" {
                        int[] faceVertexCounts = [3, 4, 3]
                        def GeomSubset "front" {
                            uniform token elementType = "face"
                            uniform token familyName = "materialBind"
                            int[] indices = [1]
                            rel material:binding = </m/glass>
                        }
                    }
                    def Xform "strong" { rel material:binding = </m/gold> ( bindMaterialAs = "strongerThanDescendants" )
                        def Mesh "inner" { int[] faceVertexCounts = [3] rel material:binding = </m/glass> } }
                }
                def "m" { def Material "wood" {} def Material "tin" {} def Material "glass" {} def Material "gold" {} }
                """
            )
        );
        string Parts(string mesh) =>
            string.Join(", ", scene.Meshes.Single(m => m.Name == mesh).Parts.Select(p => $"{p.Name}:{p.Material}:{p.Triangles}"));
        Assert.Equal((":tin:1", "front:glass:2, :wood:2", ":gold:1"), (Parts("lid"), Parts("box"), Parts("inner")));
    }

    [Fact]
    public void Circles_are_cut_and_told()
    {
        place.Put(
            "b.usda",
            "#usda 1.0\n( subLayers = [@./a.usda@] defaultPrim = \"B\" )\ndef \"B\" ( references = @./a.usda@</A> ) { def Mesh \"m\" {} }"
        );
        var scene = Look.Read(
            place.Put(
                "a.usda",
                "#usda 1.0\ndef \"A\" ( references = @./b.usda@ ) { def \"A\" ( references = </A> ) {} }\ndef \"S\" ( "
                    + "references = </S> ) {}"
            )
        );
        Assert.Contains(scene.Notes, n => n.Message.Contains("circle", StringComparison.Ordinal));
        Assert.Contains(scene.Nodes, n => n.Name == "m");
    }

    [Fact]
    public void A_variant_can_be_chosen_without_writing_and_by_an_edit()
    {
        var path = demo.At("clean/watering_can/watering_can.usda");
        double Coat(Scene scene) =>
            scene.Materials.Single(m => m.Name == "tin_body").Graph.SurfaceNode!.Input("clearcoat")!.Value!.Numbers[0];
        Assert.Equal(0.4, Coat(Look.Read(path)));
        var chosen = new ReadContext(new([Path.GetDirectoryName(path)!]), Bounds.Default)
        {
            Chosen = new Dictionary<(string, string), string> { [("/World", "patina")] = "aged" },
        };
        Assert.Equal(0, Coat(SceneFormats.Read(path, chosen)));
        var text = Edited(path, new SelectVariant("/World", "patina", "fresh", "aged"));
        Assert.Contains("string patina = \"aged\"", text, StringComparison.Ordinal);
        Assert.Equal(File.ReadAllText(path).Replace("\"fresh\"\n", "\"aged\"\n", StringComparison.Ordinal), text);
    }

    [Fact]
    public void A_material_knows_its_template_and_an_edit_reaches_one_or_all()
    {
        var path = demo.At("clean/watering_can/watering_can.usda");
        var scene = Look.Read(path);
        var handle = scene.Materials.Single(m => m.Name == "verdigris_handle");
        var template = scene.Materials.Single(m => m.IsTemplate);
        Assert.Equal(("/_look_aged", "/_look_aged"), (handle.Template, template.Id));
        Assert.Equal(ShaderValue.Of(0.62), handle.Graph.SurfaceNode!.Input("roughness")!.Value);
        // At the instance the root layer says it anew, inside what stands there already.
        var text = Edited(path, new SetValue("verdigris_handle", "roughness", ShaderValue.Of(0.62), ShaderValue.Of(0.1)));
        Assert.Contains("float inputs:roughness = 0.1", text, StringComparison.Ordinal);
        Assert.DoesNotContain("_look_aged", text, StringComparison.Ordinal);
    }

    [Fact]
    public void A_package_holds_its_images_aligned_and_gives_them_out()
    {
        var path = demo.At("clean/tin_pear/tin_pear.usdz");
        var bytes = File.ReadAllBytes(path);
        var archive = UsdzArchive.Read(bytes, "x", []);
        Assert.All(archive.Entries, e => Assert.Equal(0, e.Start % 64));
        var report = Look.Muster(path);
        var image = report.References.Single(r => r.State == ReferenceState.Embedded);
        Assert.Equal(512, image.Facts!.Width);
        Assert.Equal(report.Scene.Counts.Triangles, UsdMeshes.Meshes(path).Sum(m => m.Faces));
        // Any zip program reads it.
        Assert.Equal(0, Tool.Run("unzip", ["-t", path]).Status);
    }

    [Fact]
    public void Tinyusdz_counts_what_is_counted_here()
    {
        var path = demo.At("clean/watering_can/watering_can.usda");
        var scene = Look.Read(path);
        Assert.Equal(
            scene.Meshes.Select(m => (m.Name, (int)m.Vertices, (int)m.Faces)).Order(),
            UsdMeshes.Meshes(path).Select(m => (m.Name, m.Points, m.Faces)).Order()
        );
    }

    public void Dispose() => place.Dispose();

    private string Edited(string scene, params Edit[] edits)
    {
        Directory.CreateDirectory(place.At("edited"));
        var made = EditedFiles.Make(
            scene,
            [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)],
            place.At("edited"),
            new(new([Path.GetDirectoryName(scene)!]), Bounds.Default)
        );
        Assert.Empty(made.Refused);
        return File.ReadAllText(made.Copies[scene]);
    }
}
