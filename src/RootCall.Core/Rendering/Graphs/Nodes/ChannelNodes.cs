namespace RootCall.Core.Rendering.Graphs.Nodes;

/// <summary>
/// MaterialX 1.39, “Channel Nodes”. What separate gives is picked by the output that is asked for.
/// </summary>
internal static class ChannelNodes
{
    public static IEnumerable<NodeKind> All =>
        [
            Same("constant", "value"),
            Same("dot", "in"),
            Same("convert", "in"),
            Same("separate2", "in"),
            Same("separate3", "in"),
            Same("separate4", "in"),
            NodeKind.Of("combine2", "in1=0 in2=0", (i, in _) => new(i[0].X, i[1].X, 0, 0)),
            NodeKind.Of("combine3", "in1=0 in2=0 in3=0", (i, in _) => new(i[0].X, i[1].X, i[2].X, 0)) with
            {
                Loop = NodeLoops.Combine3,
            },
            NodeKind.Of("combine4", "in1=0 in2=0 in3=0 in4=0", (i, in _) => new(i[0].X, i[1].X, i[2].X, i[3].X)),
            NodeKind.Of("extract", "in=0 index=0", (i, in _) => new(i[0][Math.Clamp((int)i[1].X, 0, 3)])) with
            {
                Loop = NodeLoops.Extract,
            },
        ];

    private static NodeKind Same(string name, string input) =>
        NodeKind.Of(name, $"{input}=0", (i, in _) => i[0]) with
        {
            Loop = NodeLoops.Same,
        };
}
