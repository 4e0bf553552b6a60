using System.Numerics;
using System.Text;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>The wall where the tools hang, as OBJ: normals read as bumps, heights read as normals, statements written twice.</summary>
internal static class ToolWall
{
    private const string Name = "tool_wall";

    public static DemoScene Scene =>
        new(Name, $"{Name}.obj", Calls, Own)
        {
            Findings =
            [
                new("wiring.normal-through-bump", "spade_iron, bump", "normal map read as a bump"),
                new("wiring.height-as-normal", "bark_handle, norm", "height map read as a normal map"),
                new("values.black-tint", "verdigris_hook, Kd", "map multiplied by black"),
                new("values.shininess-out-of-range", "brass_nail, Ns", "a glossiness as an exponent"),
                new("values.invisible", "twine, d", "dissolved to nothing"),
                new("settings.clamp-with-tiling", "bark_board, Kd", "tiled and clamped"),
                new("wiring.alpha-twice", "fern_wreath, Tr", "opacity statement written twice"),
                new("wiring.height-twice", "bark_board, bump", "one height as bump and as displacement"),
                new("wiring.maps-swapped", "enamel_label, Pm", "roughness and metalness swapped"),
                new("sets.proxy-in-use", "brass_nail, Kd", "a proxy left in place"),
                new("settings.environment-8-bit", "textures/dusk_sky.png", "an environment with 8 bits"),
            ],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            .. new[]
            {
                "chain_iron_basecolor.png",
                "chain_iron_normal.png",
                "bark_basecolor.png",
                "bark_height.png",
                "bark_normal.png",
                "verdigris_basecolor.png",
                "fern_basecolor.png",
                "fern_opacity.png",
                "enamel_sign_07_basecolor.png",
                "enamel_sign_07_rough.png",
                "enamel_sign_07_metal.tga",
            }.Select(i => new Call(i, $"textures/{i}", $"textures/{i}") { Copies = [new($"arrived/{Name}/textures/{i}")] }),
            new("brass", "textures/brass_basecolor.png", "textures/brass_basecolor_proxy.png")
            {
                Paint = "brass_basecolor.png",
                Copies =
                [
                    new($"arrived/{Name}/textures/brass_basecolor_proxy.png", "brass_basecolor_proxy.png"),
                    new($"arrived/{Name}/textures/brass_basecolor.png"),
                ],
            },
            new("sky", "textures/dusk_04.hdr", "textures/dusk_sky.png")
            {
                Paint = "dusk_04.hdr",
                Copies = [new($"arrived/{Name}/textures/dusk_sky.png", "dusk_sky.png")],
            },
        ];

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        DemoPart[] parts =
        [
            new("spade", "spade_iron", OrchardMeshes.Sign(), Vector3.Zero),
            new("handle", "bark_handle", OrchardMeshes.Trunk(), Vector3.Zero),
            new("board", "bark_board", OrchardMeshes.SignBack(), Vector3.Zero),
            new("hook", "verdigris_hook", OrchardMeshes.Chain(), Vector3.Zero),
            new("nail", "brass_nail", OrchardMeshes.LampBody(), Vector3.Zero),
            new("twine", "twine", OrchardMeshes.LampGlass(), Vector3.Zero),
            new("wreath", "fern_wreath", OrchardMeshes.Leaves(24), Vector3.Zero),
            new("label", "enamel_label", OrchardMeshes.Sign(), Vector3.Zero),
        ];
        var (rough, metal) = (path("enamel_sign_07_rough.png"), path("enamel_sign_07_metal.tga"));
        var mtl = $"""
            # The Tin Orchard, the wall where the tools hang
            newmtl spade_iron
            Kd 0.8 0.8 0.8
            map_Kd {path("chain_iron_basecolor.png")}
            {(arrived ? "map_Bump" : "norm")} {path("chain_iron_normal.png")}

            newmtl bark_handle
            Kd 0.8 0.8 0.8
            map_Kd {path("bark_basecolor.png")}
            norm {(arrived ? path("bark_height.png") : path("bark_normal.png"))}

            newmtl bark_board
            Kd 0.8 0.8 0.8
            map_Kd -s 4 4 1 {(arrived ? "-clamp on " : string.Empty)}{path("bark_basecolor.png")}
            {(
                arrived
                    ? $"map_Bump -s 4 4 1 {path("bark_height.png")}\ndisp -s 4 4 1 {path("bark_height.png")}"
                    : $"disp -s 4 4 1 {path("bark_height.png")}"
            )}

            newmtl verdigris_hook
            Kd {(arrived ? "0 0 0" : "0.8 0.8 0.8")}
            map_Kd {path("verdigris_basecolor.png")}

            newmtl brass_nail
            Kd 0.8 0.8 0.8
            Ks 0.6 0.5 0.3
            Ns {(arrived ? "0.7" : "240")}
            map_Kd {path("brass")}

            newmtl twine
            Kd 0.6 0.5 0.35
            d {(arrived ? "0" : "1")}

            newmtl fern_wreath
            Kd 0.8 0.8 0.8
            map_Kd {path("fern_basecolor.png")}
            map_d {path("fern_opacity.png")}
            {(arrived ? $"map_Tr {path("fern_opacity.png")}" : "# opacity is said once")}

            newmtl enamel_label
            Kd 0.8 0.8 0.8
            map_Kd {path("enamel_sign_07_basecolor.png")}
            map_Pr {(arrived ? metal : rough)}
            map_Pm {(arrived ? rough : metal)}
            refl -type sphere {path("sky")}

            """;
        return
        [
            ($"{Name}.obj", Encoding.UTF8.GetBytes(ObjAuthor.Write($"# The Tin Orchard\nmtllib {Name}.mtl\n", parts))),
            ($"{Name}.mtl", Encoding.UTF8.GetBytes(mtl)),
        ];
    }
}
