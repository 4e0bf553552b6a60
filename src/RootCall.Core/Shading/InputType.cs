using System.Text.Json;
using System.Text.Json.Serialization;

namespace RootCall.Core.Shading;

/// <summary>
/// The type of an input or an output: MaterialX 1.39, "MaterialX Data Types", by its word. What a file calls by a word that
/// MaterialX does not have keeps that word.
/// </summary>
[JsonConverter(typeof(InputTypeConverter))]
public readonly record struct InputType
{
    private readonly string? word;

    private InputType(string word) => this.word = word.Length == 0 ? null : word;

    public static InputType Float { get; } = new("float");

    public static InputType Integer { get; } = new("integer");

    public static InputType Boolean { get; } = new("boolean");

    public static InputType Text { get; } = new("string");

    public static InputType FileName { get; } = new("filename");

    public static InputType Color3 { get; } = new("color3");

    public static InputType Color4 { get; } = new("color4");

    public static InputType Vector2 { get; } = new("vector2");

    public static InputType Vector3 { get; } = new("vector3");

    public static InputType Vector4 { get; } = new("vector4");

    /// <summary>Empty where no file said it.</summary>
    public string Word => word ?? string.Empty;

    public bool IsSaid => Word.Length > 0;

    /// <summary>Three or four numbers that are a colour.</summary>
    public bool IsColour => this == Color3 || this == Color4;

    /// <summary>An image can give its value.</summary>
    public bool TakesImage => Numbers > 0 && this != Integer;

    /// <summary>How many numbers a value has; 0 for one that is no colour, vector or number.</summary>
    public int Numbers =>
        Word switch
        {
            "float" or "integer" => 1,
            "vector2" => 2,
            "color3" or "vector3" => 3,
            "color4" or "vector4" => 4,
            _ => 0,
        };

    public static InputType Of(string word) => new(word);

    /// <summary>The colour or number of so many parts.</summary>
    public static InputType OfNumbers(int count) =>
        count switch
        {
            2 => Vector2,
            3 => Color3,
            >= 4 => Color4,
            _ => Float,
        };

    public override string ToString() => Word;
}

public sealed class InputTypeConverter : JsonConverter<InputType>
{
    public override InputType Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        InputType.Of(reader.GetString() ?? string.Empty);

    public override void Write(Utf8JsonWriter writer, InputType value, JsonSerializerOptions options) =>
        writer.WriteStringValue(value.Word);
}
