using System.Collections.Frozen;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>
/// Ids of the definitions of MaterialX's standard library: the node's name, then what tells it from others of that name. Formats that
/// know no overloading write them in place of names.
/// </summary>
internal static class StandardIds
{
    /// <summary>Nodes that take a number in place of as many as they give: the input that tells.</summary>
    private static readonly FrozenDictionary<string, string> Numbers = new Dictionary<string, string>
    {
        ["add"] = "in2",
        ["subtract"] = "in2",
        ["multiply"] = "in2",
        ["divide"] = "in2",
        ["modulo"] = "in2",
        ["power"] = "in2",
        ["safepower"] = "in2",
        ["min"] = "in2",
        ["max"] = "in2",
        ["invert"] = "amount",
        ["clamp"] = "low",
        ["remap"] = "inlow",
        ["range"] = "inlow",
        ["smoothstep"] = "low",
        ["contrast"] = "amount",
        ["noise2d"] = "amplitude",
        ["noise3d"] = "amplitude",
        ["fractal2d"] = "amplitude",
        ["fractal3d"] = "amplitude",
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <param name="node">Of the standard library, by its name, with the type that it gives.</param>
    public static string Of(ShaderNode node)
    {
        var given = node.Output.Word;
        string In(string input) => node.Input(input)?.Type.Word ?? given;
        return node.Type switch
        {
            "standard_surface" or "open_pbr_surface" or "gltf_pbr" or "UsdPreviewSurface" => $"ND_{node.Type}_surfaceshader",
            "blackbody" or "ramp" => $"ND_{node.Type}",
            "extract" or "separate2" or "separate3" or "separate4" => $"ND_{node.Type}_{In("in")}",
            "convert" => $"ND_convert_{In("in")}_{given}",
            "normalmap" => $"ND_normalmap_{(In("scale") == "vector2" ? "vector2" : "float")}",
            "combine2" when given is "color4" => "ND_combine2_color4CF",
            "combine2" when given is "vector4" => $"ND_combine2_vector4V{(In("in2") == "float" ? "F" : "V")}",
            "mix" when node.Input("mix")?.Type is { Numbers: > 1 } => $"ND_mix_{given}_{given}",
            var name when name.StartsWith("if", StringComparison.Ordinal) => $"ND_{name}_{given}{Compared(name, In("value1"))}",
            var name when Numbers.TryGetValue(name, out var teller) && node.Output.Numbers > 1 && In(teller) == "float" =>
                $"ND_{name}_{given}FA",
            var name => $"ND_{name}_{given}",
        };
    }

    private static string Compared(string name, string type) =>
        type switch
        {
            "integer" => "I",
            "boolean" when name == "ifequal" => "B",
            _ => string.Empty,
        };
}
