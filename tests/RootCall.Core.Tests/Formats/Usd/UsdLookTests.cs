using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats.Usd;

/// <summary>Edits written into a text layer: each where it belongs, and read back as what it said.</summary>
public sealed class UsdLookTests : IDisposable
{
    private const string Text = """
        #usda 1.0
        (
            upAxis = "Y"
        )

        # a comment that stays
        def Xform "W"
        {
            def Mesh "box" (
                prepend apiSchemas = ["MaterialBindingAPI"]
            )
            {
                int[] faceVertexCounts = [3, 3]
                texCoord2f[] primvars:map1 = [(0, 0)]
                rel material:binding = </W/tin>

                def GeomSubset "lid" { uniform token familyName = "materialBind" int[] indices = [1] rel material:binding = </W/tin> }

        }

            def Mesh "bare" {}

            def Material "tin"
            {
                token outputs:surface.connect = </W/tin/s.outputs:surface>

                def Shader "s"
                {
                    uniform token info:id = "UsdPreviewSurface"
                    color3f inputs:diffuseColor.connect = </W/tin/c.outputs:rgb>
                    float inputs:roughness = 0.4 ( doc = "as measured" )
                }

                def Shader "c"
                {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @./tin.png@
                    float2 inputs:st.connect = </W/tin/t.outputs:result>
                    token inputs:wrapS = "repeat"
                }

                def Shader "t"
                {
                    uniform token info:id = "UsdTransform2d"
                    float2 inputs:in.connect = </W/tin/r.outputs:result>
                    float2 inputs:scale = (2, 2)
                    float2 outputs:result
                }

                def Shader "r"
                {
                    uniform token info:id = "UsdPrimvarReader_float2"
                    string inputs:varname = "map1"
                    float2 outputs:result
                }

        }

            def Material "brass" {
                token outputs:surface.connect = </W/brass/s.outputs:surface>
                def Shader "s" { uniform token info:id = "UsdPreviewSurface" }
            }
        }

        """;

    private readonly Place place = new();
    private readonly string path;

    public UsdLookTests()
    {
        path = place.Put("s.usda", Text);
        Directory.CreateDirectory(place.At("read"));
        place.PutPng("tin.png");
        place.PutPng("other.png", 3);
    }

    [Fact]
    public void A_value_is_replaced_added_or_left_to_its_default()
    {
        Assert.Equal(
            Text.Replace("0.4 (", "0.9 (", StringComparison.Ordinal),
            Edit(new SetValue("tin", "roughness", ShaderValue.Of(0.4), ShaderValue.Of(0.9)))
        );
        var added = Edit(new SetValue("tin", "clearcoat", null, ShaderValue.Of(1)));
        Assert.Contains("            float inputs:clearcoat = 1\n        }", added, StringComparison.Ordinal);
        Assert.Equal(ShaderValue.Of(1), Surface(added).Input("clearcoat")!.Value);
        var removed = Edit(new SetValue("tin", "roughness", ShaderValue.Of(0.4), null));
        Assert.DoesNotContain("as measured", removed, StringComparison.Ordinal);
        Assert.Null(Surface(removed).Input("roughness")?.Value);
        // A value on an input that an image feeds disconnects the image.
        var plain = Surface(Edit(new SetValue("tin", "diffuseColor", null, ShaderValue.Of(1, 0, 0))));
        Assert.Equal((ShaderValue.Of(1, 0, 0), null), (plain.Input("diffuseColor")!.Value, plain.Input("diffuseColor")!.From));
        Assert.Contains("# a comment that stays", added, StringComparison.Ordinal);
    }

