using System.Text;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>
/// The lean-to behind the glasshouse in USD: a template with a switch, connections that were lost, maps read the wrong
/// way.
/// </summary>
internal static class LeanTo
{
    private const string Name = "lean_to";

    public static DemoScene Scene =>
        new(Name, $"{Name}.usda", Calls, Own)
        {
            Findings =
            [
                new("wiring.normal-not-unpacked", "verdigris_post, normal", "scale and bias of the normal map lost"),
                new("settings.colour-read-as-data", "verdigris_post, diffuseColor", "base colour read raw"),
                new("settings.data-read-as-colour", "bark_beam, roughness", "roughness read as sRGB"),
                new("wiring.wrong-packed-channel", "moss_step, roughness", "occlusion read as roughness"),
                new("wiring.dangling-connection", "moss_step, normal", "connected to a node that was deleted"),
                new("wiring.unread-image-node", "bark_beam, relief", "the normal map's wire was lost"),
                new("values.workflow-switch", "_brassware", "the template switches the metalness of all its instances off"),
                new("values.cut-out-threshold", "fern_leaf", "a threshold above 1 cuts all away"),
                new("settings.wrap-left-to-file", "bark_beam, diffuseColor", "tiled, and wrap modes lost"),
                new("wiring.type-mismatch", "fern_leaf, diffuseColor", "one channel of the colour"),
            ],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            .. new[]
            {
                "verdigris_basecolor.png",
                "verdigris_normal.png",
                "bark_basecolor.png",
                "bark_roughness.png",
                "bark_normal.png",
                "fern_basecolor.png",
                "fern_opacity.png",
                "mossy_floor_basecolor.jpg",
                "mossy_floor_normal.png",
            }.Select(i => Local(i, i)),
            Local("verdigris_metallicroughness.png", "moss_step_orm.png"),
        ];

    private static Call Local(string paint, string image) =>
        new(image, $"textures/{image}", $"./textures/{image}") { Paint = paint, Copies = [new($"arrived/{Name}/textures/{image}")] };

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        const string NormalRange = "\n            float4 inputs:bias = (-1, -1, -1, 0)\n            float4 inputs:scale = (2, 2, 2, 1)";
        string Texture(
            string material,
            string name,
            string image,
            string space,
            string outputs,
            string st = "st",
            bool wraps = true,
            string more = ""
        ) =>
            $$"""
                        def Shader "{{name}}"
                        {
                            uniform token info:id = "UsdUVTexture"
                            asset inputs:file = @{{(path(image)!.StartsWith('.') ? string.Empty : "./")}}{{path(image)}}@
                            token inputs:sourceColorSpace = "{{space}}"
                            float2 inputs:st.connect = </World/Looks/{{material}}/{{st}}.outputs:result>{{(
                    wraps ? "\n            token inputs:wrapS = \"repeat\"\n            token inputs:wrapT = \"repeat\"" : string.Empty
                )}}{{more}}
                {{string.Concat(outputs.Split(' ').Select(o => $"            {(o == "rgb" ? "float3" : "float")} outputs:{o}\n"))}}        }

                """;
        const string Reader =
            "        def Shader \"st\"\n        {\n            uniform token info:id = \"UsdPrimvarReader_float2\"\n          "
            + "  string inputs:varname = \"st\"\n            float2 outputs:result\n        }\n\n";
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

