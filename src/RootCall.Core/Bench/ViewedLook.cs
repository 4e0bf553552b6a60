using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Audit;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Bench;

/// <summary>
/// As much of a material as a view of the whole scene shows while it is turned: base colour and its map, metalness, roughness, opacity
/// and what it gives off. What is fed by an image other than the base colour stands by that image's mean. Nobody judges a look by it.
/// </summary>
/// <param name="Colour">Linear r g b; what the map is multiplied by.</param>
/// <param name="Emission">Linear r g b.</param>
/// <param name="Map">Null for none, or one that did not come (<paramref name="IsMapMissing"/>).</param>
/// <param name="IsCutOut">The alpha of the map says where it is not there.</param>
/// <param name="Missing">Images that it calls for and that did not come.</param>
public sealed record ViewedLook(
    string Name,
    string Title,
    ImmutableArray<double> Colour,
    double Metalness,
    double Roughness,
    double Opacity,
    ImmutableArray<double> Emission,
    ViewedMap? Map,
    bool IsMapMissing,
    bool IsCutOut,
    int Missing
)
{
    /// <summary>Where nothing says it: in the middle of matte and glossy.</summary>
    private const double PlainRoughness = 0.5;

    public static ViewedLook Of(MaterialView material)
    {
        var colour = material.Role(Role.BaseColour);
        var map = colour?.Maps.FirstOrDefault(m => m is { HasCome: true, Answer: not null });
        var opacity = material.Role(Role.Opacity);
        var weight = Mean(material, Role.BaseWeight) ?? 1;
        var glow = Mean(material, Role.EmissionStrength) ?? 1;
        var isCutOut = map is not null && opacity?.Maps.Any(m => m.Channel == Channels.A && m.Use.Reference == map.Use.Reference) == true;
        return new(
            material.Name,
            material.Material.Name,
            [.. Three(colour, map is null ? 0.5 : 1).Select(c => c * weight)],
            Mean(material, Role.Metalness) ?? 0,
            Mean(material, Role.Roughness) ?? 1 - Mean(material, Role.Glossiness) ?? PlainRoughness,
            isCutOut ? 1 : Mean(material, Role.Opacity) ?? 1 - Mean(material, Role.Transparency) ?? 1,
            [.. Three(material.Role(Role.Emission), 0).Select(c => c * glow)],
            map is null ? null : ViewedMap.Of(map, material.IsGltf),
            map is null && colour is { Maps.IsEmpty: false },
            isCutOut,
            material.Maps.Where(m => !m.HasCome).Select(m => m.Use.Reference).Distinct().Count()
        );
    }

    private static double? Mean(MaterialView material, Role role) =>
        material.Role(role) is not { } input ? material.Number(role)
        : input.Maps.FirstOrDefault() is { } map ? map.Stats?.Mean
        : input.Number;

    private static ImmutableArray<double> Three(InputView? input, double otherwise) =>
        input?.Numbers switch
        {
            [var r, var g, var b, ..] => [r, g, b],
            [var grey, ..] => [grey, grey, grey],
            _ => [otherwise, otherwise, otherwise],
        };
}

/// <summary>A picture that lies on a material.</summary>
/// <param name="Number">Of its reference.</param>
/// <param name="Matrix">
/// From glTF's coordinates, V downwards, to the place in the picture, V downwards: two rows of three numbers, for u, v and 1.
/// </param>
/// <param name="UvSet">As the format names it; empty for the mesh's first.</param>
/// <param name="Width">Pixels; 0 where it is not known.</param>
public sealed record ViewedMap(
    int Number,
    ImmutableArray<double> Matrix,
    [property: JsonConverter(typeof(WrapWordConverter))] WrapMode WrapU,
    [property: JsonConverter(typeof(WrapWordConverter))] WrapMode WrapV,
    string UvSet,
    int Width,
    int Height
)
{
    /// <param name="countsDown">The format's own V grows downwards.</param>
    public static ViewedMap Of(MapView map, bool countsDown)
    {
        var move = new UvMove(map.Use.Transform, countsDown, isTiled: false);
        // It is an affine map: three places say all of it.
        (double U, double V) At(float u, float v) => move.Of([new(u, 1 - v, 0, 0)]).Uv is var to ? (to.X, to.Y) : default;
        var (origin, right, down) = (At(0, 0), At(1, 0), At(0, 1));
        return new(
            map.Answer!.Number,
            [right.U - origin.U, down.U - origin.U, origin.U, right.V - origin.V, down.V - origin.V, origin.V],
            map.Use.WrapU,
            map.Use.WrapV,
            map.Use.UvSet,
            map.Facts?.Width ?? 0,
            map.Facts?.Height ?? 0
        );
    }

    /// <summary>How large a texel of the picture is on a surface, in metres; null where that is not known.</summary>
    /// <param name="perUv">Metres that one step of the coordinates covers.</param>
    public double? Texel(double perUv)
    {
        var texels = Math.Abs((Matrix[0] * Matrix[4]) - (Matrix[1] * Matrix[3])) * Width * Height;
        return perUv > 0 && texels > 0 ? perUv / Math.Sqrt(texels) : null;
    }
}

/// <summary>Ways to wrap as words in JSON: <c>repeat</c>.</summary>
public sealed class WrapWordConverter() : JsonStringEnumConverter<WrapMode>(JsonNamingPolicy.CamelCase);
