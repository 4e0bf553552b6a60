using System.Collections.Frozen;
using System.Collections.Immutable;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Where one input of the shading model is written in a glTF material.</summary>
/// <param name="Name">The input's name in the model.</param>
/// <param name="Holder">The object in the material that holds it: empty, <c>pbrMetallicRoughness</c>, or an extension's name.</param>
/// <param name="Factor">Key of the factor; null when there is none.</param>
/// <param name="Texture">Key of the texture; null when there is none.</param>
/// <param name="Model">The shading model that says what it means.</param>
internal sealed record GltfInput(
    string Name,
    string Holder,
    string? Factor,
    string? Texture = null,
    string Model = GltfInputs.MetallicRoughness
)
{
    private readonly ModelInput spec = ShadingModels.OfType(Model)!.Input(Name)!;

    /// <summary>MaterialX type.</summary>
    public InputType Type => spec.Type;

    /// <summary>The factor that holds when none is written.</summary>
    public ImmutableArray<double> Default => spec.Default;

    /// <summary>The channels of the texture that arrive.</summary>
    public Channels Channels => spec.Channels ?? Channels.Rgb;

    /// <summary>The texture's colour channels are sRGB-encoded.</summary>
    public bool Colour => Texture is not null && spec.IsColour;

    public Role? Role => spec.Role;

    /// <summary>First component of a factor that several inputs share (base colour and alpha).</summary>
    public int FactorOffset { get; init; }

    /// <summary>Length of the factor as it is written.</summary>
    public int FactorLength { get; init; } = ShadingModels.OfType(Model)!.Input(Name)!.Type == InputType.Color3 ? 3 : 1;

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
/// The inputs of glTF 2.0 (section 5.19 to 5.22) and of the ratified KHR_materials extensions; and of the archived
/// KHR_materials_pbrSpecularGlossiness.
/// </summary>
internal static class GltfInputs
{
    public const string MetallicRoughness = "gltf-metallic-roughness";
    public const string SpecularGlossiness = "gltf-specular-glossiness";
    public const string Pbr = "pbrMetallicRoughness";
    public const string SpecularGlossinessExtension = "KHR_materials_pbrSpecularGlossiness";

    public static ImmutableArray<GltfInput> Core { get; } =
    [
        new("baseColor", Pbr, "baseColorFactor", "baseColorTexture") { FactorLength = 4 },
        new("alpha", Pbr, "baseColorFactor", "baseColorTexture") { FactorOffset = 3, FactorLength = 4 },
        new("metallic", Pbr, "metallicFactor", "metallicRoughnessTexture"),
        new("roughness", Pbr, "roughnessFactor", "metallicRoughnessTexture"),
    ];
    public static ImmutableArray<GltfInput> SpecularGlossinessInputs { get; } =
    [
        new("diffuse", SpecularGlossinessExtension, "diffuseFactor", "diffuseTexture", SpecularGlossiness) { FactorLength = 4 },
        new("alpha", SpecularGlossinessExtension, "diffuseFactor", "diffuseTexture", SpecularGlossiness)
        {
            FactorOffset = 3,
            FactorLength = 4,
        },
        new("specular", SpecularGlossinessExtension, "specularFactor", "specularGlossinessTexture", SpecularGlossiness),
        new("glossiness", SpecularGlossinessExtension, "glossinessFactor", "specularGlossinessTexture", SpecularGlossiness),
    ];
    public static ImmutableArray<GltfInput> Shared { get; } =
    [
        new("normal", string.Empty, null, "normalTexture"),
        new("occlusion", string.Empty, null, "occlusionTexture"),
        new("emissive", string.Empty, "emissiveFactor", "emissiveTexture"),
        new("alphaCutoff", string.Empty, "alphaCutoff"),
    ];
    public static ImmutableArray<GltfInput> Extensions { get; } =
    [
        new("emissiveStrength", "KHR_materials_emissive_strength", "emissiveStrength"),
        new("ior", "KHR_materials_ior", "ior"),
        new("specular", "KHR_materials_specular", "specularFactor", "specularTexture"),
        new("specularColor", "KHR_materials_specular", "specularColorFactor", "specularColorTexture"),
        new("transmission", "KHR_materials_transmission", "transmissionFactor", "transmissionTexture"),
        new("diffuseTransmission", "KHR_materials_diffuse_transmission", "diffuseTransmissionFactor", "diffuseTransmissionTexture"),
        new(
            "diffuseTransmissionColor",
            "KHR_materials_diffuse_transmission",
            "diffuseTransmissionColorFactor",
            "diffuseTransmissionColorTexture"
        ),
        new("thickness", "KHR_materials_volume", "thicknessFactor", "thicknessTexture"),
        new("attenuationDistance", "KHR_materials_volume", "attenuationDistance"),
        new("attenuationColor", "KHR_materials_volume", "attenuationColor"),
        new("clearcoat", "KHR_materials_clearcoat", "clearcoatFactor", "clearcoatTexture"),
        new("clearcoatRoughness", "KHR_materials_clearcoat", "clearcoatRoughnessFactor", "clearcoatRoughnessTexture"),
        new("clearcoatNormal", "KHR_materials_clearcoat", null, "clearcoatNormalTexture"),
        new("sheenColor", "KHR_materials_sheen", "sheenColorFactor", "sheenColorTexture"),
        new("sheenRoughness", "KHR_materials_sheen", "sheenRoughnessFactor", "sheenRoughnessTexture"),
        new("anisotropyStrength", "KHR_materials_anisotropy", "anisotropyStrength", "anisotropyTexture"),
        new("anisotropyRotation", "KHR_materials_anisotropy", "anisotropyRotation"),
        new("iridescence", "KHR_materials_iridescence", "iridescenceFactor", "iridescenceTexture"),
        new("iridescenceIor", "KHR_materials_iridescence", "iridescenceIor"),
        new("iridescenceThicknessMinimum", "KHR_materials_iridescence", "iridescenceThicknessMinimum"),
        new("iridescenceThicknessMaximum", "KHR_materials_iridescence", "iridescenceThicknessMaximum", "iridescenceThicknessTexture"),
        new("dispersion", "KHR_materials_dispersion", "dispersion"),
    ];

    /// <summary>What the map under a key is for; null for a key of an extension that is not known.</summary>
    public static Role? RoleOf(string texture) => RolesOfTextures.GetValueOrDefault(texture);

    private static readonly FrozenDictionary<string, Role?> RolesOfTextures = (
        from input in Core.Concat(SpecularGlossinessInputs).Concat(Shared).Concat(Extensions)
        where input.Texture is not null
        group input.Role by input.Texture
    ).ToFrozenDictionary(g => g.Key!, g => Roles.OfMap(g.OfType<Role>()), StringComparer.Ordinal);

    /// <summary>The inputs of a model, in the order they are shown.</summary>
    public static IEnumerable<GltfInput> Of(string model) =>
        (model == SpecularGlossiness ? SpecularGlossinessInputs : Core).Concat(Shared).Concat(Extensions);
}
