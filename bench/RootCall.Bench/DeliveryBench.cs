using System.Globalization;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Testing;

namespace RootCall.Bench;

/// <summary>A dropped folder of five shots that share 151 layers: finding its scenes and reading them, beside reading them alone.</summary>
internal static class DeliveryBench
{
    private const int Shots = 5;
    private const int Layers = 151;

    public static void Run(Place place)
    {
        for (var layer = 0; layer < Layers; layer++)
            place.Put(
                string.Create(CultureInfo.InvariantCulture, $"delivery/props/crate_{layer:000}.usda"),
                $"#usda 1.0\n(defaultPrim = \"crate\")\ndef Xform \"crate\" {{\n{string.Concat(Enumerable.Range(0, 60).Select(Mesh))}}}\n"
            );
        var shots = Enumerable.Range(0, Shots).Select(s => place.Put($"delivery/shots/shot_{s}.usda", Shot())).ToList();
        var reading = new ReadContext(new([place.At("delivery")]), Bounds.Default);
        Measure.Print(
            $"a delivery of {Shots + Layers} layers in {Shots} shots, found and read",
            Measure.Best(() =>
            {
                var parsed = new ParsedFiles();
                foreach (var scene in SceneFinder.All(place.At("delivery"), parsed))
                    SceneFormats.Read(scene, reading with { Parsed = parsed });
            }),
            $"reading the {Shots} shots",
            Measure.Best(() => shots.ForEach(s => SceneFormats.Read(s, reading)))
        );
    }

    private static string Mesh(int i) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $$"""
                def Mesh "slat_{{i}}" {
                    int[] faceVertexCounts = [4, 4]
                    int[] faceVertexIndices = [0, 1, 2, 3, 3, 2, 1, 0]
                    point3f[] points = [(0, {{i}}, 0), (1, {{i}}, 0), (1, {{i}}.5, 0), (0, {{i}}.5, 0)]
                }

            """
        );

    private static string Shot() =>
        "#usda 1.0\n"
        + string.Concat(
            Enumerable
                .Range(0, Layers)
                .Select(l =>
                    string.Create(CultureInfo.InvariantCulture, $"def \"crate_{l}\" (references = @../props/crate_{l:000}.usda@) {{ }}\n")
                )
        );
}
