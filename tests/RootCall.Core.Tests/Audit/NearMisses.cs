using RootCall.Core.Audit;

namespace RootCall.Core.Tests.Audit;

/// <summary>For each rule a scene that comes near to breaking it and does not.</summary>
internal static class NearMisses
{
    private const string Painted = """
        {
          "name": "pot",
          "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/pot_basecolor.png" }, "roughnessFactor": 0.7 }
        }
        """;

    private static Example Preview(string inputs, string more = "") =>
        Example.Usda(
            $"def Shader \"surface\" {{\n    uniform token info:id = \"UsdPreviewSurface\"\n    {inputs}\n    token "
                + $"outputs:surface\n}}\n{more}"
        );

    private static string Map(string image, string space, string outputs, string more = "") =>
        $"def Shader \"map\" {{\n    uniform token info:id = \"UsdUVTexture\"\n    asset inputs:file = @textures/{image}@\n   "
        + $" token inputs:sourceColorSpace = \"{space}\"\n    token inputs:wrapS = \"repeat\"\n    token inputs:wrapT = "
        + $"\"repeat\"\n    {more}\n    {outputs}\n}}\n";

    private static string From(string output) => $".connect = </Looks/tin/map.outputs:{output}>";

    private const string Paint = """
        <image name="paint" type="color3">
          <input name="file" type="filename" value="textures/tin_basecolor.png" colorspace="srgb_texture"/>
        </image>
        """;

    private static Example Surface(string inputs, string before = "") =>
        Example.Mtlx(
            $"{before}<standard_surface name=\"SR_tin\" type=\"surfaceshader\">{inputs}</standard_surface><surfacematerial "
                + $"name=\"tin\" type=\"material\"><input name=\"surfaceshader\" type=\"surfaceshader\" "
                + $"nodename=\"SR_tin\"/></surfacematerial>"
        );

    private static Example Pbr(string more, string top = "") =>
        Example.Gltf($$"""{ "name": "pot", "pbrMetallicRoughness": { {{more}} }{{top}} }""");

