using System.Text;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>
/// A watering can in USD: text layers, a class that materials inherit from, a variant set. Half of its look was lost on
/// the way.
/// </summary>
internal static class WateringCan
{
    private const string Name = "watering_can";
    private const string Arrived = $"arrived/{Name}";

    public static DemoScene Scene =>
        new(Name, $"{Name}.usda", Calls, Own)
        {
            Losses =
            [
                new("scene", $"{Name}.usda", "unit", "metres became centimetres"),
                new("scene", $"{Name}.usda", "bounding box", "metres became centimetres"),
                new("image", "brass_normal.png", "missing", "normal map did not come along"),
                new("material", "brass_spout", "map", "normal map did not come along") { Input = "normal" },
                new("material", "brass_spout", "value", "the value changed with it") { Input = "coat" },
                new("material", "tin_body", "tiling", "tiling fell back to 1") { Input = "base colour" },
                new("material", "tin_body", "input", "roughness map landed in metallic") { Input = "roughness" },
                new("material", "tin_body", "colour space", "normal map read as colour") { Input = "normal" },
                new("mesh", "handle", "assignment", "another material is assigned"),
            ],
            Findings =
            [
                new("wiring.role-mismatch", "tin_body, metallic", "roughness map landed in metallic"),
                new("settings.data-read-as-colour", "tin_body, normal", "normal map read as colour"),
            ],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            new("brass_normal.png", "textures/brass_normal.png", string.Empty) { LeftBehind = true },
            Local("tin_leaf_basecolor.png"),
            Local("tin_leaf_normal.png"),
            Local("verdigris_basecolor.png"),
            new("enamel_sign_07_rough.png", "textures/enamel_sign_07_rough.png", "./textures/enamel_sign_07_rough.png")
            {
                Copies = [new($"{Arrived}/textures/enamel_sign_07_rough.png")],
            },
            new("brass_basecolor.png", "textures/brass_basecolor.png", "S:/lib/metals/brass_basecolor.png")
            {
                Copies = [new("library/metals/brass_basecolor.png")],
                State = "elsewhere",
                Flags = ["absolute", "foreign-path"],
                Fault = "moved, called from another system's drive",
            },
            new("dusk_04.hdr", "skies/dusk_04.hdr", "./skies/dusk_04.hdr")
            {
                Copies = [new("library/skies/dusk_04.hdr")],
                State = "elsewhere",
                Fault = "moved",
            },
        ];

    private static Call Local(string image) =>
        new(image, $"textures/{image}", $"./textures/{image}") { Copies = [new($"{Arrived}/textures/{image}")] };

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        static string Asset(string path) => path.StartsWith('.') || path.Contains(':', StringComparison.Ordinal) ? path : "./" + path;
        string Texture(string name, string image, string space, string channel, string st = "st", string more = "") =>
            $$"""
                        def Shader "{{name}}"
                        {
                            uniform token info:id = "UsdUVTexture"
                            asset inputs:file = @{{Asset(image)}}@
                            token inputs:sourceColorSpace = "{{space}}"
                            float2 inputs:st.connect = <../{{st}}.outputs:result>
                            token inputs:wrapS = "repeat"
                            token inputs:wrapT = "repeat"{{more}}
                            {{(channel == "rgb" ? "float3 outputs:rgb" : $"float outputs:{channel}")}}
                        }

                """.Replace("<../", "<MATERIAL/", StringComparison.Ordinal);
        const string NormalRange = "\n            float4 inputs:bias = (-1, -1, -1, 0)\n            float4 inputs:scale = (2, 2, 2, 1)";
        var reader = """
                    def Shader "st"
                    {
                        uniform token info:id = "UsdPrimvarReader_float2"
                        string inputs:varname = "st"
                        float2 outputs:result
                    }

            """;
        string Place(double tiling) =>
            $$"""
                        def Shader "place"
                        {
                            uniform token info:id = "UsdTransform2d"
                            float2 inputs:in.connect = <MATERIAL/st.outputs:result>
                            float2 inputs:scale = ({{tiling}}, {{tiling}})
                            float2 outputs:result
                        }

                """;
        string Material(string name, string inputs, string nodes, string arc = "") =>
            $$"""
                    def Material "{{name}}"{{arc}}
                    {
                        token outputs:surface.connect = </World/Looks/{{name}}/surface.outputs:surface>

                        def Shader "surface"
                        {
                            uniform token info:id = "UsdPreviewSurface"
                {{inputs}}            token outputs:surface
                        }

                {{nodes}}    }

                """.Replace("MATERIAL", $"/World/Looks/{name}", StringComparison.Ordinal);
        static string Connect(string type, string input, string node, string output) =>
            $"            {type} inputs:{input}.connect = <MATERIAL/{node}.outputs:{output}>\n";

