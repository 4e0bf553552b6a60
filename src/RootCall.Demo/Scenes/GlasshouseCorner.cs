using System.Numerics;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>A corner of the glasshouse: tin trees in terracotta on a mossy floor. A .gltf with separate textures.</summary>
internal static class GlasshouseCorner
{
    private const string Name = "glasshouse_corner";
    private const string Arrived = $"arrived/{Name}";

    public static DemoScene Scene => new(Name, $"{Name}.gltf", Calls, Own);

    private static IReadOnlyList<Call> Calls =>
        [
            Moved("tin_leaf_basecolor.png"),
            Moved("tin_leaf_normal.png"),
            Moved("tin_leaf_metallicroughness.png"),
            Stowed("verdigris_basecolor.png"),
            Stowed("verdigris_normal.png"),
            Stowed("verdigris_metallicroughness.png"),
            new("terracotta_pot_basecolor.png", "textures/terracotta_pot_basecolor.png", "textures/terracotta_pot_basecolor.png")
            {
                Copies = [new($"{Arrived}/textures/terracotta_pot_basecolor.png")],
            },
            new("terracotta_pot_normal.png", "textures/terracotta_pot_normal.png", "textures/Terracotta_Pot_Normal.png")
            {
                Copies = [new($"{Arrived}/textures/terracotta_pot_normal.png")],
                State = "elsewhere",
                Flags = ["case-differs"],
                Fault = "wrong case",
            },
            new(
                "terracotta_pot_metallicroughness.png",
                "textures/terracotta_pot_metallicroughness.png",
                "textures/terracotta_pot_metallicroughness.png"
            )
            {
                Copies = [new($"{Arrived}/textures/terracotta_pot_metallicroughness.png", Damage: b => b[..(b.Length * 6 / 10)])],
                State = "damaged",
                Fault = "truncated PNG",
            },
            new("terracotta_pot_occlusion.png", "textures/terracotta_pot_occlusion.png", "textures/terracotta_pot_occlusion.png")
            {
                State = "missing",
                Fault = "deleted",
            },
            new("mossy_floor_basecolor", "textures/mossy_floor_basecolor.jpg", "textures/mossy_floor_basecolor.png")
            {
                Paint = "mossy_floor_basecolor.jpg",
                Copies = [new($"{Arrived}/textures/mossy_floor_basecolor.png")],
                State = "damaged",
                Fault = "JPEG named .png",
            },
            new("mossy_floor_normal.png", "textures/mossy_floor_normal.png", "/home/guest/Downloads/mossy_floor_normal.png")
            {
                Copies = [new("library/tin-orchard/tex/mossy_floor_normal.png")],
                State = "elsewhere",
                Flags = ["absolute", "transient-place"],
                Fault = "absolute path into a downloads folder",
            },
            new("mossy_floor_occlusion.png", "textures/mossy_floor_occlusion.png", "textures/mossy_floor_occlusion.png")
            {
                Copies = [new($"{Arrived}/textures/mossy_floor_occlusion.png")],
                Flags = ["duplicate"],
                Fault = "same contents under two names",
            },
            new("mossy_floor_orm", "textures/mossy_floor_occlusion.png", "textures/mossy_floor_orm.png")
            {
                Paint = "mossy_floor_occlusion.png",
                Copies = [new($"{Arrived}/textures/mossy_floor_orm.png")],
                Flags = ["duplicate"],
                Fault = "same contents under two names",
            },
            new("noise_broad.png", "textures/noise_broad.png", "textures/noise.png")
            {
                Copies = [new($"{Arrived}/textures/noise.png")],
                Flags = ["name-clash"],
                Fault = "same name, other contents",
            },
            new("noise_fine.png", "detail maps/noise_fine.png", "detail maps/noise.png")
            {
                Copies = [new($"{Arrived}/detail maps/noise.png")],
                Flags = ["name-clash"],
                Fault = "same name, other contents",
            },
            new("glaze_glow", "textures/glaze_glow.png", "https://textures.example/glaze_glow.png")
            {
                Paint = "lamp_glass_emissive.png",
                State = "missing",
                Flags = ["remote"],
                Fault = "network address",
            },
            new("glaze_normal", "textures/glaze_normal.png", "E:/scans/glaze/glaze_normal.png")
            {
                Paint = "terracotta_pot_normal.png",
                State = "missing",
                Flags = ["absolute", "foreign-path"],
                Fault = "deleted, called from another system's drive",
            },
            new("glaze_mr", "textures/glaze_metallicroughness.png", "/mnt/vault/glaze/glaze_metallicroughness.png")
            {
                Paint = "terracotta_pot_metallicroughness.png",
                State = "outside",
                Flags = ["absolute"],
                Fault = "outside every root",
            },
        ];

