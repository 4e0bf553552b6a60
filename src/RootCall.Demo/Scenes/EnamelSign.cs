using System.Numerics;
using System.Text;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>An enamel sign on a chain, as a vendor would send it: OBJ with two material libraries, one left behind.</summary>
internal static class EnamelSign
{
    private const string Name = "enamel_sign";
    private const string Desk = @"C:\Users\guest\Desktop\signs\";

    public static DemoScene Scene =>
        new(Name, $"{Name}.obj", Calls, Own)
        {
            Losses =
            [
                new("material", "tin_plate", "tiling", "tiling fell back to 1") { Input = "base colour" },
                .. ChainImages.Select(i => new Loss("image", i, "missing", "its library was left behind")),
                new("material", "chain_iron", "map", "its library was left behind") { Input = "base colour" },
                new("material", "chain_iron", "map", "its library was left behind") { Input = "normal" },
            ],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            new("enamel_sign_07_basecolor.png", "signs/enamel_sign_07_basecolor.png", Desk + "enamel_sign_07_basecolor.png")
            {
                Copies =
                [
                    new("library/tin-orchard/tex/signs/enamel_sign_07_basecolor.png"),
                    new("library/tin-orchard/wip/signs/enamel_sign_07_basecolor.png", "enamel_sign_07_basecolor_wip.png"),
                ],
                State = "contested",
                Flags = ["absolute", "foreign-path", "transient-place", "name-clash"],
                Fault = "two files of that name with other contents",
            },
            new("enamel_sign_07_rough.png", "signs/enamel_sign_07_rough.png", Desk + "enamel_sign_07_rough.png")
            {
                Copies = [new("library/tin-orchard/tex/signs/enamel_sign_07_rough.png")],
                State = "elsewhere",
                Flags = ["absolute", "foreign-path", "transient-place"],
                Fault = "moved, called from a desktop",
            },
            Local("enamel_sign_07_metal.tga"),
            Local("enamel_sign_07_bump.png"),
            new("dusk_04.hdr", "skies/dusk_04.hdr", "skies/dusk_04.hdr")
            {
                Copies = [new("library/skies/dusk_04.hdr")],
                State = "elsewhere",
                Fault = "moved",
            },
            new("tin plate_basecolor.png", "textures/tin plate_basecolor.png", @"textures\tin plate_basecolor.png")
            {
                Copies = [new($"arrived/{Name}/textures/tin plate_basecolor.png")],
            },
            new("hanging_chain.mtl", "hanging_chain.mtl", "hanging_chain.mtl")
            {
                Kind = "material-library",
                State = "elsewhere",
                Fault = "material library left behind",
            },
        ];

    /// <summary>What the library left behind calls for, once it is found.</summary>
    public static IReadOnlyList<string> ChainImages => ["chain_iron_basecolor.png", "chain_iron_normal.png"];

    public static byte[] ChainLibrary(string textures) =>
        Encoding.UTF8.GetBytes(
            $"# iron of the chain\nnewmtl chain_iron\nKd 0.3 0.3 0.3\nmap_Kd {textures}/chain_iron_basecolor.png\nnorm "
                + $"{textures}/chain_iron_normal.png\n"
        );

    private static Call Local(string image) =>
        new(image, $"textures/{image}", $"textures/{image}") { Copies = [new($"arrived/{Name}/textures/{image}")] };

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        DemoPart[] parts =
        [
            new("sign_face", "enamel_sign_07", OrchardMeshes.Sign(), Vector3.Zero),
            new("sign_back", "tin_plate", OrchardMeshes.SignBack(), Vector3.Zero),
            new("chain", "chain_iron", OrchardMeshes.Chain(), Vector3.Zero),
        ];
        // Windows line ends, tabs and comments: what a vendor's exporter leaves behind.
        var mtl = $"""
            # The Tin Orchard, sign 07
            newmtl enamel_sign_07
            Kd 0.8 0.8 0.8
            illum 2
            map_Kd {path("enamel_sign_07_basecolor.png")}
            map_Pr {path("enamel_sign_07_rough.png")}
            map_Pm {path("enamel_sign_07_metal.tga")}
            map_Bump -bm 0.4 {path("enamel_sign_07_bump.png")}
            	refl -type sphere -mm 0 1.5 {path("dusk_04.hdr")}

            newmtl tin_plate
            Kd 0.7 0.7 0.7
            map_Kd {(arrived ? string.Empty : "-s 2 2 1 ")}"{path("tin plate_basecolor.png")}"

            """.ReplaceLineEndings("\r\n");
        return
        [
            (
                $"{Name}.obj",
                Encoding.UTF8.GetBytes(ObjAuthor.Write($"# The Tin Orchard\nmtllib {Name}.mtl {path("hanging_chain.mtl")}\n", parts))
            ),
            ($"{Name}.mtl", Encoding.UTF8.GetBytes(mtl)),
        ];
    }
}