    [Fact]
    public void How_an_image_is_read_changes_in_its_own_nodes()
    {
        var use = Use(Text, "tin", "diffuseColor");
        Assert.Equal(
            (2, "auto", WrapMode.Repeat, WrapMode.FromFile),
            (use.Transform.ScaleU, use.EffectiveSpace.Word(), use.WrapU, use.WrapV)
        );
        var text = Edit(
            new SetImage(
                "tin",
                "diffuseColor",
                use,
                use with
                {
                    Transform = use.Transform with { ScaleU = 5, Rotation = 90 },
                    DeclaredSpace = "sRGB",
                    WrapU = WrapMode.Clamp,
                    WrapV = WrapMode.Mirror,
                }
            )
        );
        Assert.Contains("float2 inputs:scale = (5, 2)", text, StringComparison.Ordinal);
        var after = Use(text, "tin", "diffuseColor");
        Assert.Equal(
            (5, 90, "sRGB", WrapMode.Clamp, WrapMode.Mirror),
            (after.Transform.ScaleU, after.Transform.Rotation, after.DeclaredSpace, after.WrapU, after.WrapV)
        );
        var other = Edit(
            new SetImage("tin", "diffuseColor", use, use with { Reference = new(ReferenceKind.Image, "s.usda", "other.png") })
        );
        Assert.Equal(Text.Replace("./tin.png", "./other.png", StringComparison.Ordinal), other);
        Assert.Null(Surface(Edit(new SetImage("tin", "diffuseColor", use, null))).Input("diffuseColor")?.From);
    }

    [Theory]
    [InlineData("roughness", "float", "r", "raw")]
    [InlineData("emissiveColor", "color3", "rgb", "auto")]
    [InlineData("normal", "vector3", "rgb", "raw")]
    public void A_new_image_comes_with_the_nodes_it_needs(string input, string type, string output, string space)
    {
        var use = new ImageUse(new(ReferenceKind.Image, "s.usda", "other.png"))
        {
            Transform = UvTransform.Identity with { ScaleU = 3, ScaleV = 3 },
        };
        var text = Edit(new SetImage("brass", input, null, use));
        var scene = Read(text);
        var surface = scene.Materials.Single(m => m.Name == "brass").Graph.SurfaceNode!;
        Assert.Equal((type, output), (surface.Input(input)!.Type.Word, surface.Input(input)!.From!.Output));
        var read = Use(text, "brass", input);
        Assert.Equal((3, "map1", WrapMode.Repeat), (read.Transform.ScaleU, read.UvSet, read.WrapU));
        Assert.Equal(space, read.DeclaredSpace is "" ? "auto" : read.DeclaredSpace);
        if (type == "vector3")
            Assert.Equal(([2, 2, 2, 1], [-1, -1, -1, 0]), (read.Scale.ToArray(), read.Bias.ToArray()), new ArrayPair());
        Assert.Empty(scene.Notes);
        Assert.Contains(
            UsdMeshes.Meshes(
                place.Put(
                    "t.usda",
                    text.Replace("def Mesh \"bare\" {}", string.Empty, StringComparison.Ordinal)
                        .Replace(
                            "int[] faceVertexCounts = [3, 3]",
                            "int[] faceVertexCounts = [3, 3]\n int[] faceVertexIndices = [0,1,2,0,1,2]\n point3f[] points = "
                                + "[(0,0,0),(1,0,0),(0,1,0)]",
                            StringComparison.Ordinal
                        )
                        .Replace("[(0, 0)]", "[(0,0),(1,0),(0,1)] ( interpolation = \"vertex\" )", StringComparison.Ordinal)
                )
            ),
            m => m.Name == "box"
        );
    }

