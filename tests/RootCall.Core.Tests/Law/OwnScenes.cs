using RootCall.Testing;

namespace RootCall.Core.Tests.Law;

/// <summary>What no other scene here has, in the smallest form that has it.</summary>
internal static class OwnScenes
{
    /// <summary>
    /// Variants that bring materials, a class that materials inherit, a map that is passed on, a light with a texture, instances, nodes of
    /// MaterialX.
    /// </summary>
    private const string Usd = """
        #usda 1.0
        (
            defaultPrim = "W"
        )

        class Material "_base"
        {
            token outputs:surface.connect = </_base/s.outputs:surface>

            def Shader "s"
            {
                uniform token info:id = "UsdPreviewSurface"
                float inputs:roughness = 0.4
                token outputs:surface
            }
        }

        def Material "enamel"
        {
            token outputs:mtlx:surface.connect = </enamel/s.outputs:out>

            def Shader "s"
            {
                uniform token info:id = "ND_open_pbr_surface_surfaceshader"
                color3f inputs:base_color.connect = </enamel/tint.outputs:out>
                float inputs:specular_roughness.connect = </enamel/grain.outputs:out>
                token outputs:out
            }

            def Shader "tint"
            {
                uniform token info:id = "ND_multiply_color3FA"
                color3f inputs:in1.connect = </enamel/map.outputs:out>
                float inputs:in2 = 0.5
                color3f outputs:out
            }

            def Shader "map"
            {
                uniform token info:id = "ND_image_color3"
                asset inputs:file = @enamel.png@ (colorSpace = "srgb_texture")
                color3f outputs:out
            }

            def Shader "grain"
            {
                uniform token info:id = "ND_image_float"
                asset inputs:file = @enamel_roughness.png@
                float outputs:out
            }
        }

        class "_leaf"
        {
            def Mesh "blade"
            {
                int[] faceVertexCounts = [3]
                rel material:binding = </W/tin>
            }
        }

        def Xform "leaf" (
            inherits = </_leaf>
            instanceable = true
        )
        {
        }

        def Xform "sprig" (
            instanceable = true
            inherits = </_leaf>
        )
        {
        }

        def Xform "W" (
            prepend variantSets = "patina"
            variants = {
                string patina = "fresh"
            }
        )
        {
            def Mesh "box"
            {
                int[] faceVertexCounts = [3, 3]
                rel material:binding = </W/tin>

                def GeomSubset "lid"
                {
                    uniform token familyName = "materialBind"
                    int[] indices = [1]
                }
            }

            def Material "tin" (
                prepend inherits = </_base>
            )
            {
                asset inputs:map = @./passed.png@

                def Shader "c"
                {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file.connect = </W/tin.inputs:map>
                    float3 outputs:rgb
                }

                over "s"
                {
                    color3f inputs:diffuseColor.connect = </W/tin/c.outputs:rgb>
                }
            }

            def Material "plain" (
                prepend inherits = </_base>
            )
            {
            }

            def DomeLight "sky"
            {
                asset inputs:texture:file = @./dusk.hdr@
            }

            variantSet "patina" = {
                "fresh" {
                    over "tin"
                    {
                        over "s"
                        {
                            float inputs:metallic = 1
                        }
                    }
                }
                "aged" {
                    def Material "moss"
                    {
                        token outputs:surface.connect = </W/moss/s.outputs:surface>

                        def Shader "s"
                        {
                            uniform token info:id = "UsdPreviewSurface"
                        }
                    }
                }
            }
        }
        """;

