using System.Text;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>A tin pear as a package of USD: one file with its images inside.</summary>
internal static class TinPear
{
    private const string Name = "tin_pear";

    public static DemoScene Scene =>
        new(Name, $"{Name}.usdz", Calls, Own)
        {
            Losses = [new("material", "tin_skin", "value", "the value changed") { Input = "roughness" }],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            new("tin_leaf_basecolor.png", "textures/tin_leaf_basecolor.png", "textures/tin_leaf_basecolor.png")
            {
                Carried = true,
                State = "embedded",
            },
        ];

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        var layer = $$"""
            #usda 1.0
            (
                defaultPrim = "Pear"
                metersPerUnit = 1
                upAxis = "Y"
            )

            def Xform "Pear"
            {
            {{UsdaAuthor.Mesh("skin", OrchardMeshes.LampBody(), "rel material:binding = </Pear/tin_skin>")}}
                def Material "tin_skin"
                {
                    token outputs:surface.connect = </Pear/tin_skin/surface.outputs:surface>

                    def Shader "surface"
                    {
                        uniform token info:id = "UsdPreviewSurface"
                        color3f inputs:diffuseColor.connect = </Pear/tin_skin/color.outputs:rgb>
                        float inputs:metallic = 1
                        float inputs:roughness = {{(arrived ? "0.9" : "0.35")}}
                        token outputs:surface
                    }

                    def Shader "color"
                    {
                        uniform token info:id = "UsdUVTexture"
                        asset inputs:file = @textures/tin_leaf_basecolor.png@
                        token inputs:sourceColorSpace = "sRGB"
                        float3 outputs:rgb
                    }
                }
            }

            """;
        using var archive = new MemoryStream();
        UsdzWriter.Write(
            archive,
            [($"{Name}.usda", Encoding.UTF8.GetBytes(layer)), ("textures/tin_leaf_basecolor.png", bytes("tin_leaf_basecolor.png"))]
        );
        return [($"{Name}.usdz", archive.ToArray())];
    }
}
