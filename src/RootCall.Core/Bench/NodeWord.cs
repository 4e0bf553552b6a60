using System.Text.RegularExpressions;

namespace RootCall.Core.Bench;

/// <summary>What a node does, in a word or two: its type without the marks of the library it comes from and of what it works on.</summary>
public static partial class NodeWord
{
    /// <summary>Nodes that pick one channel of several.</summary>
    public const string Channel = "channel";

    /// <param name="type">The format's own type: <c>ND_multiply_color3FA</c>, <c>UsdTransform2d</c>, <c>normalmap</c>.</param>
    public static string Of(string type)
    {
        var word = Marks().Replace(type, string.Empty);
        return word switch
        {
            "" => type,
            "image" or "tiledimage" or "UVTexture" => "image",
            "normalmap" => "normal map",
            "Transform2d" or "place2d" => "placement",
            "PrimvarReader" or "texcoord" or "geompropvalue" => "coordinates",
            "extract" or "separate2" or "separate3" or "separate4" or "swizzle" => Channel,
            "colorcorrect" => "colour correction",
            _ => word.Replace('_', ' '),
        };
    }

    // MaterialX 1.39, names of node definitions: ND_<node>_<type>, with FA where one operand is a float.
    [GeneratedRegex(@"^(ND_|Usd)|(_(color|vector|float|integer|matrix|boolean|string|filename|vec)\w*)+$|_(float|int)\d?$")]
    private static partial Regex Marks();
}
