using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

namespace RootCall.Core.Files;

/// <summary>
/// JSON that people write and keep: commented, forgiving about commas, strict about names. Types are known when the program is
/// built, so that it runs without a compiler beside it. Readers made that way hand over nothing for what a text leaves out,
/// which is why such properties turn nothing into their default as they are set.
/// </summary>
internal static class JsonText
{
    public static JsonSerializerOptions Options(params ReadOnlySpan<JsonConverter> converters)
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web)
        {
            WriteIndented = true,
            // A scene may hold numbers that are none, and an edit may name them.
            NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals,
            NewLine = "\n",
            ReadCommentHandling = JsonCommentHandling.Skip,
            AllowTrailingCommas = true,
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        };
        foreach (var converter in converters)
            options.Converters.Add(converter);
        return options;
    }

    /// <summary>What a text leaves out is a list without entries.</summary>
    public static ImmutableArray<T> Or<T>(ImmutableArray<T> list) => list.IsDefault ? [] : list;

    /// <param name="from">What the text is called in a message.</param>
    /// <param name="what">What it should be, in a word or two.</param>
    /// <exception cref="CannotUseException">It is not JSON, or not such a thing; the sentence says where.</exception>
    public static T Read<T>(ReadOnlySpan<byte> json, string from, string what, JsonTypeInfo<T> type)
    {
        try
        {
            return JsonSerializer.Deserialize(json, type) ?? throw new CannotUseException($"{from} is empty; a {what} is expected.");
        }
        catch (Exception e) when (e is JsonException or NotSupportedException)
        {
            var place = e is JsonException { LineNumber: { } line } ? $", line {line + 1}" : string.Empty;
            throw new CannotUseException($"{from} is no {what}{place}: {e.Message.Split(". Path")[0].TrimEnd('.')}.", e);
        }
    }

    public static T Read<T>(string json, string from, string what, JsonTypeInfo<T> type) =>
        Read(System.Text.Encoding.UTF8.GetBytes(json), from, what, type);
}
