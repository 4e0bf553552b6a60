using System.Text.Json;
using System.Text.Json.Serialization;

namespace RootCall.Core.Shading;

/// <summary>How the numbers of an image become the numbers that a model reckons with.</summary>
public enum ColourSpace
{
    /// <summary>Neither the file nor its format says.</summary>
    Unsaid,

    /// <summary>The reader decides by the image file.</summary>
    Auto,

    /// <summary>Colours encoded with the curve of IEC 61966-2-1.</summary>
    Srgb,

    /// <summary>Linear light, primaries of Rec. 709.</summary>
    Linear,

    /// <summary>Numbers that are no colours.</summary>
    Data,

    /// <summary>Linear light, primaries AP1 (ACES, S-2014-004).</summary>
    AcesCg,

    /// <summary>Another one, which only its name tells.</summary>
    Other,
}

/// <summary>By its word; what another version wrote as a name of its own is taken for what it names.</summary>
public sealed class ColourSpaceConverter : JsonConverter<ColourSpace>
{
    public override ColourSpace Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        Enum.TryParse<ColourSpace>(reader.GetString(), ignoreCase: true, out var space) ? space : ColourSpaces.Of(reader.GetString()!);

    public override void Write(Utf8JsonWriter writer, ColourSpace value, JsonSerializerOptions options) =>
        writer.WriteStringValue(value.Word());
}

public static class ColourSpaces
{
    public static string Word(this ColourSpace space) => space.ToString().ToLowerInvariant();

    /// <summary>
    /// What a name says that a file writes: MaterialX 1.39, "Color Spaces in MaterialX"; USD's <c>sourceColorSpace</c>; names of the
    /// published ACES configurations.
    /// </summary>
    public static ColourSpace Of(string declared) =>
        declared switch
        {
            "" => ColourSpace.Unsaid,
            "auto" => ColourSpace.Auto,
            "srgb" or "sRGB" or "srgb_texture" or "srgb_rec709_scene" => ColourSpace.Srgb,
            "linear" or "lin_rec709" or "lin_rec709_scene" => ColourSpace.Linear,
            "raw" or "none" or "data" => ColourSpace.Data,
            "acescg" or "ACEScg" or "ACES - ACEScg" or "lin_ap1" or "lin_ap1_scene" => ColourSpace.AcesCg,
            _ => ColourSpace.Other,
        };
}