    /// <summary>Variants, two materials of one name, a texture for two inputs, an extension that nobody knows.</summary>
    private const string Gltf = """
        {
          "asset": { "version": "2.0" },
          "extensionsUsed": ["KHR_materials_variants", "KHR_texture_transform", "VENDOR_haze"],
          "extensions": { "KHR_materials_variants": { "variants": [{ "name": "day" }, { "name": "night" }] } },
          "images": [{ "uri": "a%20b.png" }, { "uri": "orm.png", "name": "packed" }],
          "samplers": [{ "wrapS": 33071, "wrapT": 33648, "magFilter": 9729 }],
          "textures": [{ "source": 0, "sampler": 0 }, { "source": 1 }],
          "materials": [
            {
              "name": "tin",
              "pbrMetallicRoughness": {
                "baseColorFactor": [1, 0.5, 0.25, 0.75],
                "baseColorTexture": { "index": 0, "texCoord": 1, "extensions": { "KHR_texture_transform": { "scale": [2, 3],
                  "rotation": 0.5, "texCoord": 1 } } },
                "metallicRoughnessTexture": { "index": 1 }
              },
              "occlusionTexture": { "index": 1, "strength": 0.5 },
              "extensions": { "KHR_materials_ior": { "ior": 1.33 }, "KHR_materials_sheen": {},
                "VENDOR_haze": { "hazeTexture": { "index": 0 } } }
            },
            { "name": "tin", "alphaMode": "MASK" },
            { "extensions": { "KHR_materials_pbrSpecularGlossiness": { "diffuseTexture": { "index": 0 }, "glossinessFactor": 0.3 } } }
          ],
          "meshes": [
            {
              "name": "box",
              "primitives": [
                { "attributes": {}, "material": 0, "extensions": { "KHR_materials_variants": { "mappings": [{ "material": 1,
                  "variants": [0] }, { "material": 2, "variants": [1] }] } } },
                { "attributes": {} }
              ]
            },
            { "name": "nothing", "primitives": [] }
          ],
          "nodes": [{ "name": "a", "children": [1] }, { "mesh": 0 }]
        }
        """;

    /// <summary>
    /// A prefix for files, a colour space around everything, a node graph with an interface, a placement and an image
    /// that several inputs read, a shader that inherits.
    /// </summary>
    private const string Mtlx = """
        <?xml version="1.0"?>
        <materialx version="1.39" colorspace="lin_rec709" fileprefix="tex/">
          <place2d name="place" type="vector2">
            <input name="scale" type="vector2" value="0.5, 0.5" />
          </place2d>
          <image name="packed" type="color3">
            <input name="file" type="filename" value="orm.png" colorspace="none" />
            <input name="texcoord" type="vector2" nodename="place" />
          </image>
          <extract name="rough" type="float">
            <input name="in" type="color3" nodename="packed" />
            <input name="index" type="integer" value="1" />
          </extract>
          <extract name="metal" type="float">
            <input name="in" type="color3" nodename="packed" />
            <input name="index" type="integer" value="2" />
          </extract>
          <nodegraph name="paint">
            <input name="map" type="filename" value="col.png" colorspace="srgb_texture" />
            <image name="col" type="color3">
              <input name="file" type="filename" interfacename="map" />
              <input name="texcoord" type="vector2" nodename="at" />
            </image>
            <texcoord name="at" type="vector2" />
            <output name="out" type="color3" nodename="col" />
          </nodegraph>
          <standard_surface name="SR_base" type="surfaceshader">
            <input name="coat" type="float" value="0.5" />
          </standard_surface>
          <standard_surface name="SR_tin" type="surfaceshader">
            <input name="base_color" type="color3" nodegraph="paint" output="out" />
            <input name="specular_roughness" type="float" nodename="rough" />
            <input name="metalness" type="float" nodename="metal" />
          </standard_surface>
          <standard_surface name="SR_brass" type="surfaceshader" inherit="SR_base">
            <input name="base_color" type="color3" nodegraph="paint" output="out" />
            <input name="specular_roughness" type="float" nodename="rough" />
          </standard_surface>
          <surfacematerial name="tin" type="material">
            <input name="surfaceshader" type="surfaceshader" nodename="SR_tin" />
          </surfacematerial>
          <surfacematerial name="tin_too" type="material">
            <input name="surfaceshader" type="surfaceshader" nodename="SR_tin" />
          </surfacematerial>
          <surfacematerial name="brass" type="material">
            <input name="surfaceshader" type="surfaceshader" nodename="SR_brass" />
          </surfacematerial>
          <surfacematerial name="spare" type="material">
            <input name="surfaceshader" type="surfaceshader" nodename="SR_base" />
          </surfacematerial>
          <look name="day" geomprefix="/root/">
            <materialassign name="a1" material="tin" geom="pot" />
            <materialassign name="a2" material="brass" geom="lid,spout" />
          </look>
        </materialx>
        """;

    public static IEnumerable<string> All(Place place) =>
        [place.Put("variants/v.usda", Usd), place.Put("variants/v.gltf", Gltf), place.Put("variants/v.mtlx", Mtlx)];
}
