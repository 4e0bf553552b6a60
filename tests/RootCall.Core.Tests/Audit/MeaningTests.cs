using RootCall.Core.Audit;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>What values and wires mean in each format, and what a fix makes of them.</summary>
public sealed class MeaningTests : IDisposable
{
    private readonly Place place = new();

    private Audited Open(Example example) => ExampleTests.Open(place.At("scene"), example);

    /// <summary>An input that reads an image with a scale and a bias.</summary>
    private static Example Scaled(string input, string image, string space, string scale, string bias) =>
        Example.Usda(
            $$"""
            def Shader "surface" {
                uniform token info:id = "UsdPreviewSurface"
                {{input}}.connect = </Looks/tin/map.outputs:rgb>
                token outputs:surface
            }
            def Shader "map" {
                uniform token info:id = "UsdUVTexture"
                asset inputs:file = @textures/{{image}}@
                token inputs:sourceColorSpace = "{{space}}"
                float4 inputs:scale = {{scale}}
                float4 inputs:bias = {{bias}}
                float3 outputs:rgb
            }
            """
        );

    private static string[] Titles(Finding finding) => [.. finding.Fixes.Select(f => f.Title)];

    [Theory]
    [InlineData(1.8, "Set roughness to 1")]
    [InlineData(35, "Set roughness to 0.35, a share of 100", "Set roughness to 0.137, a share of 255")]
    [InlineData(204, "Set roughness to 0.8, a share of 255")]
    public void A_value_on_another_scale_is_offered_as_a_share_of_it(double written, params string[] offered)
    {
        var number = written.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var audited = Open(Example.Gltf($$"""{ "name": "tin", "pbrMetallicRoughness": { "roughnessFactor": {{number}} } }"""));
        Assert.Equal(offered, Titles(Assert.Single(audited.Of("values.beyond-clamp"))));
    }

    [Fact]
    public void A_map_that_is_taken_out_makes_room_for_the_one_that_was_meant()
    {
        var audited = Open(
            Example.Mtl(
                "newmtl tin\nmap_Kd textures/tin_basecolor.png\nnorm textures/tin_normal.png\nmap_Pm textures/tin_roughness.png\n"
            ) with
            {
                Beside = ["textures/tin_metalness.png"],
            }
        );
        var finding = Assert.Single(audited.Of("wiring.role-mismatch"));
        Assert.Equal((Severity.Blocker, true), (finding.Severity, finding.Fixes[0].IsSafe));
        var tin = audited.With(place.At("mended"), finding.Fixes[0].Edits).Scene.Materials.Single();
        Assert.Equal("textures/tin_roughness.png", tin.Input("Pr")!.Maps.Single().Use.Reference.Written);
        Assert.Equal("textures/tin_metalness.png", tin.Input("Pm")!.Maps.Single().Use.Reference.Written);
    }

    [Fact]
    public void A_colour_into_a_scalar_is_written_as_one_channel_in_MaterialX()
    {
        var audited = Open(
            Example.Mtlx(
                """
                <image name="rough" type="color3">
                  <input name="file" type="filename" value="textures/tin_roughness.png"/>
                </image>
                <standard_surface name="SR_tin" type="surfaceshader">
                  <input name="specular_roughness" type="float" nodename="rough"/>
                </standard_surface>
                <surfacematerial name="tin" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_tin"/>
                </surfacematerial>
                """
            )
        );
        var finding = Assert.Single(audited.Of("wiring.colour-into-scalar"));
        var mended = audited.With(place.At("mended"), finding.Fixes[0].Edits);
        FixTests.AssertMended(audited, mended, finding);
        Assert.True(mended.Scene.Materials.Single().Input("specular_roughness")!.Maps.Single().Channel.IsOne());
    }

    [Theory]
    [InlineData("(0, 0, 0, 1)", "(0, 0, 0, 0)", true)]
    [InlineData("(1, 1, 1, 1)", "(0, 0, 0, 0)", false)]
    [InlineData("(0, 0, 0, 1)", "(0.5, 0.5, 0.5, 0)", false)]
    public void A_scale_of_zero_is_black_unless_something_is_added(string scale, string bias, bool told)
    {
        var audited = Open(Scaled("color3f inputs:diffuseColor", "tin_basecolor.png", "sRGB", scale, bias));
        Assert.Equal(told, audited.Of("values.black-tint").Any());
    }

    [Theory]
    [InlineData("(2, 2, 2, 1)", "(-1, -1, -1, 0)", false)]
    [InlineData("(2, -2, 2, 1)", "(-1, 1, -1, 0)", false)]
    [InlineData("(2, -2, 2, 1)", "(-1, -1, -1, 0)", true)]
    public void A_normal_map_may_be_unpacked_with_green_turned(string scale, string bias, bool told)
    {
        var audited = Open(Scaled("normal3f inputs:normal", "tin_normal.png", "raw", scale, bias));
        Assert.Equal(told, audited.Of("wiring.normal-not-unpacked").Any());
    }

    [Theory]
    [InlineData("Opacity", 0, 0, 0, false)]
    [InlineData("Opacity", 0, 1, 1, true)]
    public void An_old_opacity_in_FBX_gives_way_to_what_really_passes(
        string property,
        double opacity,
        double factor,
        double colour,
        bool told
    )
    {
        var text = $$"""
            ; FBX 7.4.0 project file
            FBXHeaderExtension:  {
                FBXHeaderVersion: 1003
                FBXVersion: 7400
            }
            Objects:  {
                Material: 1, "Material::tin", "" {
                    Version: 102
                    ShadingModel: "phong"
                    Properties70:  {
                        P: "{{property}}", "double", "Number", "",{{opacity}}
                        P: "TransparencyFactor", "Number", "", "A",{{factor}}
                        P: "TransparentColor", "Color", "", "A",{{colour}},{{colour}},{{colour}}
                    }
                }
            }
            Connections:  {
            }
            """;
        var audited = Audits.Open(place.Put("tin.fbx", text));
        Assert.Equal(told, audited.Of("values.invisible").Any());
    }

    public void Dispose() => place.Dispose();
}
