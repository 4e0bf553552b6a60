using System.Numerics;
using System.Text;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>A jar of glowing moths in COLLADA, with the paths of the machine it was made on.</summary>
internal static class MothJar
{
    private const string Name = "moth_jar";
    private const string Arrived = $"arrived/{Name}";

    public static DemoScene Scene =>
        new(Name, $"{Name}.dae", Calls, Own)
        {
            Losses =
            [
                new("scene", $"{Name}.dae", "up axis", "another axis is up"),
                new("scene", $"{Name}.dae", "bounding box", "another axis is up"),
                new("image", "lamp_glass_emissive.png", "missing", "emission map did not come along"),
                new("material", "jar_glass", "map", "emission map did not come along") { Input = "emission" },
                new("material", "jar_lid", "value", "the value changed") { Input = "specular exponent" },
            ],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            new("lamp_glass_emissive.png", "textures/lamp_glass_emissive.png", string.Empty) { LeftBehind = true },
            new("lamp_glass_basecolor.png", "textures/lamp_glass_basecolor.png", "textures/lamp_glass_basecolor.png")
            {
                Copies = [new($"{Arrived}/textures/lamp_glass_basecolor.png")],
            },
            new("verdigris_basecolor.png", "textures/verdigris_basecolor.png", "file:///D:/jobs/2231/tex/verdigris_basecolor.png")
            {
                Copies = [new("library/metals/verdigris_basecolor.png")],
                State = "elsewhere",
                Flags = ["absolute", "foreign-path"],
                Fault = "moved, called from another system's drive",
            },
        ];

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        DemoPart[] parts =
        [
            new("jar", "jar_glass", OrchardMeshes.LampGlass(), Vector3.Zero),
            new("lid", "jar_lid", OrchardMeshes.LampBody(), Vector3.Zero),
        ];
        static string Image(string id, string path) =>
            $"    <image id=\"{id}\"><init_from>{path.Replace(" ", "%20", StringComparison.Ordinal)}</init_from></image>\n";
        static string Sampler(string id) =>
            $"<newparam sid=\"{id}-surface\"><surface type=\"2D\"><init_from>{id}</init_from></surface></newparam><newparam "
            + $"sid=\"{id}-sampler\"><sampler2D><source>{id}-surface</source></sampler2D></newparam>";
        static string Map(string id) => $"<texture texture=\"{id}-sampler\" texcoord=\"UV\"/>";
        var text = $"""
            <?xml version="1.0" encoding="utf-8"?>
            <COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
              <asset>
                <created>2026-01-01T00:00:00Z</created>
                <modified>2026-01-01T00:00:00Z</modified>
                <unit name="meter" meter="1"/>
                <up_axis>{(arrived ? "Z_UP" : "Y_UP")}</up_axis>
              </asset>
              <library_images>
            {Image("glass_color", path("lamp_glass_basecolor.png")!)}{(
                arrived ? string.Empty : Image("glass_glow", "textures/lamp_glass_emissive.png")
            )}{Image("lid_color", path("verdigris_basecolor.png")!)}  </library_images>
              <library_effects>
                <effect id="jar_glass-fx"><profile_COMMON>{Sampler("glass_color")}{(
                arrived ? string.Empty : Sampler("glass_glow")
            )}<technique sid="common"><phong>
                  <emission>{(arrived ? "<color>0 0 0 1</color>" : Map("glass_glow"))}</emission>
                  <diffuse>{Map("glass_color")}</diffuse>
                  <shininess><float>60</float></shininess>
                </phong></technique></profile_COMMON></effect>
                <effect id="jar_lid-fx"><profile_COMMON>{Sampler("lid_color")}<technique sid="common"><blinn>
                  <diffuse>{Map("lid_color")}</diffuse>
                  <shininess><float>{(arrived ? "2" : "24")}</float></shininess>
                </blinn></technique></profile_COMMON></effect>
              </library_effects>
              <library_materials>
                <material id="jar_glass" name="jar_glass"><instance_effect url="#jar_glass-fx"/></material>
                <material id="jar_lid" name="jar_lid"><instance_effect url="#jar_lid-fx"/></material>
              </library_materials>
              <library_geometries>
            {string.Concat(parts.Select(ColladaAuthor.Geometry))}  </library_geometries>
              <library_visual_scenes><visual_scene id="scene">
            {string.Concat(parts.Select(ColladaAuthor.Node))}  </visual_scene></library_visual_scenes>
              <scene><instance_visual_scene url="#scene"/></scene>
            </COLLADA>

            """;
        return [($"{Name}.dae", Encoding.UTF8.GetBytes(text))];
    }
}
