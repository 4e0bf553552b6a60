using System.Numerics;
using System.Text;
using System.Text.Json.Nodes;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>The brass gardener with his lamp and his leaves: a .gltf whose materials were set by somebody in a hurry.</summary>
internal static class BrassGardener
{
    private const string Name = "brass_gardener";

    public static DemoScene Scene =>
        new(Name, $"{Name}.gltf", Calls, Own)
        {
            Findings =
            [
                new("values.opaque-with-alpha", "tin_leaf", "the cut-out was switched off"),
                new("wiring.emission-zero", "lamp_glass, emissive", "emission factor left at zero"),
                new("settings.normal-scale", "gardener_brass, normal", "normal scale at zero"),
                new("settings.uv-set-absent", "apron_terracotta", "second UV set, which no mesh carries"),
                new("assignment.no-material", "hat", "no material assigned"),
                new("values.black-tint", "boots_iron, baseColor", "base colour factor black"),
                new("values.invisible", "ghost_sash, alpha", "blended with an alpha of zero"),
                new("values.beyond-clamp", "verdigris_belt, roughness", "roughness of 1.7"),
                new("values.self-lit", "moss_beard, emissive", "base colour map glows"),
                new("wiring.name-and-values-differ", "verdigris_belt, normal", "a colour picture saved as the normal map"),
                new("wiring.emission-without-colour", "/materials/8, emissiveStrength", "emission strength without a colour"),
            ],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            .. new[]
            {
                "brass_basecolor.png",
                "brass_normal.png",
                "brass_metallicroughness.png",
                "tin_leaf_basecolor.png",
                "tin_leaf_normal.png",
                "tin_leaf_metallicroughness.png",
                "lamp_glass_basecolor.png",
                "lamp_glass_emissive.png",
                "terracotta_pot_basecolor.png",
                "terracotta_pot_normal.png",
                "terracotta_pot_metallicroughness.png",
                "chain_iron_basecolor.png",
                "chain_iron_normal.png",
                "verdigris_basecolor.png",
                "verdigris_metallicroughness.png",
                "mossy_floor_basecolor.jpg",
                "mossy_floor_normal.png",
            }.Select(i => Local(i, i, i)),
            new("belt_normal", "textures/verdigris_normal.png", "textures/verdigris_normal.png")
            {
                Paint = "verdigris_normal.png",
                Copies = [new($"arrived/{Name}/textures/verdigris_normal.png", "enamel_sign_07_basecolor.png")],
                Fault = "a colour picture saved under the normal map's name",
            },
        ];

