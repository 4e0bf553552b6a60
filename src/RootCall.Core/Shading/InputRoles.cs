using System.Collections.Frozen;

namespace RootCall.Core.Shading;

/// <summary>
/// What an input of a shading model is for, in one word for all models, so that the same look can be found again under
/// another model's names. Names: glTF 2.0 with its KHR_materials extensions, UsdPreviewSurface 2.6, MaterialX standard
/// surface 1.0.1 and OpenPBR 1.1, Wavefront MTL, the common profile of COLLADA 1.4.1, and the property names of FBX.
/// </summary>
public static class InputRoles
{
    public const string BaseColour = "base colour";
    public const string Opacity = "opacity";

    private static readonly (string Role, string Names)[] Table =
    [
        (BaseColour, "baseColor diffuse diffuseColor base_color Kd DiffuseColor albedo"),
        ("metalness", "metallic metalness base_metalness Pm"),
        ("roughness", "roughness specular_roughness Pr"),
        ("glossiness", "glossiness shininess Ns Shininess ShininessExponent"),
        ("normal", "normal geometry_normal norm NormalMap"),
        ("bump", "bump Bump"),
        ("displacement", "displacement disp DisplacementColor"),
        ("occlusion", "occlusion ambient_occlusion"),
        ("emission", "emissive emissiveColor emission_color emission Ke EmissiveColor"),
        ("emission strength", "emissiveStrength emission_luminance"),
        (Opacity, "alpha opacity geometry_opacity d transparency TransparencyFactor Tr"),
        ("specular", "specular specular_weight SpecularFactor"),
        ("specular colour", "specularColor specular_color Ks SpecularColor"),
        ("index of refraction", "ior specular_IOR specular_ior Ni index_of_refraction"),
        ("transmission", "transmission transmission_weight"),
        ("coat", "clearcoat coat coat_weight Pc"),
        ("coat roughness", "clearcoatRoughness coat_roughness Pcr"),
        ("coat normal", "clearcoatNormal coat_normal geometry_coat_normal"),
        ("sheen colour", "sheenColor sheen_color fuzz_color"),
        ("sheen roughness", "sheenRoughness sheen_roughness fuzz_roughness"),
        ("sheen", "sheen fuzz_weight Ps"),
        ("subsurface", "subsurface subsurface_weight"),
        ("anisotropy", "anisotropyStrength specular_anisotropy specular_roughness_anisotropy aniso"),
        ("ambient", "Ka ambient AmbientColor"),
        ("reflection", "refl reflective ReflectionColor"),
        ("environment", "texture:file"),
    ];

    private static readonly FrozenDictionary<string, string> Roles = Table
        .SelectMany(t => t.Names.Split(' ').Select(n => KeyValuePair.Create(n, t.Role)))
        .DistinctBy(p => p.Key, StringComparer.OrdinalIgnoreCase)
        .ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    /// <summary>The inputs each model has, where a look is carried between models.</summary>
    private static readonly FrozenDictionary<string, string[]> Models = new Dictionary<string, string[]>
    {
        ["gltf-metallic-roughness"] =
        [
            "baseColor",
            "metallic",
            "roughness",
            "normal",
            "occlusion",
            "emissive",
            "emissiveStrength",
            "alpha",
            "specular",
            "specularColor",
            "ior",
            "transmission",
            "clearcoat",
            "clearcoatRoughness",
            "clearcoatNormal",
            "sheenColor",
            "sheenRoughness",
            "anisotropyStrength",
        ],
        ["gltf-specular-glossiness"] = ["diffuse", "glossiness", "normal", "occlusion", "emissive", "alpha"],
        ["UsdPreviewSurface"] =
        [
            "diffuseColor",
            "metallic",
            "roughness",
            "normal",
            "displacement",
            "occlusion",
            "emissiveColor",
            "opacity",
            "specularColor",
            "ior",
            "clearcoat",
            "clearcoatRoughness",
        ],
        ["standard_surface"] =
        [
            "base_color",
            "metalness",
            "specular_roughness",
            "normal",
            "emission_color",
            "opacity",
            "specular",
            "specular_color",
            "specular_IOR",
            "transmission",
            "coat",
            "coat_roughness",
            "coat_normal",
            "sheen",
            "sheen_color",
            "sheen_roughness",
            "subsurface",
            "specular_anisotropy",
        ],
        ["open_pbr_surface"] =
        [
            "base_color",
            "base_metalness",
            "specular_roughness",
            "geometry_normal",
            "emission_color",
            "emission_luminance",
            "geometry_opacity",
            "specular_weight",
            "specular_color",
            "specular_ior",
            "transmission_weight",
            "coat_weight",
            "coat_roughness",
            "geometry_coat_normal",
            "fuzz_weight",
            "fuzz_color",
            "fuzz_roughness",
            "subsurface_weight",
        ],
        ["mtl-phong"] = ["Kd", "Ks", "Ns", "Ke", "d", "Ni", "Ka", "bump", "disp", "refl", "norm", "Pr", "Pm"],
        ["mtl-pbr"] = ["Kd", "Ks", "Ke", "d", "Ni", "Ka", "bump", "disp", "norm", "Pr", "Pm", "Pc", "Pcr", "Ps", "aniso"],
        ["collada-common"] = ["diffuse", "shininess", "emission", "transparency", "ambient", "index_of_refraction", "reflective", "bump"],
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>Null for an input that no role is known for.</summary>
    public static string? Of(string input) => Roles.GetValueOrDefault(input);

    /// <summary>The input that plays a role in a model; null when the model has none.</summary>
    public static string? NameIn(string model, string role) => Models.GetValueOrDefault(Trimmed(model))?.FirstOrDefault(n => Of(n) == role);

    /// <summary>A colour is stored in the role: its images hold encoded colours.</summary>
    public static bool IsColour(string role) =>
        role is BaseColour or "emission" or "specular colour" or "sheen colour" or "ambient" or "reflection" or "environment";

    /// <summary>"ND_standard_surface_surfaceshader" is MaterialX's definition of standard_surface.</summary>
    private static string Trimmed(string model) =>
        model.StartsWith("ND_", StringComparison.Ordinal)
            ? model[3..].Replace("_surfaceshader", string.Empty, StringComparison.Ordinal)
            : model;
}
