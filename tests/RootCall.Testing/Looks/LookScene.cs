using System.Globalization;
using System.Text;
using System.Text.Json.Nodes;

namespace RootCall.Testing.Looks;

/// <summary>Writes looks of one format into one scene, a mesh with UV coordinates for each.</summary>
public static class LookScene
{
    /// <returns>Path of the scene.</returns>
    public static string Write(string folder, LookFormat format, IReadOnlyList<MadeLook> looks)
    {
        Directory.CreateDirectory(folder);
        Parallel.ForEach(looks, look => look.WriteFiles(folder));
        return format switch
        {
            LookFormat.Gltf => Put(folder, "looks.gltf", Gltf(looks)),
            LookFormat.Mtl => Obj(folder, looks),
            LookFormat.Usda => Put(folder, "looks.usda", Usda(looks)),
            _ => Put(folder, "looks.mtlx", MaterialX(looks)),
        };
    }

    private static string Put(string folder, string name, string text)
    {
        var path = Path.Combine(folder, name);
        File.WriteAllText(path, text);
        return path;
    }

    private static readonly string[] Statements = ["map_Kd", "norm", "map_Pr", "map_Pm", "map_d"];

    private static string Obj(string folder, IReadOnlyList<MadeLook> looks)
    {
        var (library, scene) = (
            new StringBuilder(),
            new StringBuilder("mtllib looks.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\n")
        );
        foreach (var look in looks)
        {
            library.Append(CultureInfo.InvariantCulture, $"newmtl {look.Name}\nKd 1 1 1\n");
            // Without any image a roughness tells that the statements are the physically based ones.
            if (look.Called(Slot.Roughness) is null)
                library.Append("Pr 0.5\n");
            foreach (var slot in Enum.GetValues<Slot>())
                if (look.Called(slot) is { } file)
                    library.Append(CultureInfo.InvariantCulture, $"{Statements[(int)slot]} {file}\n");
            scene.Append(CultureInfo.InvariantCulture, $"o mesh_{look.Number}\nusemtl {look.Name}\nf 1/1 2/2 3/3\n");
        }

        Put(folder, "looks.mtl", library.ToString());
        return Put(folder, "looks.obj", scene.ToString());
    }

    private static string Gltf(IReadOnlyList<MadeLook> looks)
    {
        var (images, materials, meshes, nodes) = (new JsonArray(), new JsonArray(), new JsonArray(), new JsonArray());
        JsonObject Texture(string file)
        {
            images.Add(new JsonObject { ["uri"] = file });
            return new() { ["index"] = images.Count - 1 };
        }

        foreach (var look in looks)
        {
            var pbr = new JsonObject();
            var material = new JsonObject { ["name"] = look.Name, ["pbrMetallicRoughness"] = pbr };
            if (look.Called(Slot.Colour) is { } colour)
                pbr["baseColorTexture"] = Texture(colour);
            if (look.Called(Slot.Roughness) is { } packed)
                pbr["metallicRoughnessTexture"] = Texture(packed);
            if (look.Called(Slot.Normal) is { } normal)
                material["normalTexture"] = Texture(normal);
            materials.Add(material);
            meshes.Add(
                new JsonObject
                {
                    ["name"] = $"mesh_{look.Number}",
                    ["primitives"] = new JsonArray(
                        new JsonObject
                        {
                            ["attributes"] = new JsonObject { ["POSITION"] = 0, ["TEXCOORD_0"] = 1 },
                            ["material"] = materials.Count - 1,
                        }
                    ),
                }
            );
            nodes.Add(new JsonObject { ["mesh"] = meshes.Count - 1 });
        }

        var data = new byte[60];
        return new JsonObject
        {
            ["asset"] = new JsonObject { ["version"] = "2.0" },
            ["scene"] = 0,
            ["scenes"] = new JsonArray(
                new JsonObject { ["nodes"] = new JsonArray([.. Enumerable.Range(0, nodes.Count).Select(i => (JsonNode)i)]) }
            ),
            ["nodes"] = nodes,
            ["meshes"] = meshes,
            ["materials"] = materials,
            ["textures"] = new JsonArray([.. Enumerable.Range(0, images.Count).Select(i => (JsonNode)new JsonObject { ["source"] = i })]),
            ["images"] = images,
            ["buffers"] = new JsonArray(
                new JsonObject { ["byteLength"] = 60, ["uri"] = $"data:application/octet-stream;base64,{Convert.ToBase64String(data)}" }
            ),
            ["bufferViews"] = new JsonArray(new JsonObject { ["buffer"] = 0, ["byteLength"] = 60 }),
            ["accessors"] = new JsonArray(
                new JsonObject
                {
                    ["bufferView"] = 0,
                    ["componentType"] = 5126,
                    ["count"] = 3,
                    ["type"] = "VEC3",
                    ["min"] = new JsonArray(0, 0, 0),
                    ["max"] = new JsonArray(0, 0, 0),
                },
                new JsonObject
                {
                    ["bufferView"] = 0,
                    ["byteOffset"] = 36,
                    ["componentType"] = 5126,
                    ["count"] = 3,
                    ["type"] = "VEC2",
                }
            ),
        }.ToJsonString();
    }