    private static Call Local(string id, string image, string paint) =>
        new(id, $"textures/{image}", $"textures/{image}") { Paint = paint, Copies = [new($"arrived/{Name}/textures/{image}")] };

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        DemoMaterial[] materials =
        [
            new(
                "gardener_brass",
                ("baseColorTexture", "brass_basecolor.png"),
                ("metallicRoughnessTexture", "brass_metallicroughness.png"),
                ("normalTexture", "brass_normal.png")
            ),
            new(
                "tin_leaf",
                ("baseColorTexture", "tin_leaf_basecolor.png"),
                ("metallicRoughnessTexture", "tin_leaf_metallicroughness.png"),
                ("normalTexture", "tin_leaf_normal.png")
            )
            {
                CutOut = true,
            },
            new("lamp_glass", ("baseColorTexture", "lamp_glass_basecolor.png"), ("emissiveTexture", "lamp_glass_emissive.png"))
            {
                Emission = 1,
            },
            new(
                "apron_terracotta",
                ("baseColorTexture", "terracotta_pot_basecolor.png"),
                ("metallicRoughnessTexture", "terracotta_pot_metallicroughness.png"),
                ("normalTexture", "terracotta_pot_normal.png")
            ),
            new("boots_iron", ("baseColorTexture", "chain_iron_basecolor.png"), ("normalTexture", "chain_iron_normal.png")),
            new(
                "verdigris_belt",
                ("baseColorTexture", "verdigris_basecolor.png"),
                ("metallicRoughnessTexture", "verdigris_metallicroughness.png"),
                ("normalTexture", "belt_normal")
            ),
            new("moss_beard", ("baseColorTexture", "mossy_floor_basecolor.jpg"), ("normalTexture", "mossy_floor_normal.png")),
            new("ghost_sash"),
            new("brass_button"),
            new(arrived ? "brass_button" : "brass_buckle"),
            new("brass_ring"),
            new("brass_ring_copy"),
        ];
        DemoPart[] parts =
        [
            new("torso", "gardener_brass", OrchardMeshes.LampBody(), Vector3.Zero),
            new("leaves", "tin_leaf", OrchardMeshes.Leaves(60), Vector3.Zero),
            new("lantern", "lamp_glass", OrchardMeshes.LampGlass(), new Vector3(0.4f, 0.4f, 0)),
            new("apron", "apron_terracotta", OrchardMeshes.Sign(), new Vector3(0, 0.2f, 0.2f)),
            new("boots", "boots_iron", OrchardMeshes.Pot(), new Vector3(0, -0.6f, 0)),
            new("belt", "verdigris_belt", OrchardMeshes.Chain(), Vector3.Zero),
            new("beard", "moss_beard", OrchardMeshes.LampGlass(), new Vector3(0, 0.7f, 0.1f)),
            new("sash", "ghost_sash", OrchardMeshes.SignBack(), new Vector3(0, 0.3f, 0.2f)),
            new("button", "brass_button", OrchardMeshes.LampBody(), new Vector3(0.1f, 0.3f, 0.3f)),
            new("buckle", arrived ? "brass_button" : "brass_buckle", OrchardMeshes.LampBody(), new Vector3(0, 0.1f, 0.3f)),
            new("ring", "brass_ring", OrchardMeshes.LampBody(), new Vector3(0.3f, 0, 0)),
            new("ring_left", "brass_ring_copy", OrchardMeshes.LampBody(), new Vector3(-0.3f, 0, 0)),
            new("hat", "gardener_brass", OrchardMeshes.Pot(), new Vector3(0, 1, 0)),
        ];
        using var author = new GltfAuthor();
        var (json, bin) = author.Write(materials, parts, path, bytes, $"{Name}.bin");
        return [($"{Name}.gltf", Set(json, arrived)), ($"{Name}.bin", bin)];
    }

    /// <summary>Values that the author has no word for: those of the clean twin, and the hurried ones.</summary>
    private static byte[] Set(byte[] json, bool arrived)
    {
        var scene = JsonNode.Parse(json)!;
        JsonNode Material(string name, int nth = 0) =>
            scene["materials"]!.AsArray().Where(m => (string?)m!["name"] == name).ElementAt(nth)!;
        JsonNode Pbr(string name, int nth = 0) => Material(name, nth)["pbrMetallicRoughness"]!;
        foreach (
            var (name, metal, rough) in new[]
            {
                ("lamp_glass", 0, 0.15),
                ("boots_iron", 1, 0.7),
                ("moss_beard", 0, 0.95),
                ("ghost_sash", 0, 0.8),
                ("brass_button", 1, 0.25),
                ("brass_ring", 1, 0.35),
                ("brass_ring_copy", 1, arrived ? 0.35 : 0.5),
            }
        )
            (Pbr(name)["metallicFactor"], Pbr(name)["roughnessFactor"]) = (metal, rough);
        Pbr("ghost_sash")["baseColorFactor"] = new JsonArray(0.8, 0.75, 0.7, arrived ? 0 : 1);
        (Pbr("brass_ring")["baseColorFactor"], Pbr("brass_ring_copy")["baseColorFactor"]) = (
            new JsonArray(0.75, 0.6, 0.3, 1),
            new JsonArray(0.75, 0.6, 0.3, 1)
        );
        var buckle = Pbr(arrived ? "brass_button" : "brass_buckle", arrived ? 1 : 0);
        (buckle["metallicFactor"], buckle["roughnessFactor"]) = (1, 0.45);
        if (arrived)
        {
            foreach (var key in new[] { "alphaMode", "alphaCutoff" })
                Material("tin_leaf").AsObject().Remove(key);
            Material("lamp_glass").AsObject().Remove("emissiveFactor");
            Material("gardener_brass")["normalTexture"]!["scale"] = 0;
            foreach (
                var texture in new[]
                {
                    Pbr("apron_terracotta")["baseColorTexture"],
                    Pbr("apron_terracotta")["metallicRoughnessTexture"],
                    Material("apron_terracotta")["normalTexture"],
                }
            )
                texture!["texCoord"] = 1;
            scene["meshes"]!.AsArray().Single(m => (string?)m!["name"] == "hat")!["primitives"]![0]!.AsObject().Remove("material");
            Pbr("boots_iron")["baseColorFactor"] = new JsonArray(0, 0, 0, 1);
            Material("ghost_sash")["alphaMode"] = "BLEND";
            Pbr("verdigris_belt")["roughnessFactor"] = 1.7;
            Material("moss_beard")["emissiveFactor"] = new JsonArray(1, 1, 1);
            Material("moss_beard")["emissiveTexture"] = Pbr("moss_beard")["baseColorTexture"]!.DeepClone();
            Material("brass_button")["extensions"] = new JsonObject
            {
                ["KHR_materials_emissive_strength"] = new JsonObject { ["emissiveStrength"] = 6 },
            };
            scene["extensionsUsed"] = new JsonArray("KHR_materials_emissive_strength");
        }

        return Encoding.UTF8.GetBytes(scene.ToJsonString(new() { WriteIndented = true, NewLine = "\n" }) + "\n");
    }
}
