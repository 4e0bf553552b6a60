using System.Text.Json;

namespace RootCall.Core.Crossing.Models;

/// <summary>What the inputs of glTF are called: by itself, and by MaterialX's <c>gltf_pbr</c>, which lacks some of them.</summary>
/// <param name="Model">Id of the shading model.</param>
/// <param name="HasMore">It is glTF itself: it can be unlit, and lets matte light through.</param>
internal sealed record GltfNames(string Model, bool HasMore)
{
    public static GltfNames Gltf { get; } = new("gltf-metallic-roughness", HasMore: true);

    public static GltfNames SpecularGlossiness { get; } = new("gltf-specular-glossiness", HasMore: true);

    public static GltfNames MaterialX { get; } = new("materialx-gltf-pbr", HasMore: false);

    /// <param name="input">As glTF calls it.</param>
    public string this[string input] =>
        HasMore ? input
        : input == "iridescenceThicknessMaximum" ? "iridescence_thickness"
        : JsonNamingPolicy.SnakeCaseLower.ConvertName(input);
}
