using System.Text.Json;
using System.Text.Json.Serialization;

namespace RootCall.Core.Shading;

/// <summary>What of an image arrives at an input.</summary>
[JsonConverter(typeof(ChannelsConverter))]
public enum Channels
{
    Rgb,
    R,
    G,
    B,
    A,
    Rgba,
    Rg,

    /// <summary>One number made of red, green and blue: <c>-imfchan l</c> of MTL.</summary>
    Luminance,

    /// <summary>The depth that an image may carry: <c>-imfchan z</c> of MTL.</summary>
    Depth,
}

public static class ChannelWords
{
    /// <summary>As formats write it: <c>rgb</c>, <c>r</c>, <c>l</c>.</summary>
    public static string Word(this Channels channels) =>
        channels switch
        {
            Channels.R => "r",
            Channels.G => "g",
            Channels.B => "b",
            Channels.A => "a",
            Channels.Rgba => "rgba",
            Channels.Rg => "rg",
            Channels.Luminance => "l",
            Channels.Depth => "z",
            _ => "rgb",
        };

    /// <summary>Null for a word that means none.</summary>
    public static Channels? Of(string word) =>
        word switch
        {
            "rgb" => Channels.Rgb,
            "r" => Channels.R,
            "g" => Channels.G,
            "b" => Channels.B,
            "a" => Channels.A,
            "rgba" => Channels.Rgba,
            "rg" => Channels.Rg,
            "l" => Channels.Luminance,
            "z" => Channels.Depth,
            _ => null,
        };

    /// <summary>The channel at a place, as nodes that pick one count them: 0 to 3.</summary>
    public static Channels? At(double index) =>
        index switch
        {
            0 => Channels.R,
            1 => Channels.G,
            2 => Channels.B,
            3 => Channels.A,
            _ => null,
        };

    /// <summary>Its place among red, green, blue and alpha; null for several, or none of them.</summary>
    public static int? Place(this Channels channels) =>
        channels is Channels.R or Channels.G or Channels.B or Channels.A ? channels - Channels.R : null;

    /// <summary>One number arrives.</summary>
    public static bool IsOne(this Channels channels) => channels is not (Channels.Rgb or Channels.Rgba or Channels.Rg);
}

/// <summary>Writes and reads the word.</summary>
public sealed class ChannelsConverter : JsonConverter<Channels>
{
    public override Channels Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        var word = reader.GetString() ?? string.Empty;
        // Kept ledgers have nothing where glTF fixes no channel.
        if (word.Length == 0)
            return Channels.Rgb;
        return ChannelWords.Of(word)
            ?? throw new JsonException($"“{word}” is no channel of an image: there are r, g, b, a, rg, rgb, rgba, l and z");
    }

    public override void Write(Utf8JsonWriter writer, Channels value, JsonSerializerOptions options) =>
        writer.WriteStringValue(value.Word());
}
