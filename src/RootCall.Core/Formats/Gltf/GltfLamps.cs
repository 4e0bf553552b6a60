using System.Collections.Immutable;
using RootCall.Core.Formats.Json;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Lights of a glTF file: candela of points and spots, lux of parallel ones (KHR_lights_punctual).</summary>
internal static class GltfLamps
{
    public static ImmutableArray<Lamp> Read(JsonTree root, ImmutableArray<SceneNode> nodes) =>
        [.. nodes.Select((n, i) => n.Place >= 0 ? Of(root, root["nodes"][n.Place], i) : null).OfType<Lamp>()];

    private static Lamp? Of(JsonTree root, JsonTree node, int index)
    {
        const string Extension = "KHR_lights_punctual";
        if (
            node["extensions"][Extension]["light"].Index is not { } at
            || root["extensions"][Extension]["lights"][at] is not { Exists: true } light
        )
            return null;
        var strength = light["intensity"].Number ?? 1;
        double Of(int channel) => (light["color"][channel].Number ?? 1) * strength;
        var colour = (Of(0), Of(1), Of(2));
        double Angle(string name, double otherwise) => double.RadiansToDegrees(light["spot"][name].Number ?? otherwise);
        return light["type"].Text switch
        {
            "point" => new(index, LampShape.Point, colour),
            "directional" => new(index, LampShape.Parallel, colour),
            "spot" => new(index, LampShape.Point, colour) { Cone = new(Angle("innerConeAngle", 0), Angle("outerConeAngle", Math.PI / 4)) },
            _ => null,
        };
    }
}
