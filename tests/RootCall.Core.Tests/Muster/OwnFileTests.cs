using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

/// <summary>Layers, documents and second paths in the muster: they answer, move and are packed like any other file of a scene.</summary>
public sealed class OwnFileTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void A_layer_that_moved_is_found_and_what_it_calls_turns_up()
    {
        place.Put(
            "lib/layers/looks.usda",
            "#usda 1.0\ndef Material \"tin\" { token outputs:surface.connect = </tin/s.outputs:surface> def Shader \"s\" { "
                + "uniform token info:id = \"ND_x\" asset inputs:file = @../tex/tin.png@ } }"
        );
        place.PutPng("lib/tex/tin.png");
        var scene = place.Put(
            "s/s.usda",
            "#usda 1.0\n( subLayers = [@D:/jobs/looks.usda@] )\ndef Mesh \"m\" { int[] faceVertexCounts = [3] rel "
                + "material:binding = </tin> }"
        );
        var before = Look.Muster(scene, place.At("lib"));
        Assert.Equal(
            (ReferenceKind.Layer, ReferenceState.Elsewhere),
            (before.References.Single().Reference.Kind, before.References.Single().State)
        );
        Assert.Empty(before.Scene.Materials);

        var report = Look.TakeClear(scene, place.At("lib"));
        Assert.Equal("tin", Assert.Single(report.Scene.Materials).Name);
        Assert.All(report.References, r => Assert.Equal(ReferenceState.Present, r.State));
        var package = PackageBuilder.Build(PackagePlan.Make(report, new()), place.At("p"), DateTimeOffset.UnixEpoch);
        Assert.Equal(["looks.usda", "s.usda", "textures/tin.png"], place.Files("p/data"));
        Assert.Contains("@./looks.usda@", File.ReadAllText(place.At("p/data/s.usda")), StringComparison.Ordinal);
        Assert.Contains("@./textures/tin.png@", File.ReadAllText(place.At("p/data/looks.usda")), StringComparison.Ordinal);
        Assert.True(PackageProof.Prove(package.Written, Bounds.Default).Holds);
    }

    [Fact]
    public void An_included_document_moves_with_its_own_files()
    {
        place.Put(
            "lib/base.mtlx",
            "<materialx version=\"1.38\"><image name=\"i\" type=\"color3\"><input name=\"file\" type=\"filename\" "
                + "value=\"base.png\"/></image></materialx>"
        );
        place.PutPng("lib/base.png");
        var scene = place.Put("s/s.mtlx", "<materialx version=\"1.38\"><include href=\"gone/base.mtlx\"/></materialx>");
        var report = Look.TakeClear(scene, place.At("lib"));
        Assert.Equal([ReferenceKind.Document, ReferenceKind.Image], report.References.Select(r => r.Reference.Kind));
        var copy = RelinkedCopy.Write(report, place.At("out"));
        Assert.Empty(copy.Left);
        Assert.Equal(["base.mtlx", "s.mtlx"], place.Files("out"));
        Assert.Contains("href=\"base.mtlx\"", File.ReadAllText(place.At("out/s.mtlx")), StringComparison.Ordinal);
        Assert.All(Look.Muster(place.At("out/s.mtlx"), place.At("lib")).References, r => Assert.Equal(ReferenceState.Present, r.State));
    }

    [Theory]
    [InlineData("tex/a.png", "ABSOLUTE", "present", "")]
    [InlineData("gone/a.png", "ABSOLUTE", "present", "absolute")]
    [InlineData("gone/b.png", "C:\\\\old\\\\b.png", "missing", "")]
    public void The_second_path_of_a_texture_is_tried_after_the_first(string relative, string absolute, string state, string flags)
    {
        place.PutPng("s/tex/a.png");
        place.PutPng("s/kept/a.png", 5);
        var scene = place.Put(
            "s/s.fbx",
            $$"""
            ; FBX 7.4.0 project file
            FBXHeaderExtension: { FBXVersion: 7400 }
            Objects: {
            	Material: 1, "Material::tin", "" { ShadingModel: "phong" }
            	Texture: 2, "Texture::t", "" { FileName: "{{absolute.Replace("ABSOLUTE", place.At("s/kept/a.png"), StringComparison.Ordinal)}}"
            		RelativeFilename: "{{relative}}"
            	}
            }
            Connections: {
            	C: "OP",2,1, "DiffuseColor"
            }
            """
        );
        var reference = Look.Muster(scene).References.Single();
        Assert.Equal((state, flags), (reference.State.Word(), string.Join(' ', reference.Flags.Words())));
        Assert.Equal(new ReferenceUse("tin", "DiffuseColor"), reference.Reference.UsedBy.Single());
    }

    public void Dispose() => place.Dispose();
}
