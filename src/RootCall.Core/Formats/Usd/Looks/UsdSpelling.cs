using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>Values and types as a text layer spells them.</summary>
internal static class UsdSpelling
{
    /// <summary>The type of an attribute for an input of a MaterialX type.</summary>
    /// <param name="standard">Of a node of MaterialX, which has words and vectors of its own.</param>
    public static string TypeOf(InputType type, string input, bool standard = false) =>
        type.Word switch
        {
            "string" when standard => "string",
            "vector3" when standard => "float3",
            "color3" => "color3f",
            "vector3" => input.Contains("ormal", StringComparison.Ordinal) ? "normal3f" : "float3",
            "vector2" => "float2",
            "color4" => "color4f",
            "vector4" => "float4",
            "integer" => "int",
            "boolean" => "bool",
            "string" => input == "varname" ? "string" : "token",
            "filename" => "asset",
            _ => type.Word,
        };

    /// <summary>The type of the output that feeds an input; one channel of a texture is a float whatever it feeds.</summary>
    public static string OutputFor(ShaderInput input) =>
        input.Type.Word switch
        {
            _ when input.From?.Output is "r" or "g" or "b" or "a" => "float",
            "color3" or "vector3" => "float3",
            "color4" or "vector4" => "float4",
            "vector2" => "float2",
            "integer" => "int",
            _ => "float",
        };

    /// <summary>The node is one of MaterialX, by the id of its definition.</summary>
    public static bool IsStandard(ShaderNode node) => node.Type.StartsWith("ND_", StringComparison.Ordinal);

    /// <summary>The type of what a node gives to an input.</summary>
    public static string OutputOf(ShaderNode? node, ShaderInput input) =>
        node is not null && IsStandard(node) && NodeKinds.OutputOf(node) is { IsSaid: true } type
            ? TypeOf(type, input.Name, standard: true)
            : OutputFor(input);

    public static string Value(ShaderValue value, string type) =>
        type switch
        {
            "asset" => Asset(value.Text ?? string.Empty),
            "bool" when value.Numbers is [var truth] => truth == 0 ? "false" : "true",
            _ when value.Text is { } text => Quoted(text),
            _ when value.Numbers is [var one] => NumberText.Of(one),
            _ => $"({NumberText.Join(", ", value.Numbers)})",
        };

    public static string Quoted(string text)
    {
        text = text.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("\"", "\\\"", StringComparison.Ordinal);
        return $"\"{text.Replace("\n", "\\n", StringComparison.Ordinal)}\"";
    }

    public static string Asset(string path) => path.Contains('@', StringComparison.Ordinal) ? $"@@@{path}@@@" : $"@{path}@";
}