        var tin = Material(
            "tin_body",
            Connect("color3f", "diffuseColor", "color", "rgb")
                + (
                    arrived
                        ? Connect("float", "metallic", "rough", "r") + "            float inputs:roughness = 0.5\n"
                        : Connect("float", "roughness", "rough", "r") + "            float inputs:metallic = 1\n"
                )
                + Connect("normal3f", "normal", "normal", "rgb"),
            Texture("color", path("tin_leaf_basecolor.png")!, "sRGB", "rgb", "place")
                + Texture("rough", path("enamel_sign_07_rough.png")!, "raw", "r")
                + Texture("normal", path("tin_leaf_normal.png")!, arrived ? "sRGB" : "raw", "rgb", "st", NormalRange)
                + reader
                + Place(arrived ? 1 : 3)
        );
        var brass = Material(
            "brass_spout",
            Connect("color3f", "diffuseColor", "color", "rgb")
                + $"            float inputs:clearcoat = {(arrived ? "0.1" : "0.6")}\n            float inputs:metallic = 1\n "
                + $"           float inputs:roughness = 0.3\n"
                + (arrived ? string.Empty : Connect("normal3f", "normal", "normal", "rgb")),
            Texture("color", path("brass_basecolor.png")!, "sRGB", "rgb")
                + (arrived ? string.Empty : Texture("normal", "textures/brass_normal.png", "raw", "rgb", "st", NormalRange))
                + reader
        );
        var handle = Material(
            "verdigris_handle",
            Connect("color3f", "diffuseColor", "color", "rgb"),
            Texture("color", path("verdigris_basecolor.png")!, "sRGB", "rgb") + reader,
            " (\n        prepend inherits = </_look_aged>\n    )"
        );
        var looks = $$"""
            #usda 1.0
            (
                "Looks of the watering can. The aged ones share a class."
                defaultPrim = "World"
            )

            class Material "_look_aged"
            {
                def Shader "surface"
                {
                    float inputs:roughness = 0.62
                    float inputs:metallic = 0.2
                }
            }

            over "World"
            {
                def Scope "Looks"
                {
            {{tin}}{{brass}}{{handle}}    }
            }

            """;
        var scene = $$"""
            #usda 1.0
            (
                defaultPrim = "World"
                metersPerUnit = {{(arrived ? "0.01" : "1")}}
                subLayers = [
                    @./{{Name}}_looks.usda@
                ]
                upAxis = "Y"
            )

            def Xform "World" (
                variants = {
                    string patina = "fresh"
                }
                prepend variantSets = "patina"
            )
            {
            {{UsdaAuthor.Mesh("body", OrchardMeshes.Pot(), "rel material:binding = </World/Looks/tin_body>")}}
            {{UsdaAuthor.Mesh("spout", OrchardMeshes.LampGlass(), "rel material:binding = </World/Looks/brass_spout>")}}
            {{UsdaAuthor.Mesh(
                "handle",
                OrchardMeshes.Chain(),
                $"rel material:binding = </World/Looks/{(arrived ? "brass_spout" : "verdigris_handle")}>"
            )}}
                def DomeLight "dusk"
                {
                    asset inputs:texture:file = @{{Asset(path("dusk_04.hdr")!)}}@
                }

                variantSet "patina" = {
                    "aged" {
                        over "Looks"
                        {
                            over "tin_body"
                            {
                                over "surface"
                                {
                                    color3f inputs:emissiveColor = (0, 0, 0)
                                    float inputs:clearcoat = 0
                                }
                            }
                        }
                    }
                    "fresh" {
                        over "Looks"
                        {
                            over "tin_body"
                            {
                                over "surface"
                                {
                                    float inputs:clearcoat = 0.4
                                }
                            }
                        }
                    }
                }
            }

            """;
        return [($"{Name}.usda", Encoding.UTF8.GetBytes(scene)), ($"{Name}_looks.usda", Encoding.UTF8.GetBytes(looks))];
    }
}