    private static string Usda(IReadOnlyList<MadeLook> looks)
    {
        var text = new StringBuilder("#usda 1.0\n(\n    defaultPrim = \"World\"\n    upAxis = \"Y\"\n)\n\ndef Xform \"World\"\n{\n");
        foreach (var look in looks)
        {
            var (inputs, maps) = (new StringBuilder(), new StringBuilder());
            void Map(string input, string type, string output, Slot slot, string space, string more)
            {
                if (look.Called(slot) is not { } file)
                    return;
                inputs.Append(
                    CultureInfo.InvariantCulture,
                    $"            {type} inputs:{input}.connect = </World/{look.Name}/{input}.outputs:{output}>\n"
                );
                maps.Append(
                    CultureInfo.InvariantCulture,
                    $$"""
                            def Shader "{{input}}"
                            {
                                uniform token info:id = "UsdUVTexture"
                                asset inputs:file = @{{file}}@
                                token inputs:sourceColorSpace = "{{space}}"
                                token inputs:wrapS = "repeat"
                                token inputs:wrapT = "repeat"
                                {{more}}
                                {{(output == "r" ? "float" : "float3")}} outputs:{{output}}
                            }

                    """
                );
            }

            Map("diffuseColor", "color3f", "rgb", Slot.Colour, "sRGB", string.Empty);
            Map(
                "normal",
                "normal3f",
                "rgb",
                Slot.Normal,
                "raw",
                "float4 inputs:scale = (2, 2, 2, 1)\n            float4 inputs:bias = (-1, -1, -1, 0)"
            );
            Map("roughness", "float", "r", Slot.Roughness, "raw", string.Empty);
            Map("metallic", "float", "r", Slot.Metalness, "raw", string.Empty);
            Map("opacity", "float", "r", Slot.Opacity, "raw", string.Empty);
            text.Append(
                CultureInfo.InvariantCulture,
                $$"""
                    def Mesh "mesh_{{look.Number}}"
                    {
                        int[] faceVertexCounts = [3]
                        int[] faceVertexIndices = [0, 1, 2]
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
                        texCoord2f[] primvars:st = [(0, 0), (1, 0), (0, 1)] (interpolation = "vertex")
                        rel material:binding = </World/{{look.Name}}>
                    }

                    def Material "{{look.Name}}"
                    {
                        token outputs:surface.connect = </World/{{look.Name}}/surface.outputs:surface>
                        def Shader "surface"
                        {
                            uniform token info:id = "UsdPreviewSurface"
                {{inputs}}            token outputs:surface
                        }

                {{maps}}    }

                """
            );
        }

        return text.Append("}\n").ToString();
    }

    private static string MaterialX(IReadOnlyList<MadeLook> looks)
    {
        var text = new StringBuilder("<?xml version=\"1.0\"?>\n<materialx version=\"1.38\">\n");
        foreach (var look in looks)
        {
            var n = look.Number;
            var inputs = new StringBuilder();
            void Map(string input, string type, Slot slot, string space)
            {
                if (look.Called(slot) is not { } file)
                    return;
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"  <image name=\"{input}_{n}\" type=\"{type}\">\n    <input name=\"file\" type=\"filename\" value="
                        + $"\"{file}\"{space}/>\n  </image>\n"
                );
                var from = $"{input}_{n}";
                if (input == "normal")
                {
                    text.Append(
                        CultureInfo.InvariantCulture,
                        $"  <normalmap name=\"bend_{n}\" type=\"vector3\">"
                            + $"<input name=\"in\" type=\"vector3\" nodename=\"{from}\"/></normalmap>\n"
                    );
                    from = $"bend_{n}";
                }

                inputs.Append(CultureInfo.InvariantCulture, $"    <input name=\"{input}\" type=\"{type}\" nodename=\"{from}\"/>\n");
            }

            Map("base_color", "color3", Slot.Colour, " colorspace=\"srgb_texture\"");
            Map("normal", "vector3", Slot.Normal, string.Empty);
            Map("specular_roughness", "float", Slot.Roughness, string.Empty);
            Map("metalness", "float", Slot.Metalness, string.Empty);
            text.Append(
                CultureInfo.InvariantCulture,
                $"  <standard_surface name=\"surface_{n}\" type=\"surfaceshader\">\n{inputs}  </standard_surface>\n"
                    + $"  <surfacematerial name=\"{look.Name}\" type=\"material\">"
                    + $"<input name=\"surfaceshader\" type=\"surfaceshader\" nodename=\"surface_{n}\"/></surfacematerial>\n"
            );
        }

        text.Append("  <look name=\"look\">\n");
        foreach (var look in looks)
            text.Append(
                CultureInfo.InvariantCulture,
                $"    <materialassign name=\"assign_{look.Number}\" material=\"{look.Name}\" geom=\"/mesh_{look.Number}\"/>\n"
            );
        return text.Append("  </look>\n</materialx>\n").ToString();
    }
}
