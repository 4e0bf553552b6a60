using System.Text.Json;
using System.Text.Json.Serialization;

namespace RootCall.Core.Shading;

/// <summary>
/// What an input of a shading model is for, in one word for all models, so that the same look can be found again under another
/// model's names; and what a map is made for, which may be several of them at once.
/// </summary>
[JsonConverter(typeof(RoleConverter))]
public enum Role
{
    BaseColour,
    BaseWeight,
    DiffuseRoughness,
    Metalness,
    Roughness,

    /// <summary>1 - roughness.</summary>
    Glossiness,

    /// <summary>The exponent of a Phong or Blinn-Phong lobe: the larger, the sharper. It is no glossiness.</summary>
    SpecularExponent,
    Normal,
    Tangent,
    Bump,
    Displacement,
    Occlusion,
    Emission,
    EmissionStrength,
    Opacity,

    /// <summary>1 - opacity.</summary>
    Transparency,
    OpacityThreshold,
    Specular,
    SpecularColour,
    IndexOfRefraction,
    Anisotropy,
    AnisotropyRotation,
    Transmission,
    TransmissionColour,
    TransmissionDepth,
    TransmissionScatter,
    Dispersion,
    DiffuseTransmission,
    DiffuseTransmissionColour,
    Thickness,
    ThinWalled,
    Subsurface,
    SubsurfaceColour,
    SubsurfaceRadius,
    SubsurfaceScale,
    Sheen,
    SheenColour,
    SheenRoughness,
    Coat,
    CoatColour,
    CoatRoughness,
    CoatNormal,
    CoatAnisotropy,
    CoatIndexOfRefraction,
    Iridescence,
    IridescenceThickness,
    IridescenceIndexOfRefraction,
    Ambient,
    Reflection,
    ReflectionStrength,

    /// <summary>Light from all around.</summary>
    Environment,

    /// <summary>Two channels of one map, as glTF 2.0 has them: roughness in green, metalness in blue.</summary>
    MetallicRoughness,

    /// <summary>Occlusion, roughness and metalness in the channels of one map, in the order that its name tells.</summary>
    Packed,
}

public static class Roles
{
    private static readonly string[] Words =
    [
        .. Enum.GetNames<Role>().Select(n => JsonNamingPolicy.SnakeCaseLower.ConvertName(n).Replace('_', ' ')),
    ];

    private static readonly Dictionary<string, Role> ByWord = Enum.GetValues<Role>().ToDictionary(Word, StringComparer.Ordinal);

    /// <summary>As people read it: <c>base colour</c>.</summary>
    public static string Word(this Role role) => Words[(int)role];

    /// <summary>Null for a word that names no role.</summary>
    public static Role? Of(string word) => ByWord.TryGetValue(word, out var role) ? role : null;

    /// <summary>A vector in tangent space is stored in it.</summary>
    public static bool IsNormal(this Role? role) => role is Role.Normal or Role.CoatNormal;

    /// <summary>What a map is made for that feeds inputs of these roles, in the order of the model; null for none.</summary>
    public static Role? OfMap(IEnumerable<Role> inputs)
    {
        Role? first = null;
        var (metalness, roughness, occlusion, colour) = (false, false, false, false);
        foreach (var role in inputs)
        {
            first ??= role;
            metalness |= role == Role.Metalness;
            roughness |= role == Role.Roughness;
            occlusion |= role == Role.Occlusion;
            colour |= role == Role.BaseColour;
        }

        return metalness && roughness ? (occlusion ? Role.Packed : Role.MetallicRoughness)
            : colour ? Role.BaseColour
            : first switch
            {
                Role.SpecularColour => Role.Specular,
                Role.SpecularExponent => Role.Glossiness,
                Role.CoatNormal => Role.Normal,
                Role.Transparency => Role.Opacity,
                Role.Ambient => Role.BaseColour,
                Role.Reflection => Role.Environment,
                var one => one,
            };
    }
}

/// <summary>Roles as words in JSON.</summary>
public sealed class RoleConverter : JsonConverter<Role>
{
    public override Role Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.GetString() is { } word && Roles.Of(word) is { } role
            ? role
            : throw new JsonException($"“{reader.GetString()}” is no role of an input or a map.");

    public override void Write(Utf8JsonWriter writer, Role value, JsonSerializerOptions options) => writer.WriteStringValue(value.Word());
}