    [Fact]
    public void Assignments_change_for_a_mesh_a_subset_and_one_that_had_none()
    {
        string Material(string text, string mesh, string part) =>
            Read(text).Meshes.Single(m => m.Name == mesh).Parts.Single(p => p.Name == part).Material;
        Assert.Equal("brass", Material(Edit(new AssignMaterial("/W/box", string.Empty, "tin", "brass")), "box", string.Empty));
        var subset = Edit(new AssignMaterial("/W/box", "lid", "tin", "brass"));
        Assert.Equal(("brass", "tin"), (Material(subset, "box", "lid"), Material(subset, "box", string.Empty)));
        Assert.Equal("tin", Material(Edit(new AssignMaterial("bare", string.Empty, string.Empty, "tin")), "bare", string.Empty));
        Assert.Equal(string.Empty, Material(Edit(new AssignMaterial("/W/box", string.Empty, "tin", string.Empty)), "box", string.Empty));
        Assert.Contains(
            "no material gone",
            Assert.Single(Make(new AssignMaterial("/W/box", string.Empty, "tin", "gone")).Refused).Reason,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("def \"V\" ( variants = { string v = \"a\" } prepend variantSets = \"v\" ) {", "variants = { string v = \"b\" }")]
    [InlineData("def \"V\" ( prepend variantSets = \"v\" ) {", "variants = { string v = \"b\" }\n)")]
    [InlineData("def \"V\" {", "(\n    variants = { string v = \"b\" }\n)")]
    public void A_variant_is_chosen_wherever_the_prim_says_so_or_not(string head, string written)
    {
        var text =
            $"#usda 1.0\n{head}\n    variantSet \"v\" = {{ \"a\" {{ def Mesh \"one\" {{}} }} \"b\" {{ def Mesh \"two\" {{}} }} }}\n}}\n";
        File.WriteAllText(path, text);
        var after = Edit(new SelectVariant("/V", "v", "a", "b"));
        Assert.Contains(written, after, StringComparison.Ordinal);
        Assert.Equal("two", Assert.Single(Read(after).Meshes).Name);
    }

    [Fact]
    public void What_another_layer_says_is_said_anew_from_above()
    {
        place.Put("looks.usda", Text);
        File.WriteAllText(path, "#usda 1.0\n( subLayers = [@./looks.usda@] )\nover \"W\" { over \"tin\" { } }");
        var text = Edit(
            new SetValue("tin", "roughness", ShaderValue.Of(0.4), ShaderValue.Of(0.7)),
            new SetAsset("/W/tin/c.inputs:file", "./tin.png", "other@2.png")
        );
        Assert.Contains("over \"W\" { over \"tin\" { ", text, StringComparison.Ordinal);
        Assert.Contains("float inputs:roughness = 0.7", text, StringComparison.Ordinal);
        Assert.Contains("@@@./other@2.png@@@", text, StringComparison.Ordinal);
        var scene = Read(text);
        Assert.Equal(ShaderValue.Of(0.7), scene.Materials.Single(m => m.Name == "tin").Graph.SurfaceNode!.Input("roughness")!.Value);
        // The path that is replaced is called by nobody any more.
        Assert.Equal(["./looks.usda", "./other@2.png"], scene.References.Select(r => r.Written).Order());
        Assert.Equal(Text, File.ReadAllText(place.At("looks.usda")));
    }

    public void Dispose() => place.Dispose();

    private sealed class ArrayPair : IEqualityComparer<(double[], double[])>
    {
        public bool Equals((double[], double[]) x, (double[], double[]) y) =>
            x.Item1.SequenceEqual(y.Item1) && x.Item2.SequenceEqual(y.Item2);

        public int GetHashCode((double[], double[]) obj) => 0;
    }

    private EditedFiles Make(params Edit[] edits)
    {
        Directory.CreateDirectory(place.At("edited"));
        return EditedFiles.Make(
            path,
            [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)],
            place.At("edited"),
            new(new([place.Folder]), Bounds.Default)
        );
    }

    private string Edit(params Edit[] edits)
    {
        var made = Make(edits);
        Assert.Empty(made.Refused.Select(r => r.Reason));
        return File.ReadAllText(made.Copies[path]);
    }

    /// <summary>Reads a text under the scene's own name, so that its references have the keys the edits name.</summary>
    private Scene Read(string text)
    {
        if (File.Exists(place.At("looks.usda")))
            File.Copy(place.At("looks.usda"), place.At("read/looks.usda"), overwrite: true);
        return SceneFormats.Read(place.Put("read/s.usda", text), new(new([place.Folder]), Bounds.Default));
    }

    private ShaderNode Surface(string text) => Read(text).Materials.Single(m => m.Name == "tin").Graph.SurfaceNode!;

    private ImageUse Use(string text, string material, string input)
    {
        var graph = Read(text).Materials.Single(m => m.Name == material).Graph;
        return graph.ImagesOf(graph.SurfaceNode!.Input(input)!).Single();
    }
}
