using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing.Baking;

/// <summary>Whether what feeds inputs is the same wherever an image of it is laid: only then an image can stand in for it.</summary>
public static class Bakeable
{
    /// <summary>Null when it can be baked.</summary>
    public static string? WhyNot(ShaderGraph look, Bake bake)
    {
        var uses = bake.Uses(look).ToList();
        if (uses.Select(u => u.UvSet).Distinct().Skip(1).Any())
            return "It is made of images that are read by different UV sets.";
        if (uses.Select(u => (u.Transform, u.WrapU, u.WrapV)).Distinct().Skip(1).Any())
            return "It is made of images that are tiled or wrapped in different ways; baking them would bake the tiling out.";
        var patterns = Behind(look, bake).Where(n => n.Image is null).ToList();
        if (patterns.Find(AsksForPlace) is { } placed)
            return $"Its node “{placed.Name}” asks where on the object it is; an image does not know.";
        return patterns.Exists(AsksForUv) && uses.Exists(u => !u.Transform.IsIdentity)
            ? "It is made of a pattern, and of images that are tiled; baking them would bake the tiling out."
            : null;
    }

    private static bool AsksForPlace(ShaderNode node) =>
        Given(node) is Rendering.Graphs.Given.Position || NodeKinds.NameOf(node.Type) == "position";

    private static bool AsksForUv(ShaderNode node) => Given(node) is Rendering.Graphs.Given.Uv || NodeKinds.NameOf(node.Type) == "texcoord";

    /// <summary>What of the place an input that nothing feeds takes; null for nothing of it.</summary>
    private static Given? Given(ShaderNode node) =>
        NodeKinds
            .Find(NodeKinds.NameOf(node.Type), node.Output)
            ?.Inputs.Where(i => node.Input(i.Name)?.From is null && i.From is Rendering.Graphs.Given.Position or Rendering.Graphs.Given.Uv)
            .Select(i => (Given?)i.From)
            .FirstOrDefault();

    /// <summary>The nodes that feed it; what only moves the coordinates of an image is not among them.</summary>
    private static IEnumerable<ShaderNode> Behind(ShaderGraph look, Bake bake)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var ahead = new Stack<Connection>(bake.Inputs.Select(i => i.From).OfType<Connection>());
        while (ahead.TryPop(out var wire))
        {
            if (!seen.Add(wire.Node) || look.Node(wire.Node) is not { } node)
                continue;
            yield return node;
            foreach (var input in node.Image is null ? node.Inputs : [])
                if (input.From is { } from)
                    ahead.Push(from);
        }
    }
}
