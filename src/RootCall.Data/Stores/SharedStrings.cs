using System.Text.Json;
using System.Text.Json.Serialization;
using CommunityToolkit.HighPerformance.Buffers;

namespace RootCall.Data.Stores;

/// <summary>
/// Strings that repeat become one: thousands of references say the same folder, file and input, and the same path several times.
/// </summary>
internal sealed class SharedStrings : JsonConverter<string>
{
    private const int Longest = 512;
    private readonly StringPool pool = new(4_096);

    public override string? Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options)
    {
        var length = reader.HasValueSequence ? reader.ValueSequence.Length : reader.ValueSpan.Length;
        if (reader.TokenType != JsonTokenType.String || length > Longest)
            return reader.GetString();
        Span<char> text = stackalloc char[Longest];
        return pool.GetOrAdd(text[..reader.CopyString(text)]);
    }

    public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) => writer.WriteStringValue(value);

    public override string ReadAsPropertyName(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => reader.GetString()!;

    public override void WriteAsPropertyName(Utf8JsonWriter writer, string value, JsonSerializerOptions options) =>
        writer.WritePropertyName(value);
}
