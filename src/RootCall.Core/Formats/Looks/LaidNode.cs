using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Looks;

/// <summary>A node that is laid between an input and what feeds it. Edits keep it by its name.</summary>
[JsonConverter(typeof(LaidNodeConverter))]
public enum LaidNode
{
    Invert,
    Multiply,
    CorrectColour,
    NormalMap,
}

public sealed class LaidNodeConverter() : JsonStringEnumConverter<LaidNode>(JsonNamingPolicy.KebabCaseLower);

/// <summary>A value of a node that people set.</summary>
/// <param name="Standard">What holds where nothing is written, the same in each of its numbers.</param>
/// <param name="Low">Where a slider begins; values beyond mean something too. Null where nothing is known.</param>
public sealed record NodePart(string Name, InputType Type, double Standard, double? Low = null, double? High = null, string? Unit = null);

/// <summary>What a part of a node is set to.</summary>
public sealed record NodeValue(string Part, ShaderValue Value);

/// <summary>Nodes of MaterialX's standard library (MaterialX 1.39, "Standard Nodes") as they are laid and as people set them.</summary>
public static class LaidNodes
{
    /// <summary>Defaults by the standard; where sliders end is common practice.</summary>
    private static readonly ImmutableArray<NodePart> Corrections =
    [
        new("hue", InputType.Float, 0, -0.5, 0.5),
        new("saturation", InputType.Float, 1, 0, 2),
        new("gamma", InputType.Float, 1, 0.2, 5),
        new("lift", InputType.Float, 0, -0.5, 0.5),
        new("gain", InputType.Float, 1, 0, 2),
        new("contrast", InputType.Float, 1, 0, 2),
        new("contrastpivot", InputType.Float, 0.5, 0, 1),
        new("exposure", InputType.Float, 0, -4, 4, "stops"),
    ];

    public static string NameOf(LaidNode node) =>
        node switch
        {
            LaidNode.Invert => "invert",
            LaidNode.Multiply => "multiply",
            LaidNode.CorrectColour => "colorcorrect",
            _ => "normalmap",
        };

    /// <summary>The node and what it is set to, where it can be laid elsewhere as it is; null for any other.</summary>
    public static (LaidNode Node, ImmutableArray<NodeValue> Values)? Of(ShaderNode node)
    {
        var parts = Known(node).Select(p => p.Name).ToHashSet(StringComparer.Ordinal);
        var said = node.Inputs.Where(i => i.From is null).ToList();
        return
            Enum.GetValues<LaidNode>().Where(k => NameOf(k) == NodeKinds.NameOf(node.Type)).Cast<LaidNode?>().FirstOrDefault() is { } kind
            && NodeWay.Through(node) is not null
            && said.All(i => parts.Contains(i.Name) && i.Value is { Text: null })
            ? (kind, [.. said.Select(i => new NodeValue(i.Name, i.Value!))])
            : null;
    }

    /// <summary>What people set of a node: what it has a standard for, and what else it says in numbers.</summary>
    public static ImmutableArray<NodePart> Parts(ShaderNode node)
    {
        var known = Known(node);
        return
        [
            .. known,
            .. node
                .Inputs.Where(i => i is { From: null, Value.Numbers.Length: > 0 } && i.Type.TakesImage && !known.Any(k => k.Name == i.Name))
                .Select(i => new NodePart(i.Name, i.Type, 0)),
        ];
    }

    /// <summary>Why it has no place before an input of that type; null when it has.</summary>
    public static string? WhyNot(LaidNode node, string input, InputType type) =>
        node switch
        {
            LaidNode.NormalMap => type == InputType.Vector3 ? null : $"{input} takes no direction; a normal map has no meaning there.",
            _ when type == InputType.Vector3 => $"{input} takes a direction, no colour and no amount.",
            LaidNode.CorrectColour when !type.IsColour => $"{input} takes a number; only colours are corrected.",
            _ => null,
        };

    /// <summary>The node, by its plain name, that gives a type and reads what fed an input of it.</summary>
    public static ShaderNode Make(LaidNode node, string name, InputType type, Connection from)
    {
        var first = new ShaderInput(node == LaidNode.Multiply ? "in1" : "in", type, null, from);
        ImmutableArray<ShaderInput> inputs =
            node == LaidNode.Multiply ? [first, new("in2", type, new([.. Enumerable.Repeat(1.0, type.Numbers)]))] : [first];
        return new(name, NameOf(node), inputs) { Output = type };
    }

    private static ImmutableArray<NodePart> Known(ShaderNode node)
    {
        var type = NodeKinds.OutputOf(node);
        InputType Amount(string part) =>
            node.Input(part)?.Type is { IsSaid: true } said ? said
            : node.Type.EndsWith("FA", StringComparison.Ordinal) ? InputType.Float
            : type;
        return NodeKinds.NameOf(node.Type) switch
        {
            "colorcorrect" => Corrections,
            "invert" => [new("amount", Amount("amount"), 1, 0, 1)],
            "multiply" when node.Input("in2")?.From is null => [new("in2", Amount("in2"), 1, 0, 2)],
            "normalmap" => [new("scale", node.Input("scale")?.Type is { IsSaid: true } t ? t : InputType.Float, 1, 0, 2)],
            // A preview surface's textures multiply and shift all four channels (UsdPreviewSurface specification, "Texture reader").
            "UsdUVTexture" => [new("scale", InputType.Vector4, 1), new("bias", InputType.Vector4, 0)],
            _ => [],
        };
    }
}
