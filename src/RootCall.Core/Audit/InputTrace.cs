using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>An image behind an input, with what lies between.</summary>
internal sealed record TracedImage(ImageUse Use, ShaderNode Node, Channels Channel, ImmutableArray<string> Through)
{
    public int Times { get; init; } = 1;
}

/// <summary>What feeds an input, followed through the graph.</summary>
internal sealed record InputTrace(ImmutableArray<TracedImage> Images, ShaderValue? Factor, bool IsCyclic)
{
    private const int Deepest = 64;

    /// <summary>Nodes that feed others twice, one behind the other, make twice as many ways each.</summary>
    private const int MostSteps = 10_000;

    /// <summary>Inputs of nodes that give coordinates, not colours.</summary>
    private static bool IsCoordinate(string input) => input is "st" or "texcoord" or "uv" or "varname" or "geomprop";

    public static InputTrace Of(ShaderGraph graph, ShaderInput input)
    {
        var images = new List<TracedImage>();
        var open = new HashSet<string>(StringComparer.Ordinal);
        ShaderValue? factor = null;
        var cyclic = false;
        var steps = 0;

        void Walk(Connection from, Channels? picked, ImmutableArray<string> through)
        {
            if (through.Length > Deepest || ++steps > MostSteps || graph.Node(from.Node) is not { } node)
                return;
            if (!open.Add(node.Name))
            {
                cyclic = true;
                return;
            }

            if (node.Image is { } use)
            {
                var output = Letter(from.Output);
                var channel = picked ?? output ?? use.Channels;
                var known = images.FindIndex(i => i.Node.Name == node.Name);
                if (known < 0)
                    images.Add(new(use, node, channel, through));
                else
                    images[known] = images[known] with { Times = images[known].Times + 1 };
            }
            else
            {
                if (
                    node.Type.StartsWith("multiply", StringComparison.Ordinal) || node.Type.Contains("_multiply_", StringComparison.Ordinal)
                )
                    factor ??= node.Inputs.FirstOrDefault(i => i is { From: null, Value.Numbers.Length: > 0 })?.Value;
                var pick = picked ?? Picked(node, from.Output);
                foreach (var next in node.Inputs)
                    if (next.From is { } before && !IsCoordinate(next.Name))
                        Walk(before, pick, through.Add(node.Type));
            }

            open.Remove(node.Name);
        }

        Walk(input.From!, null, []);
        return new([.. images], factor, cyclic);
    }

    /// <summary>The channel that a node picks: extract's index, or an output of separate.</summary>
    private static Channels? Picked(ShaderNode node, string output) =>
        node.Type.Contains("extract", StringComparison.Ordinal) && node.Input("index")?.Value?.Numbers is [var index, ..]
            ? ChannelWords.At(index)
        : node.Type.Contains("separate", StringComparison.Ordinal) ? Letter(output)
        : null;

    private static Channels? Letter(string output) =>
        output switch
        {
            "r" or "outr" or "outx" => Channels.R,
            "g" or "outg" or "outy" => Channels.G,
            "b" or "outb" or "outz" => Channels.B,
            "a" or "outa" or "outw" => Channels.A,
            "rgb" => Channels.Rgb,
            "rgba" => Channels.Rgba,
            _ => null,
        };
}
