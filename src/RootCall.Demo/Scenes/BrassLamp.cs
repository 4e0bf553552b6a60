using System.Numerics;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>The brass gardener's lamp: a .glb that carries half of its images and calls for the rest. All of them can be found.</summary>
internal static class BrassLamp
{
    private const string Name = "brass_lamp";

    public static DemoScene Scene => new(Name, $"{Name}.glb", Calls, Own);

    private static IReadOnlyList<Call> Calls =>
        [
            new("lamp_glass_basecolor.png", "lamp_glass_basecolor", "lamp_glass_basecolor") { Carried = true, State = "embedded" },
            new("lamp_glass_emissive.png", "lamp_glass_emissive", "lamp_glass_emissive") { Carried = true, State = "embedded" },
            Shared("brass_basecolor.png"),
            Shared("brass_normal.png"),
            new(
                "brass_metallicroughness.png",
                "textures/brass_metallicroughness_4k.png",
                "//stow04/lib/metals/brass_metallicroughness_4k.png"
            )
            {
                Copies = [new("library/metals/brass_metallicroughness_2k.png")],
                State = "elsewhere",
                Flags = ["absolute", "foreign-path", "other-resolution"],
                Fault = "moved, only another resolution is there",
            },
            new("verdigris_basecolor.png", "textures/verdigris_basecolor.png", "textures/verdigris_basecolor.png")
            {
                Copies = [new($"arrived/{Name}/textures/verdigris_basecolor.png")],
            },
        ];

    private static Call Shared(string image) =>
        new(image, $"textures/{image}", $"//stow04/lib/metals/{image}")
        {
            Copies = [new($"library/metals/{image}")],
            State = "elsewhere",
            Flags = ["absolute", "foreign-path"],
            Fault = "moved, called from a share",
        };

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        DemoMaterial[] materials =
        [
            new(
                "brass_gardener",
                ("baseColorTexture", "brass_basecolor.png"),
                ("metallicRoughnessTexture", "brass_metallicroughness.png"),
                ("normalTexture", "brass_normal.png")
            ),
            new("lamp_glass", ("baseColorTexture", "lamp_glass_basecolor.png"), ("emissiveTexture", "lamp_glass_emissive.png"))
            {
                Emission = 1,
            },
            new("verdigris_hook", ("baseColorTexture", "verdigris_basecolor.png")),
        ];
        DemoPart[] parts =
        [
            new("lamp_body", "brass_gardener", OrchardMeshes.LampBody(), Vector3.Zero),
            new("lamp_glass", "lamp_glass", OrchardMeshes.LampGlass(), Vector3.Zero),
            new("hook", "verdigris_hook", OrchardMeshes.Chain(), new Vector3(0, 0.3f, 0)),
        ];
        using var author = new GltfAuthor();
        var (json, bin) = author.Write(
            materials,
            parts,
            path,
            bytes,
            null,
            new DemoCamera("lamp", new(0.5f, 0.5f, 1.7f), new(0, 0.36f, 0), 30)
        );
        return [($"{Name}.glb", GltfAuthor.Glb(json, bin))];
    }
}