    private static Call Moved(string image) =>
        new(image, $"textures/{image}", $"D:/jobs/2231/tex/{image}")
        {
            Copies = [new($"library/tin-orchard/tex/{image}")],
            State = "elsewhere",
            Flags = ["absolute", "foreign-path"],
            Fault = "moved, called from another system's drive",
        };

    private static Call Stowed(string image) =>
        new(image, $"textures/{image}", $"../../../stow/metals/{image}")
        {
            Copies = [new($"library/metals/{image}")],
            State = "elsewhere",
            Fault = "moved, the path climbs out of the delivery",
        };

    private static readonly DemoCamera Corner = new("corner", new(1.9f, 0.7f, 4.9f), new(-0.1f, 1, 0), 34),
        Saucer = new("saucer", new(-0.9f, 0.7f, 3.6f), new(-0.1f, 0.35f, 1.4f), 34);

    private static readonly DemoLamp[] Lamps =
    [
        new("evening_sun", "directional", new(-3, 2.2f, 3.5f), Vector3.Zero, new(1, 0.72f, 0.42f), 9),
        new("work_lamp", "point", new(1.5f, 1.2f, 2.2f), Vector3.Zero, new(1, 0.85f, 0.62f), 4),
        new("sky_panes", "directional", new(1, 4, -1), Vector3.Zero, new(0.45f, 0.6f, 1), 1.6f),
    ];

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        DemoMaterial[] materials =
        [
            new(
                "tin_leaf",
                ("baseColorTexture", "tin_leaf_basecolor.png"),
                ("metallicRoughnessTexture", "tin_leaf_metallicroughness.png"),
                ("normalTexture", "tin_leaf_normal.png")
            )
            {
                CutOut = true,
            },
            new(
                "verdigris_rib",
                ("baseColorTexture", "verdigris_basecolor.png"),
                ("metallicRoughnessTexture", "verdigris_metallicroughness.png"),
                ("normalTexture", "verdigris_normal.png")
            ),
            new(
                "terracotta_pot",
                ("baseColorTexture", "terracotta_pot_basecolor.png"),
                ("metallicRoughnessTexture", "terracotta_pot_metallicroughness.png"),
                ("normalTexture", "terracotta_pot_normal.png"),
                ("occlusionTexture", "terracotta_pot_occlusion.png")
            ),
            new(
                "mossy_floor",
                ("baseColorTexture", "mossy_floor_basecolor"),
                ("metallicRoughnessTexture", "mossy_floor_orm"),
                ("normalTexture", "mossy_floor_normal.png"),
                ("occlusionTexture", "mossy_floor_occlusion.png")
            ),
            new(
                "glazed_pot",
                ("baseColorTexture", "noise_broad.png"),
                ("metallicRoughnessTexture", "glaze_mr"),
                ("normalTexture", "glaze_normal"),
                ("occlusionTexture", "noise_fine.png"),
                ("emissiveTexture", "glaze_glow")
            )
            {
                Emission = 0.1f,
            },
        ];
        Vector3[] pots = [new(-1.2f, 0, -0.6f), new(1.1f, 0, -0.9f), new(0.2f, 0, 1)];
        DemoPart[] parts =
        [
            new("floor", "mossy_floor", OrchardMeshes.Floor(), Vector3.Zero),
            new("pot", "terracotta_pot", OrchardMeshes.Pot(), pots),
            new("trunk", "verdigris_rib", OrchardMeshes.Trunk(), pots),
            new("crown", "tin_leaf", OrchardMeshes.Leaves(140), pots),
            new("saucer_pot", "glazed_pot", OrchardMeshes.Pot(), new Vector3(-0.4f, 0, 1.9f)),
        ];
        using var author = new GltfAuthor { Lamps = Lamps };
        var (json, bin) = author.Write(materials, parts, id => Uri(path(id)!), bytes, $"{Name}.bin", Corner, Saucer);
        return [($"{Name}.gltf", json), ($"{Name}.bin", bin)];
    }

    // As exporters do: only a space is encoded, drives and addresses go through as they are.
    private static string Uri(string path) => path.Replace(" ", "%20", StringComparison.Ordinal);
}
