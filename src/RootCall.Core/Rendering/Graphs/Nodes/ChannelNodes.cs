namespace RootCall.Core.Rendering.Graphs.Nodes;

/// <summary>
/// MaterialX 1.39, “Channel Nodes”. What separate gives is picked by the output that is asked for.
/// </summary>
internal static class ChannelNodes
{
    public static IEnumerable<NodeKind> All =>
        [
            NodeKind.Of("constant", "value=0", (i, in _) => i[0]) with
            {
                Loop = NodeLoops.Same,
            },
            NodeKind.Of("dot", "in=0", (i, in _) => i[0]) with
            {
                Loop = NodeLoops.Same,
            },
            NodeKind.Of("convert", "in=0", (i, in _) => i[0]) with
            {
                Loop = NodeLoops.Same,
            },
            NodeKind.Of("separate2", "in=0", (i, in _) => i[0]) with
            {
                Loop = NodeLoops.Same,
            },
            NodeKind.Of("separate3", "in=0", (i, in _) => i[0]) with
            {
                Loop = NodeLoops.Same,
            },
            NodeKind.Of("separate4", "in=0", (i, in _) => i[0]) with
            {
                Loop = NodeLoops.Same,
            },
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
}