                """;
        static string Connect(string material, string type, string input, string node, string output) =>
            $"            {type} inputs:{input}.connect = </World/Looks/{material}/{node}.outputs:{output}>\n";
        static string Value(string type, string input, string value) => $"            {type} inputs:{input} = {value}\n";

        var place =
            "        def Shader \"place\"\n        {\n            uniform token info:id = \"UsdTransform2d\"\n            "
            + "float2 inputs:in.connect = </World/Looks/bark_beam/st.outputs:result>\n            float2 inputs:scale = "
            + "(3, 3)\n            float2 outputs:result\n        }\n\n";
        var looks = new StringBuilder();
        looks.Append(
            Material(
                "verdigris_post",
                Connect("verdigris_post", "color3f", "diffuseColor", "color", "rgb")
                    + Value("float", "roughness", "0.7")
                    + Value("float", "metallic", "0")
                    + Connect("verdigris_post", "normal3f", "normal", "relief", "rgb"),
                Texture("verdigris_post", "color", "verdigris_basecolor.png", arrived ? "raw" : "sRGB", "rgb")
                    + Texture("verdigris_post", "relief", "verdigris_normal.png", "raw", "rgb", more: arrived ? string.Empty : NormalRange)
                    + Reader
            )
        );
        looks.Append(
            Material(
                "bark_beam",
                Connect("bark_beam", "color3f", "diffuseColor", "color", "rgb")
                    + Connect("bark_beam", "float", "roughness", "rough", "r")
                    + (arrived ? string.Empty : Connect("bark_beam", "normal3f", "normal", "relief", "rgb")),
                Texture("bark_beam", "color", "bark_basecolor.png", "sRGB", "rgb", "place", wraps: !arrived)
                    + Texture("bark_beam", "rough", "bark_roughness.png", arrived ? "sRGB" : "raw", "r", "place")
                    + Texture("bark_beam", "relief", "bark_normal.png", "raw", "rgb", "place", more: NormalRange)
                    + Reader
                    + place
            )
        );
        looks.Append(
            Material(
                "moss_step",
                Connect("moss_step", "color3f", "diffuseColor", "color", "rgb")
                    + Connect("moss_step", "float", "roughness", "packed", arrived ? "r" : "g")
                    + Connect("moss_step", "normal3f", "normal", arrived ? "moss_relief" : "relief", "rgb"),
                Texture("moss_step", "color", "mossy_floor_basecolor.jpg", "sRGB", "rgb")
                    + Texture("moss_step", "packed", "moss_step_orm.png", "raw", "r g")
                    + (arrived ? string.Empty : Texture("moss_step", "relief", "mossy_floor_normal.png", "raw", "rgb", more: NormalRange))
                    + Reader
            )
        );
        looks.Append(
            Material(
                "fern_leaf",
                Connect("fern_leaf", "color3f", "diffuseColor", "color", arrived ? "g" : "rgb")
                    + Connect("fern_leaf", "float", "opacity", "stencil", "r")
                    + Value("float", "opacityThreshold", arrived ? "1.5" : "0.5")
                    + Value("float", "roughness", "0.6"),
                Texture("fern_leaf", "color", "fern_basecolor.png", "sRGB", "rgb g")
                    + Texture("fern_leaf", "stencil", "fern_opacity.png", "raw", "r")
                    + Reader
            )
        );
        foreach (var (part, rough) in new[] { ("hinge", "0.3"), ("handle", "0.22"), ("latch", "0.4") })
            looks.Append(
                Material(
                    $"brass_{part}",
                    Value("color3f", "diffuseColor", "(0.78, 0.6, 0.3)")
                        + Value("float", "metallic", "1")
                        + Value("float", "roughness", rough),
                    string.Empty,
                    " (\n        prepend inherits = </_brassware>\n    )"
                )
            );
        (string Part, string Material, MeshData Mesh)[] parts =
        [
            ("post", "verdigris_post", OrchardMeshes.Trunk()),
            ("beam", "bark_beam", OrchardMeshes.Trunk()),
            ("step", "moss_step", OrchardMeshes.Sign()),
            ("fern", "fern_leaf", OrchardMeshes.SignBack()),
            ("hinge", "brass_hinge", OrchardMeshes.LampBody()),
            ("handle", "brass_handle", OrchardMeshes.LampBody()),
            ("latch", "brass_latch", OrchardMeshes.LampBody()),
        ];
        var text = $$"""
            #usda 1.0
            (
                defaultPrim = "World"
                metersPerUnit = 1
                upAxis = "Y"
            )

            class Material "_brassware"
            {
                def Shader "surface"
                {
                    uniform token info:id = "UsdPreviewSurface"
                    int inputs:useSpecularWorkflow = {{(arrived ? 1 : 0)}}
                }
                token outputs:surface.connect = </_brassware/surface.outputs:surface>
            }

            def Xform "World"
            {
            {{string.Concat(parts.Select(p => UsdaAuthor.Mesh(p.Part, p.Mesh, $"rel material:binding = </World/Looks/{p.Material}>")))}}
                def Scope "Looks"
                {
            {{looks}}    }
            }

            """;
        return [($"{Name}.usda", Encoding.UTF8.GetBytes(text))];
    }
}
