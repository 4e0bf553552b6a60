using System.Collections.Immutable;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Where one input of the shading model is written in a glTF material.</summary>
/// <param name="Name">The input's name in the graph.</param>
/// <param name="Type">MaterialX type.</param>
/// <param name="Holder">The object in the material that holds it: empty, <c>pbrMetallicRoughness</c>, or an extension's name.</param>
/// <param name="Factor">Key of the factor; null when there is none.</param>
/// <param name="Default">The factor that holds when none is written.</param>
/// <param name="Texture">Key of the texture; null when there is none.</param>
/// <param name="Channels">The channels of the texture that arrive.</param>
/// <param name="Colour">The texture's colour channels are sRGB-encoded.</param>
internal sealed record GltfInput(
    string Name,
    string Type,
    string Holder,
    string? Factor,
    ImmutableArray<double> Default,
    string? Texture = null,
    string Channels = "",
    bool Colour = false
)
{
    /// <summary>First component of a factor that several inputs share (base colour and alpha).</summary>
    public int FactorOffset { get; init; }

    /// <summary>Length of the factor as it is written.</summary>
    public int FactorLength { get; init; } = 1;

    /// <summary>Key of the number in the texture's entry that what is read is multiplied by; null where there is none.</summary>
    public string? Strength =>
        Texture switch
        {
            "normalTexture" or "clearcoatNormalTexture" => "scale",
            "occlusionTexture" => "strength",
            _ => null,
        };

    public bool IsExtension => Holder.Contains('_', StringComparison.Ordinal);
}

/// <summary>
/// The inputs of glTF 2.0 (section 5.19 to 5.22) and of the ratified KHR_materials extensions, each with the default its
/// specification gives; and of the archived KHR_materials_pbrSpecularGlossiness.
/// </summary>
internal static class GltfInputs
{
    public const string MetallicRoughness = "gltf-metallic-roughness";
    public const string SpecularGlossiness = "gltf-specular-glossiness";
    public const string Pbr = "pbrMetallicRoughness";
    public const string SpecularGlossinessExtension = "KHR_materials_pbrSpecularGlossiness";

    public static ImmutableArray<GltfInput> Core { get; } =
    [
        new("baseColor", "color3", Pbr, "baseColorFactor", [1, 1, 1], "baseColorTexture", "rgb", true) { FactorLength = 4 },
        new("alpha", "float", Pbr, "baseColorFactor", [1], "baseColorTexture", "a") { FactorOffset = 3, FactorLength = 4 },
        new("metallic", "float", Pbr, "metallicFactor", [1], "metallicRoughnessTexture", "b"),
        new("roughness", "float", Pbr, "roughnessFactor", [1], "metallicRoughnessTexture", "g"),
    ];

    public static ImmutableArray<GltfInput> SpecularGlossinessInputs { get; } =
    [
        new("diffuse", "color3", SpecularGlossinessExtension, "diffuseFactor", [1, 1, 1], "diffuseTexture", "rgb", true)
        {
            FactorLength = 4,
        },
        new("alpha", "float", SpecularGlossinessExtension, "diffuseFactor", [1], "diffuseTexture", "a")
        {
            FactorOffset = 3,
            FactorLength = 4,
        },
        new("specular", "color3", SpecularGlossinessExtension, "specularFactor", [1, 1, 1], "specularGlossinessTexture", "rgb", true)
        {
            FactorLength = 3,
        },
        new("glossiness", "float", SpecularGlossinessExtension, "glossinessFactor", [1], "specularGlossinessTexture", "a"),
    ];

    public static ImmutableArray<GltfInput> Shared { get; } =
    [
        new("normal", "vector3", string.Empty, null, [], "normalTexture", "rgb"),
        new("occlusion", "float", string.Empty, null, [1], "occlusionTexture", "r"),
        new("emissive", "color3", string.Empty, "emissiveFactor", [0, 0, 0], "emissiveTexture", "rgb", true) { FactorLength = 3 },
        new("alphaCutoff", "float", string.Empty, "alphaCutoff", [0.5]),
    ];

    public static ImmutableArray<GltfInput> Extensions { get; } =
    [
        new("emissiveStrength", "float", "KHR_materials_emissive_strength", "emissiveStrength", [1]),
        new("ior", "float", "KHR_materials_ior", "ior", [1.5]),
        new("specular", "float", "KHR_materials_specular", "specularFactor", [1], "specularTexture", "a"),
        new("specularColor", "color3", "KHR_materials_specular", "specularColorFactor", [1, 1, 1], "specularColorTexture", "rgb", true)
        {
            FactorLength = 3,
        },
        new("transmission", "float", "KHR_materials_transmission", "transmissionFactor", [0], "transmissionTexture", "r"),
        new(
            "diffuseTransmission",
            "float",
            "KHR_materials_diffuse_transmission",
            "diffuseTransmissionFactor",
            [0],
            "diffuseTransmissionTexture",
            "a"
        ),
        new(
            "diffuseTransmissionColor",
            "color3",
            "KHR_materials_diffuse_transmission",
            "diffuseTransmissionColorFactor",
            [1, 1, 1],
            "diffuseTransmissionColorTexture",
            "rgb",
            true
        )
        {
            FactorLength = 3,
        },
        new("thickness", "float", "KHR_materials_volume", "thicknessFactor", [0], "thicknessTexture", "g"),
        new("attenuationDistance", "float", "KHR_materials_volume", "attenuationDistance", []),
        new("attenuationColor", "color3", "KHR_materials_volume", "attenuationColor", [1, 1, 1]) { FactorLength = 3 },
        new("clearcoat", "float", "KHR_materials_clearcoat", "clearcoatFactor", [0], "clearcoatTexture", "r"),
        new("clearcoatRoughness", "float", "KHR_materials_clearcoat", "clearcoatRoughnessFactor", [0], "clearcoatRoughnessTexture", "g"),
        new("clearcoatNormal", "vector3", "KHR_materials_clearcoat", null, [], "clearcoatNormalTexture", "rgb"),
        new("sheenColor", "color3", "KHR_materials_sheen", "sheenColorFactor", [0, 0, 0], "sheenColorTexture", "rgb", true)
        {
            FactorLength = 3,
        },
        new("sheenRoughness", "float", "KHR_materials_sheen", "sheenRoughnessFactor", [0], "sheenRoughnessTexture", "a"),
        new("anisotropyStrength", "float", "KHR_materials_anisotropy", "anisotropyStrength", [0], "anisotropyTexture", "rgb"),
        new("anisotropyRotation", "float", "KHR_materials_anisotropy", "anisotropyRotation", [0]),
        new("iridescence", "float", "KHR_materials_iridescence", "iridescenceFactor", [0], "iridescenceTexture", "r"),
        new("iridescenceIor", "float", "KHR_materials_iridescence", "iridescenceIor", [1.3]),
        new("iridescenceThicknessMinimum", "float", "KHR_materials_iridescence", "iridescenceThicknessMinimum", [100]),
        new(
            "iridescenceThicknessMaximum",
            "float",
            "KHR_materials_iridescence",
            "iridescenceThicknessMaximum",
            [400],
            "iridescenceThicknessTexture",
            "g"
        ),
        new("dispersion", "float", "KHR_materials_dispersion", "dispersion", [0]),
    ];

    /// <summary>The inputs of a model, in the order they are shown.</summary>
    public static IEnumerable<GltfInput> Of(string model) =>
        (model == SpecularGlossiness ? SpecularGlossinessInputs : Core).Concat(Shared).Concat(Extensions);
}
