using System.Collections.Frozen;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Rendering.Graphs.Nodes;

/// <summary>The nodes that are evaluated, by what formats call them.</summary>
internal static class NodeKinds
{
    private static readonly FrozenDictionary<string, NodeKind> ByName = new[]
    {
        MathNodes.All,
        ColourNodes.All,
        ChannelNodes.All,
        GeometryNodes.All,
        PatternNodes.All,
    }
        .SelectMany(k => k)
        .ToFrozenDictionary(k => k.Name, StringComparer.Ordinal);

    /// <summary>
    /// A node's plain name: USD writes the id of a definition, which is the name between <c>ND_</c> and the types
    /// (<c>ND_multiply_color3FA</c>).
    /// </summary>
    public static string NameOf(string type)
    {
        if (!type.StartsWith("ND_", StringComparison.Ordinal))
            return type;
        var name = type["ND_".Length..];
        while (!ByName.ContainsKey(name) && !IsImage(name) && name.LastIndexOf('_') is > 0 and var cut)
            name = name[..cut];
        return name;
    }

    /// <summary>What a node gives, by what is said of it or else by its id.</summary>
    public static InputType OutputOf(ShaderNode node) => node.Output.IsSaid ? node.Output : OutputOf(node.Type);

    /// <summary>What a node gives, where its id says it and nothing else does.</summary>
    public static InputType OutputOf(string type)
    {
        if (!type.StartsWith("ND_", StringComparison.Ordinal))
            return default;
        // The id of these tells what goes in.
        switch (NameOf(type))
        {
            case "extract" or "dotproduct" or "magnitude":
                return InputType.Float;
            case "normalmap":
                return InputType.Vector3;
        }

        var last = type[(type.LastIndexOf('_') + 1)..];
        foreach (var word in (ReadOnlySpan<string>)["color3", "color4", "vector2", "vector3", "vector4", "float", "integer", "boolean"])
            if (last.StartsWith(word, StringComparison.Ordinal))
                return InputType.Of(word);
        return default;
    }

    public static bool IsImage(string name) => name is "image" or "tiledimage" or "UsdUVTexture";

    /// <summary>Null for a node that is not known here.</summary>
    public static NodeKind? Find(string name, InputType output) =>
        ByName.TryGetValue(name, out var kind) ? PatternNodes.For(kind, output) : null;
}
