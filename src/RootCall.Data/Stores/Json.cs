using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Shading;

namespace RootCall.Data.Stores;

/// <summary>How Core's records are kept in jsonb columns.</summary>
internal static class Json
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        // Channels have words of their own, which this list would else come before.
        Converters = { new ChannelsConverter(), new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower), new SharedStrings() },
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        // A broken file may hold numbers that are none.
        NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals,
        // jsonb keeps no order of keys, so the kind of an edit need not come first.
        AllowOutOfOrderMetadataProperties = true,
    };

    public static JsonDocument Document<T>(T value) => JsonSerializer.SerializeToDocument(value, Options);

    public static string Text<T>(T value) => JsonSerializer.Serialize(value, Options);

    public static T Parse<T>(string text) => JsonSerializer.Deserialize<T>(text, Options)!;

    public static T Read<T>(Stream utf8) => JsonSerializer.Deserialize<T>(utf8, Options)!;

    public static T Read<T>(JsonDocument document) => document.Deserialize<T>(Options)!;
}
