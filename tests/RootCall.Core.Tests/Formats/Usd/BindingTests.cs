using RootCall.Testing;

namespace RootCall.Core.Tests.Formats.Usd;

/// <summary>Material binding as the OpenUSD documentation of UsdShadeMaterialBindingAPI and UsdCollectionAPI describes it.</summary>
public sealed class BindingTests : IDisposable
{
    private readonly Place place = new();

    [Theory]
    [InlineData("rel material:binding = </m/a>", "", "a")]
    [InlineData("rel material:binding = </m/a>", "rel material:binding = </m/b>", "b")]
    [InlineData("rel material:binding = </m/a> ( bindMaterialAs = \"strongerThanDescendants\" )", "rel material:binding = </m/b>", "a")]
    [InlineData("rel material:binding:preview = </m/a>", "", "a")]
    [InlineData("rel material:binding:preview = </m/a>\nrel material:binding = </m/b>", "", "b")]
    [InlineData("rel material:binding:full = </m/a>\nrel material:binding = </m/b>", "", "a")]
    [InlineData("rel material:binding = </m/gone>", "", "gone")]
    [InlineData("", "rel material:binding = None", "")]
    [InlineData("rel material:binding:collection:c = [</w.collection:c>, </m/a>]\nrel collection:c:includes = </w/x>", "", "a")]
    [InlineData(
        "rel material:binding:collection:c = [</w.collection:c>, </m/a>]\nrel collection:c:includes = </w/x>",
        "rel material:binding = </m/b>",
        "b"
    )]
    [InlineData(
        "rel material:binding:collection:c = [</w.collection:c>, </m/a>]\nrel collection:c:includes = </w>\nrel "
            + "collection:c:excludes = </w/x>",
        "",
        ""
    )]
    [InlineData(
        "rel material:binding:collection:c = [</w.collection:c>, </m/a>]\nrel collection:c:includes = [</w>, "
            + "</w/x/mesh>]\nrel collection:c:excludes = </w/x>",
        "",
        "a"
    )]
    [InlineData(
        "rel material:binding:collection:c = [</w.collection:c>, </m/a>]\nrel collection:c:includes = </w/x>\nuniform token "
            + "collection:c:expansionRule = \"explicitOnly\"",
        "",
        ""
    )]
    [InlineData("rel material:binding:collection:c = [</w.collection:c>, </m/a>]\nuniform bool collection:c:includeRoot = 1", "", "a")]
    [InlineData(
        "rel material:binding = </m/b>\nrel material:binding:collection:c = [</w.collection:c>, </m/a>]\nrel "
            + "collection:c:includes = </w/x>",
        "",
        "a"
    )]
    public void The_nearest_binding_holds_unless_one_above_is_stronger(string above, string below, string material)
    {
        var scene = Look.Read(
            place.Put(
                "s.usda",
                $$"""
                #usda 1.0
                def Xform "w" {
                {{above}}
                    def Xform "x" {
                        def Mesh "mesh" {
                            int[] faceVertexCounts = [3]
                            {{below}}
                        }
                    }
                }
                def "m" { def Material "a" {} def Material "b" {} }
                """
            )
        );
        Assert.Empty(scene.Notes);
        Assert.Equal(material, scene.Meshes.Single().Parts.Single().Material);
    }

    [Fact]
    public void A_binding_inside_a_referenced_asset_means_the_asset_s_own_material()
    {
        place.Put(
            "pot.usda",
            "#usda 1.0\n( defaultPrim = \"P\" )\ndef Xform \"P\" { rel material:binding = </P/tin> def Mesh \"m\" { int[] "
                + "faceVertexCounts = [3] } def Material \"tin\" {} }"
        );
        var scene = Look.Read(
            place.Put(
                "s.usda",
                """
                #usda 1.0
                def "one" ( references = @./pot.usda@ ) {}
                def "two" ( references = @./pot.usda@ ) { rel material:binding = </shared> }
                def Material "shared" {}
                """
            )
        );
        Assert.Equal(["tin", "shared"], scene.Meshes.Select(m => m.Parts[0].Material));
        Assert.Equal(["/one/tin", "/two/tin", "/shared"], scene.Materials.Select(m => m.Id));
    }

    public void Dispose() => place.Dispose();
}
