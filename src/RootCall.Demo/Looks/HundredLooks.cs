using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Demo.Looks;

/// <summary>
/// A hundred materials that crossings are measured on, said in OpenPBR: what lies on the benches of the orchard, from brass to moss.
/// They are made up; colours of metals and indices are common practice.
/// </summary>
public static class HundredLooks
{
    /// <summary>Each with the kind that it stands for.</summary>
    public static ImmutableArray<(string Kind, ShaderGraph Graph)> All { get; } =
    [.. Metals(), .. Dielectrics(), .. Cloths(), .. Glasses(), .. Flesh(), .. Lamps(), .. Coated(), .. Thin()];

    private static IEnumerable<(string, ShaderGraph)> Metals()
    {
        double[][] colours =
        [
            [1, 0.78, 0.34],
            [0.97, 0.96, 0.92],
            [0.95, 0.64, 0.54],
            [0.56, 0.57, 0.58],
            [0.91, 0.92, 0.92],
            [0.54, 0.50, 0.45],
            [0.55, 0.56, 0.56],
            [0.66, 0.61, 0.53],
        ];
        foreach (var colour in colours)
        foreach (var rough in (double[])[0.15, 0.45])
            yield return ("metals", Of(("base_metalness", [1]), ("base_color", colour), ("specular_roughness", [rough])));
        foreach (var along in (double[])[0.3, 0.6, 0.8, 0.9])
            yield return (
                "metals",
                Of(
                    ("base_metalness", [1]),
                    ("base_color", colours[0]),
                    ("specular_roughness", [0.35]),
                    ("specular_roughness_anisotropy", [along])
                )
            );
    }

    private static IEnumerable<(string, ShaderGraph)> Dielectrics()
    {
        double[][] colours =
        [
            [0.03, 0.03, 0.04],
            [0.6, 0.06, 0.04],
            [0.1, 0.32, 0.12],
            [0.8, 0.76, 0.7],
        ];
        foreach (var colour in colours)
        foreach (var rough in (double[])[0.08, 0.35, 0.8])
            yield return ("dielectrics", Of(("base_color", colour), ("specular_roughness", [rough])));
        foreach (var ior in (double[])[1.33, 1.45, 1.6, 1.8])
        foreach (var weight in (double[])[0.5, 1])
            yield return (
                "dielectrics",
                Of(("base_color", colours[2]), ("specular_roughness", [0.25]), ("specular_ior", [ior]), ("specular_weight", [weight]))
            );
    }

    private static IEnumerable<(string, ShaderGraph)> Cloths()
    {
        foreach (var fuzz in (double[])[0.3, 0.7, 1])
        foreach (var rough in (double[])[0.3, 0.5, 0.8])
            yield return (
                "cloth",
                Of(
                    ("base_color", [0.25, 0.1, 0.2]),
                    ("specular_roughness", [0.9]),
                    ("fuzz_weight", [fuzz]),
                    ("fuzz_color", [0.9, 0.8, 0.85]),
                    ("fuzz_roughness", [rough])
                )
            );
        yield return ("cloth", Of(("base_color", [0.5, 0.45, 0.35]), ("base_diffuse_roughness", [1]), ("specular_weight", [0])));
    }

    private static IEnumerable<(string, ShaderGraph)> Glasses()
    {
        foreach (var (ior, rough) in ((double, double)[])[(1.33, 0), (1.5, 0), (1.5, 0.3), (1.8, 0.1)])
        foreach (var thin in (bool[])[false, true])
        {
            var graph = Of(
                ("transmission_weight", [1]),
                ("transmission_color", [0.8, 0.95, 0.9]),
                ("specular_ior", [ior]),
                ("specular_roughness", [rough])
            );
            yield return ("glass", thin ? Walled(graph) : graph);
        }

        foreach (var depth in (double[])[0.5, 2])
            yield return (
                "glass",
                Of(
                    ("transmission_weight", [1]),
                    ("transmission_color", [0.3, 0.7, 0.4]),
                    ("transmission_depth", [depth]),
                    ("specular_roughness", [0.05])
                )
            );
    }

    private static IEnumerable<(string, ShaderGraph)> Flesh()
    {
        foreach (var weight in (double[])[0.3, 0.6, 1])
        foreach (var rough in (double[])[0.25, 0.45, 0.65])
            yield return (
                "skin-like",
                Of(
                    ("base_color", [0.7, 0.45, 0.35]),
                    ("subsurface_weight", [weight]),
                    ("subsurface_color", [0.8, 0.4, 0.3]),
                    ("specular_roughness", [rough])
                )
            );
        yield return (
            "skin-like",
            Walled(Of(("subsurface_weight", [1]), ("subsurface_color", [0.3, 0.5, 0.1]), ("specular_roughness", [0.5])))
        );
    }

    private static IEnumerable<(string, ShaderGraph)> Lamps()
    {
        foreach (var nits in (double[])[100, 500, 1000, 3000])
        foreach (
            var colour in (double[][])
                [
                    [1, 0.85, 0.6],
                    [0.3, 0.9, 1],
                ]
        )
            yield return (
                "emissive",
                Of(
                    ("base_color", [0.1, 0.1, 0.1]),
                    ("emission_luminance", [nits]),
                    ("emission_color", colour),
                    ("specular_roughness", [0.3])
                )
            );
    }

    private static IEnumerable<(string, ShaderGraph)> Coated()
    {
        foreach (var rough in (double[])[0, 0.2])
        foreach (var (metal, colour) in ((double, double[])[])[(0, [0.5, 0.05, 0.03]), (1, [0.6, 0.4, 0.2])])
        foreach (var weight in (double[])[0.5, 1])
            yield return (
                "coated",
                Of(
                    ("base_color", colour),
                    ("base_metalness", [metal]),
                    ("specular_roughness", [0.5]),
                    ("coat_weight", [weight]),
                    ("coat_roughness", [rough]),
                    ("coat_ior", [1.5]),
                    ("coat_darkening", [0])
                )
            );
        foreach (var ior in (double[])[1.4, 1.8])
        foreach (var darker in (double[])[0, 1])
            yield return (
                "coated",
                Of(
                    ("base_color", [0.2, 0.4, 0.25]),
                    ("specular_roughness", [0.6]),
                    ("coat_weight", [1]),
                    ("coat_ior", [ior]),
                    ("coat_color", [1, 0.9, 0.7]),
                    ("coat_darkening", [darker])
                )
            );
    }

    private static IEnumerable<(string, ShaderGraph)> Thin()
    {
        foreach (var opacity in (double[])[0.15, 0.35, 0.5, 0.75, 0.9])
        foreach (var rough in (double[])[0.2, 0.6])
            yield return (
                "cut-out",
                Of(("base_color", [0.3, 0.5, 0.15]), ("specular_roughness", [rough]), ("geometry_opacity", [opacity]))
            );
    }

    public static ShaderGraph Of(params (string Input, double[] Numbers)[] inputs) =>
        new(
            [
                new(
                    "surface",
                    "open_pbr_surface",
                    [.. inputs.Select(i => new ShaderInput(i.Input, InputType.OfNumbers(i.Numbers.Length), ShaderValue.Of(i.Numbers)))]
                ),
            ],
            "surface"
        );

    private static ShaderGraph Walled(ShaderGraph graph)
    {
        var surface = graph.SurfaceNode!;
        return graph with
        {
            Nodes =
            [
                surface with
                {
                    Inputs = surface.Inputs.Add(new("geometry_thin_walled", InputType.Boolean, ShaderValue.OfText("true"))),
                },
            ],
        };
    }
}
