using System.Numerics;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>
/// The potting bench: 48 pots, each of its own material, in rows as they stand on the shelf; three saucers share one mesh. A single wire is
/// wrong, so that one look stands out among its neighbours.
/// </summary>
internal static class PottingBench
{
    private const string Name = "potting_bench";
    private const string Wrong = "brass_smoke";

    public static DemoScene Scene =>
        new(Name, $"{Name}.gltf", Calls, Own)
        {
            Findings = [new("wiring.role-mismatch", $"{Wrong}, baseColor", "the normal map on the base colour")],
        };

    private static IReadOnlyList<Call> Calls => [.. Kinds.SelectMany(k => k.Maps).Select(m => m.Image).Distinct().Select(Local)];

    private static Call Local(string image) =>
        new(image, $"textures/{image}", $"textures/{image}") { Copies = [new($"arrived/{Name}/textures/{image}")] };

    /// <summary>What a pot is made of, before it gets its colour.</summary>
    private sealed record Kind(string Name, float? Metallic, params (string Input, string Image)[] Maps);

    private static readonly Kind[] Kinds =
    [
        new("glaze", 0),
        new(
            "terracotta",
            null,
            ("baseColorTexture", "terracotta_pot_basecolor.png"),
            ("metallicRoughnessTexture", "terracotta_pot_metallicroughness.png"),
            ("normalTexture", "terracotta_pot_normal.png")
        ),
        new(
            "brass",
            null,
            ("baseColorTexture", "brass_basecolor.png"),
            ("metallicRoughnessTexture", "brass_metallicroughness.png"),
            ("normalTexture", "brass_normal.png")
        ),
        new(
            "verdigris",
            null,
            ("baseColorTexture", "verdigris_basecolor.png"),
            ("metallicRoughnessTexture", "verdigris_metallicroughness.png"),
            ("normalTexture", "verdigris_normal.png")
        ),
        new("moss", 0, ("baseColorTexture", "mossy_floor_basecolor.jpg"), ("normalTexture", "mossy_floor_normal.png")),
        new("tin", 1),
    ];

    /// <summary>Linear colours, each with how rough it is where no map says so.</summary>
    private static readonly (string Name, Vector3 Tint, float Roughness)[] Colours =
    [
        ("cream", new(0.86f, 0.78f, 0.6f), 0.28f),
        ("ochre", new(0.72f, 0.44f, 0.12f), 0.36f),
        ("rust", new(0.56f, 0.19f, 0.08f), 0.52f),
        ("rose", new(0.72f, 0.34f, 0.32f), 0.32f),
        ("sage", new(0.38f, 0.52f, 0.3f), 0.44f),
        ("pond", new(0.14f, 0.42f, 0.44f), 0.22f),
        ("slate", new(0.24f, 0.3f, 0.4f), 0.58f),
        ("smoke", new(0.34f, 0.33f, 0.32f), 0.7f),
    ];

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        var (pot, saucer) = (OrchardMeshes.Pot(), OrchardMeshes.LampBody());
        var materials = new List<DemoMaterial>();
        var parts = new List<DemoPart>();
        for (var k = 0; k < Kinds.Length; k++)
        for (var c = 0; c < Colours.Length; c++)
        {
            var (kind, colour) = (Kinds[k], Colours[c]);
            var name = $"{kind.Name}_{colour.Name}";
            var maps =
                arrived && name == Wrong
                    ? kind.Maps.Select(m => m.Input == "baseColorTexture" ? (m.Input, "brass_normal.png") : m).ToArray()
                    : kind.Maps;
            var isRead = kind.Maps.Any(m => m.Input == "metallicRoughnessTexture");
            materials.Add(
                new(name, maps)
                {
                    // A wash over what a map has; else all of its colour.
                    Tint = kind.Maps.Length > 0 ? Vector3.Lerp(Vector3.One, colour.Tint, 0.35f) : colour.Tint,
                    Metallic = kind.Metallic,
                    Roughness = isRead ? null : MathF.Round(colour.Roughness * (kind.Metallic == 1 ? 0.7f : 1), 3),
                }
            );
            parts.Add(new($"pot_{name}", name, pot, new Vector3((c - 3.5f) * 0.95f, k * 0.95f, 0)));
        }

        parts.Add(new("saucer", "glaze_pond", saucer, new(-2.4f, -0.6f, 0.6f), new(0, -0.6f, 0.6f), new(2.4f, -0.6f, 0.6f)));
        using var author = new GltfAuthor();
        var camera = new DemoCamera("shelf", new(0, 2.6f, 12.5f), new(0, 2.4f, 0), 30);
        var (json, bin) = author.Write(materials, parts, path, bytes, $"{Name}.bin", camera);
        return [($"{Name}.gltf", json), ($"{Name}.bin", bin)];
    }
}
