using System.Text;

namespace RootCall.Demo.Scenes;

/// <summary>Looks of a seed drawer in MaterialX: a node graph, a prefix for its files, assignments to geometry by name.</summary>
internal static class SeedDrawer
{
    private const string Name = "seed_drawer";
    private const string Arrived = $"arrived/{Name}";

    public static DemoScene Scene =>
        new(Name, $"{Name}.mtlx", Calls, Own)
        {
            Losses =
            [
                new("material", "drawer_wood", "tiling", "tiling fell back to 1") { Input = "base colour" },
                new("material", "drawer_wood", "input", "roughness map landed in metalness") { Input = "roughness" },
                new("material", "brass_knob", "value", "the value changed") { Input = "coat" },
            ],
            Findings = [new("wiring.role-mismatch", "drawer_wood, metalness", "roughness map landed in metalness")],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            Local("mossy_floor_basecolor.jpg"),
            Local("enamel_sign_07_rough.png"),
            new("brass_basecolor.png", "textures/brass_basecolor.png", "textures/brass_basecolor.png")
            {
                Copies = [new("library/metals/brass_basecolor.png")],
                State = "elsewhere",
                Fault = "moved",
            },
        ];

    private static Call Local(string image) =>
        new(image, $"textures/{image}", $"textures/{image}") { Copies = [new($"{Arrived}/textures/{image}")] };

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        static string File(string path) => path["textures/".Length..];
        var text = $"""
            <?xml version="1.0"?>
            <materialx version="1.38" colorspace="lin_rec709" fileprefix="textures/">
              <!-- The drawer where the tin seeds are kept. -->
              <nodegraph name="NG_wood">
                <tiledimage name="grain" type="color3">
                  <input name="file" type="filename" value="{File(path("mossy_floor_basecolor.jpg")!)}" colorspace="srgb_texture"/>
                  <input name="uvtiling" type="vector2" value="{(arrived ? "1, 1" : "4, 2")}"/>
                </tiledimage>
                <image name="rough" type="float">
                  <input name="file" type="filename" value="{File(path("enamel_sign_07_rough.png")!)}"/>
                </image>
                <output name="color_out" type="color3" nodename="grain"/>
                <output name="rough_out" type="float" nodename="rough"/>
              </nodegraph>
              <standard_surface name="SR_wood" type="surfaceshader">
                <input name="base_color" type="color3" nodegraph="NG_wood" output="color_out"/>
                <input name="{(arrived ? "metalness" : "specular_roughness")}" type="float" nodegraph="NG_wood" output="rough_out"/>
              </standard_surface>
              <surfacematerial name="drawer_wood" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="SR_wood"/>
              </surfacematerial>
              <image name="brass_color" type="color3">
                <input name="file" type="filename" value="{File(path("brass_basecolor.png")!)}" colorspace="srgb_texture"/>
              </image>
              <standard_surface name="SR_brass" type="surfaceshader">
                <input name="base_color" type="color3" nodename="brass_color"/>
                <input name="metalness" type="float" value="1"/>
                <input name="coat" type="float" value="{(arrived ? "0" : "0.5")}"/>
              </standard_surface>
              <surfacematerial name="brass_knob" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="SR_brass"/>
              </surfacematerial>
              <look name="workshop">
                <materialassign name="wood" material="drawer_wood" geom="/drawer/front, /drawer/sides"/>
                <materialassign name="knob" material="brass_knob" geom="/drawer/knob"/>
              </look>
            </materialx>

            """;
        return [($"{Name}.mtlx", Encoding.UTF8.GetBytes(text))];
    }
}
