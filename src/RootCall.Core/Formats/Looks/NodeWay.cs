using System.Collections.Immutable;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Looks;

/// <summary>The nodes on the one way from an input back to its image; where ways part it ends.</summary>
public static class NodeWay
{
    private const int Longest = 64;

    /// <summary>Nearest to the input first; the node that reads the image is the last.</summary>
    public static ImmutableArray<ShaderNode> Of(ShaderGraph graph, ShaderInput input)
    {
        var way = ImmutableArray.CreateBuilder<ShaderNode>();
        var from = input.From;
        while (from is not null && way.Count < Longest && graph.Node(from.Node) is { } node)
        {
            way.Add(node);
            from = node.Image is null && Fed(node) is [var one] ? one.From : null;
        }

        return way.ToImmutable();
    }

    /// <summary>What takes its place when it is taken out: the one input that is fed, where that gives what the node gives.</summary>
    public static ShaderInput? Through(ShaderNode node) =>
        node.Image is null && Fed(node) is [var one] && one.Type == NodeKinds.OutputOf(node) ? one : null;

    private static ImmutableArray<ShaderInput> Fed(ShaderNode node) => [.. node.Inputs.Where(i => i.From is not null)];
}