    public static IReadOnlyDictionary<string, Example> All { get; } =
        new Dictionary<string, Example>
        {
            ["assignment.no-material"] = Example.Gltf("""{ "name": "tin" }""") with
            {
                Meshes = [new("lid", "tin") { MoreParts = ["tin"] }],
            },
            ["assignment.absent-material"] = Surface(string.Empty) with { Meshes = [new("leaf", "tin")] },
            // The metalness is switched off: a grey roughness is right.
            ["wiring.grey-in-packed"] = Pbr(
                """ "metallicRoughnessTexture": { "index": "textures/pot_roughness.png" }, "metallicFactor": 0 """
            ),
            // White where the leaf is painted.
            ["wiring.opacity-inverted"] = Preview(
                "color3f inputs:diffuseColor.connect = </Looks/tin/paint.outputs:rgb>\n    float inputs:opacity" + From("r"),
                Map("leaf_opacity.png#leaf alone", "raw", "float outputs:r")
                    + Map("leaf_basecolor.png#leaf", "sRGB", "float3 outputs:rgb").Replace("\"map\"", "\"paint\"", StringComparison.Ordinal)
            ),
            ["values.metalness-left-at-default"] = Pbr(
                """ "baseColorTexture": { "index": "textures/pot_basecolor.png#dark" }, "roughnessFactor": 0.8, "metallicFactor": 1 """
            ),
            ["assignment.empty-material"] = Surface(string.Empty),
            ["assignment.part-unassigned"] = Example.Gltf("""{ "name": "tin" }, { "name": "brass" }""") with
            {
                Meshes = [new("can", "tin") { MoreParts = ["brass"] }],
            },
            ["assignment.unknown-shader"] = Preview(string.Empty),
            ["assignment.retired-shader"] = Example.Usda(
                "def Shader \"surface\" {\n    uniform token info:id = \"orchard_enamel\"\n    token outputs:surface\n}"
            ),
            ["assignment.default-material"] = Example.Gltf("""{ "name": "Material of the sign" }"""),
            ["assignment.unused-material"] = Preview(string.Empty),
            ["assignment.identical-materials"] = Example.Gltf(
                """
                { "name": "a", "pbrMetallicRoughness": { "roughnessFactor": 0.3 } },
                { "name": "b", "pbrMetallicRoughness": { "roughnessFactor": 0.31 } }
                """
            ),
            ["assignment.nearly-identical-materials"] = Example.Gltf(
                """
                {
                  "name": "a",
                  "pbrMetallicRoughness": { "baseColorFactor": [1, 0, 0, 1], "roughnessFactor": 0.3 }
                },
                {
                  "name": "b",
                  "pbrMetallicRoughness": { "baseColorFactor": [0, 1, 0, 1], "roughnessFactor": 0.7 }
                }
                """
            ),
            ["assignment.uv-sets-differ"] = Pbr("""  "baseColorTexture": { "index": "textures/pot_basecolor.png", "texCoord": 1 } """) with
            {
                Meshes = [new("lid", "pot", 2), new("handle", "pot", 2)],
            },
            ["wiring.role-mismatch"] = Preview("float inputs:roughness" + From("r"), Map("tin_roughness.png", "raw", "float outputs:r")),
            ["wiring.maps-swapped"] = Example.Mtl(
                "newmtl tin\nKd 0.8 0.8 0.8\nmap_Pr textures/tin_roughness.png\nmap_Pm textures/tin_metalness.png"
            ),
            ["wiring.name-and-values-differ"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/tin_normal.png" } """),
            ["wiring.type-mismatch"] = Preview(
                "color3f inputs:diffuseColor" + From("rgb"),
                Map("tin_basecolor.png", "sRGB", "float3 outputs:rgb")
            ),
            ["wiring.colour-into-scalar"] = Preview("float inputs:roughness" + From("g"), Map("tin_orm.png", "raw", "float outputs:g")),
            ["wiring.wrong-packed-channel"] = Preview("float inputs:metallic" + From("b"), Map("tin_orm.png", "raw", "float outputs:b")),
            ["wiring.normal-without-node"] = Surface(
                """<input name="normal" type="vector3" nodename="relief"/>""",
                """
                <image name="bumps" type="vector3">
                  <input name="file" type="filename" value="textures/tin_normal.png"/>
                </image>
                <normalmap name="relief" type="vector3">
                  <input name="in" type="vector3" nodename="bumps"/>
                </normalmap>
                """
            ),
            ["wiring.normal-not-unpacked"] = Preview(
                "normal3f inputs:normal" + From("rgb"),
                Map(
                    "tin_normal.png",
                    "raw",
                    "float3 outputs:rgb",
                    "float4 inputs:scale = (2, 2, 2, 1)\n    float4 inputs:bias = (-1, -1, -1, 0)"
                )
            ),
            ["wiring.normal-through-bump"] = Example.Mtl("newmtl tin\nKd 0.8 0.8 0.8\nmap_Bump textures/tin_height.png"),
            ["wiring.height-as-normal"] = Example.Mtl("newmtl tin\nKd 0.8 0.8 0.8\nnorm textures/tin_normal.png"),
            ["wiring.gloss-as-roughness"] = Preview(
                "float inputs:roughness" + From("r"),
                Map(
                    "tin_gloss.png",
                    "raw",
                    "float outputs:r",
                    "float4 inputs:scale = (-1, -1, -1, 1)\n    float4 inputs:bias = (1, 1, 1, 0)"
                )
            ),
            ["wiring.unread-image-node"] = Preview(
                "float inputs:roughness" + From("r"),
                Map("tin_roughness.png", "raw", "float outputs:r")
            ),
            ["wiring.unread-image"] = Example.Gltf(Painted),
            ["wiring.dangling-connection"] = Preview(
                "float inputs:roughness" + From("r"),
                Map("tin_roughness.png", "raw", "float outputs:r")
            ),
            ["wiring.cyclic-connection"] = Surface(
                """<input name="specular_roughness" type="float" nodename="a"/><input name="coat_roughness" type="float" nodename="a"/>""",
                """
                <multiply name="a" type="float">
                  <input name="in1" type="float" nodename="b"/>
                  <input name="in2" type="float" nodename="b"/>
                </multiply>
                <constant name="b" type="float"><input name="value" type="float" value="0.5"/></constant>
                """
            ),
            ["wiring.alpha-not-there"] = Preview("float inputs:opacity" + From("r"), Map("tin_opacity.png", "raw", "float outputs:r")),
            ["wiring.alpha-twice"] = Example.Mtl(
                "newmtl leaf\nKd 0.8 0.8 0.8\nmap_d textures/leaf_opacity.png\nmap_Kd textures/leaf_basecolor.png"
            ),
            ["wiring.emission-zero"] = Pbr(
                string.Empty,
                """ , "emissiveFactor": [0.2, 0.2, 0.2], "emissiveTexture": { "index": "textures/lamp_emissive.png" } """
            ),
            ["wiring.emission-without-colour"] = Pbr(
                string.Empty,
                """ , "emissiveFactor": [0, 0, 0.1], "extensions": { "KHR_materials_emissive_strength": { "emissiveStrength": 8 } } """
            ),
            ["wiring.height-twice"] = Example.Mtl(
                "newmtl bark\nKd 0.8 0.8 0.8\nmap_Bump textures/bark_bump.png\ndisp textures/bark_height.png"
            ),
            ["wiring.displacement-zero"] = Example.Mtl("newmtl bark\nKd 0.8 0.8 0.8\ndisp -mm 0 0.02 textures/bark_height.png"),
            ["values.invisible"] = Example.Mtl("newmtl leaf\nKd 0.2 0.6 0.2\nd 0.02"),
            ["values.opaque-with-alpha"] = Pbr("""  "baseColorTexture": { "index": "textures/leaf_basecolor.png" } """),
            ["values.blend-where-cut-out"] = Pbr(
                """  "baseColorTexture": { "index": "textures/leaf_basecolor.png#cutout" }, "baseColorFactor": [1, 1, 1, 0.5] """,
                """ , "alphaMode": "BLEND" """
            ),
            ["values.cut-out-threshold"] = Pbr(
                """  "baseColorTexture": { "index": "textures/leaf_basecolor.png#cutout" } """,
                """ , "alphaMode": "MASK", "alphaCutoff": 0.01 """
            ),
            ["values.tinted-map"] = Pbr(
                """  "baseColorFactor": [0.9, 0.85, 0.8, 1], "baseColorTexture": { "index": "textures/pot_basecolor.png" } """
            ),
            ["values.black-tint"] = Example.Mtl("newmtl pot\nKd 0.02 0.02 0.02\nmap_Kd textures/pot_basecolor.png"),
            ["values.specular-beyond-plausible"] = Preview(
                "int inputs:useSpecularWorkflow = 1\n    color3f inputs:specularColor = (0.78, 0.6, 0.3)"
            ),
            ["values.coloured-dielectric"] = Surface(
                """<input name="specular_color" type="color3" value="1, 0.5, 0.3"/><input name="metalness" type="float" value="1"/>"""
            ),
            ["values.shininess-out-of-range"] = Example.Mtl("newmtl tin\nKd 0.8 0.8 0.8\nKs 0.5 0.5 0.5\nNs 1000"),
            ["values.mirror-without-environment"] = Example.Mtl(
                "newmtl mirror\nKd 0 0 0\nKs 1 1 1\nillum 3\nrefl -type sphere textures/dusk_sky.hdr"
            ),
            ["values.midway-metalness"] = Pbr("""  "metallicFactor": 0.95 """),
            ["values.roughness-left-at-default"] = Example.Gltf(Painted),
            ["values.ior-out-of-range"] = Example.Mtl("newmtl glass\nKd 0.9 0.9 0.9\nNi 2.42"),
            ["values.beyond-clamp"] = Pbr("""  "roughnessFactor": 1, "metallicFactor": 0 """),
            ["values.self-lit"] = Pbr(
                """  "baseColorTexture": { "index": "textures/pot_basecolor.png" } """,
                """ , "emissiveFactor": [1, 1, 1], "emissiveTexture": { "index": "textures/pot_emissive.png" } """
            ),
            ["values.double-sided-needed"] = Example.Gltf(
                """
                {
                  "name": "tin_leaf",
                  "doubleSided": true,
                  "alphaMode": "MASK",
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/leaf_basecolor.png#cutout" } }
                }
                """
            ),
            ["values.double-sided-wasteful"] = Pbr(
                string.Empty,
                """ , "doubleSided": true, "extensions": { "KHR_materials_volume": { "thicknessFactor": 0 } } """
            ),
            ["values.workflow-switch"] = Preview(
                "int inputs:useSpecularWorkflow = 1\n    color3f inputs:specularColor = (0.04, 0.04, 0.04)"
            ),
            ["settings.colour-read-as-data"] = Preview(
                "color3f inputs:diffuseColor" + From("rgb"),
                Map("tin_basecolor.png", "sRGB", "float3 outputs:rgb")
            ),
            ["settings.data-read-as-colour"] = Preview(
                "float inputs:roughness" + From("r"),
                Map("tin_roughness.png", "auto", "float outputs:r")
            ),
            ["settings.space-not-applied"] = Surface("""<input name="base_color" type="color3" nodename="paint"/>""", Paint),
            ["settings.read-both-ways"] = Pbr(
                """  "baseColorTexture": { "index": "textures/pot_basecolor.png" } """,
                """ , "emissiveFactor": [1, 1, 1], "emissiveTexture": { "index": "textures/pot_basecolor.png" } """
            ),
            ["settings.tiling-differs"] = Example.Mtl(
                "newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd -s 4 4 1 textures/bark_basecolor.png\nnorm -s 9 9 1 textures/pores_normal.png"
            ),
            ["settings.uv-set-absent"] = Pbr("""  "baseColorTexture": { "index": "textures/pot_basecolor.png", "texCoord": 1 } """) with
            {
                Meshes = [new("pot", "pot", 2)],
            },
            ["settings.no-uvs"] = Pbr("""  "roughnessFactor": 0.4 """) with { Meshes = [new("pot", "pot", 0)] },
            ["settings.clamp-with-tiling"] = Example.Mtl(
                "newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd -s 1 1 1 -clamp on textures/bark_basecolor.png"
            ),
            ["settings.wrap-left-to-file"] = Preview(
                "color3f inputs:diffuseColor" + From("rgb"),
                Map("tin_basecolor.png", "sRGB", "float3 outputs:rgb", "float2 inputs:st.connect = </Looks/tin/place.outputs:result>")
                    + "def Shader \"place\" {\n    uniform token info:id = \"UsdTransform2d\"\n    float2 inputs:scale = (4, "
                    + "4)\n    float2 outputs:result\n}"
            ),
            ["settings.normal-scale"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/pot_normal.png", "scale": 2.5 } """),
            ["settings.udim-tile-missing"] = Example.Mtl(
                "newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd textures/bark_basecolor.<UDIM>.png\nmap_Pr textures/bark_roughness.<UDIM>.png"
            ) with
            {
                Beside = ["textures/bark_basecolor.1001.png", "textures/bark_roughness.1001.png"],
            },
            ["settings.environment-missing"] = Preview(
                string.Empty,
                "def DomeLight \"dusk\" {\n    asset inputs:texture:file = @textures/dusk_sky.hdr@\n}"
            ),
            ["settings.environment-8-bit"] = Example.Mtl("newmtl mirror\nKd 0.1 0.1 0.1\nrefl -type sphere textures/dusk_sky.hdr"),
            ["settings.height-8-bit"] = Example.Mtl("newmtl bark\nKd 0.8 0.8 0.8\nmap_Bump textures/bark_height.png"),
            ["settings.normal-compressed"] = Pbr("""  "baseColorTexture": { "index": "textures/pot_basecolor.jpg" } """),
            ["sets.set-not-connected"] = Example.Gltf(
                "{ \"name\": \"copper_pot\", \"pbrMetallicRoughness\": { \"metallicFactor\": 0 } }"
            ) with
            {
                Beside = ["textures/copper_lid_basecolor.png", "textures/copper_lid_normal.png", "textures/copper_lid_orm.png"],
            },
            // Numbers count things here and files there.
            ["sets.sets-swapped"] = Example.Mtl(
                "newmtl door_1\nmap_Kd textures/door_2_basecolor.png\nnorm textures/door_2_normal.png\n"
                    + "newmtl door_2\nmap_Kd textures/door_1_basecolor.png\nnorm textures/door_1_normal.png"
            ),
            ["sets.map-not-connected"] = Example.Gltf(Painted) with { Beside = ["textures/lid_normal.png"] },
            ["sets.better-format"] = Example.Mtl("newmtl bark\nKd 0.8 0.8 0.8\ndisp textures/bark_height.hdr") with
            {
                Beside = ["textures/bark_height.png"],
            },
            ["sets.higher-resolution"] = Example.Mtl("newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd textures/bark_basecolor_2k.png#large") with
            {
                Beside = ["textures/bark_basecolor_1k.png"],
            },
            ["sets.proxy-in-use"] = Example.Mtl("newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd textures/bark_basecolor.png") with
            {
                Beside = ["textures/bark_basecolor_proxy.png"],
            },
            ["sets.shared-image"] = Example.Mtl("newmtl pot\nmap_Kd textures/basecolor.png\nnewmtl lid\nmap_Kd textures/basecolor.png") with
            {
                Beside = ["textures/lid/basecolor.png"],
            },
            ["sets.mixed-resolution"] = Example.Mtl(
                "newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd textures/bark_basecolor.png#large\nmap_Pr textures/bark_roughness.png"
            ),
            ["sets.mixed-versions"] = Example.Mtl(
                "newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd textures/bark_basecolor_v003.png\nmap_Pr textures/stone_roughness_v001.png"
            ),
            ["sets.stray-map"] = Example.Mtl(
                "newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd textures/bark_basecolor.png\nmap_Pr textures/bark_roughness.png\nnorm "
                    + "textures/stone_normal.png"
            ),
            ["naming.duplicate"] = Example.Gltf("""{ "name": "tin" }, { "name": "Tin" }"""),
            ["naming.empty"] = Example.Gltf("""{ "name": "material 1" }"""),
            ["naming.default"] = Example.Gltf("""{ "name": "tin" }""") with { Meshes = [new("cube_of_sugar", "tin")] },
            ["naming.pattern-material"] = Example.Gltf("""{ "name": "tin_leaf" }"""),
            ["naming.pattern-mesh"] = Example.Gltf("""{ "name": "Tin" }""") with { Meshes = [new("big_leaf", "Tin")] },
            ["naming.pattern-node"] = Example.Gltf("""{ "name": "Tin" }""") with { Meshes = [new("big_leaf", "Tin")] },
            ["naming.pattern-texture"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/tin_normal.png" } """),
            ["naming.forbidden"] = Example.Gltf("""{ "name": "tin leaf" }""") with { For = "gltf-viewer" },
            ["naming.costly"] = Example.Gltf("""{ "name": "tin" }""") with { For = "lantern-headset" },
            ["destination.model"] = Pbr(string.Empty) with { For = "gltf-viewer" },
            ["destination.feature"] = Pbr(
                string.Empty,
                """ , "extensions": { "KHR_materials_clearcoat": { "clearcoatFactor": 1 } } """
            ) with
            {
                For = "gltf-viewer",
            },
            ["destination.feature-switch"] = Surface("""<input name="coat" type="float" value="0.6"/>""") with { For = "dusk-tracer" },
            ["destination.alpha-mode"] = Pbr(string.Empty, """ , "alphaMode": "MASK" """) with { For = "lantern-headset" },
            ["destination.textures-per-material"] = Pbr(
                """
                "baseColorTexture": { "index": "textures/pot_basecolor.png" },
                "metallicRoughnessTexture": { "index": "textures/pot_metallicroughness.png" }
                """,
                """
                , "normalTexture": { "index": "textures/pot_normal.png" },
                "occlusionTexture": { "index": "textures/pot_occlusion.png" }
                """
            ) with
            {
                For = "lantern-headset",
            },
            ["destination.image-size"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/pot_normal.png#4096" } """) with
            {
                For = "gltf-viewer",
            },
            ["destination.power-of-two"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/pot_normal.png" } """) with
            {
                For = "lantern-headset",
            },
            ["destination.square"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/pot_normal.png" } """) with
            {
                For = "square",
            },
            ["destination.image-format"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/pot_normal.png" } """) with
            {
                For = "gltf-viewer",
            },
            ["destination.bit-depth"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/pot_normal.png" } """) with
            {
                For = "lantern-headset",
            },
            ["destination.bytes"] = Example.Gltf(Painted) with { For = "lantern-headset" },
            ["destination.axis-and-unit"] = Preview(string.Empty) with { For = "dusk-tracer" },
            ["destination.triangles"] = Pbr(string.Empty) with { For = "tiny", Meshes = [new("pot", "pot") { Triangles = 100 }] },
            ["destination.uv-sets"] = Pbr(
                string.Empty,
                """ , "occlusionTexture": { "index": "textures/pot_occlusion.png", "texCoord": 0 } """
            ) with
            {
                For = "lantern-headset",
                Meshes = [new("pot", "pot", 2)],
            },
            ["destination.udim"] = Example.Mtl("newmtl bark\nKd 0.8 0.8 0.8\nmap_Kd textures/bark_basecolor.1001.png") with
            {
                For = "gltf-viewer",
            },
            ["destination.normal-convention"] = Pbr(string.Empty, """ , "normalTexture": { "index": "textures/pot_normalgl.png" } """) with
            {
                For = "gltf-viewer",
            },
            ["destination.colour-space"] = Surface("""<input name="base_color" type="color3" nodename="paint"/>""", Paint) with
            {
                For = "gltf-viewer",
            },
            ["destination.vertex-colours"] = Pbr(string.Empty) with { For = "gltf-viewer", Meshes = [new("pot:colours", "pot")] },
        };
}
