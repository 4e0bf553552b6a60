using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>
/// Lays a node before an input. Where a format has no nodes there, its own way of reading an image may say the same: a scale and a shift
/// invert it, and make directions of a normal map.
/// </summary>
public sealed record HandLay(string Input, LaidNode Node) : HandWire(Input)
{
    /// <summary>Stored values from 0 to 1 as directions from -1 to 1 (UsdPreviewSurface specification, "normal").</summary>
    private static readonly ImmutableArray<double> Twice = [2, 2, 2, 1],
        Less = [-1, -1, -1, 0];

    public override string Title =>
        Node switch
        {
            LaidNode.Invert => $"Invert what feeds {Input}",
            LaidNode.Multiply => $"Multiply what feeds {Input}",
            LaidNode.CorrectColour => $"Correct the colour of what feeds {Input}",
            _ => $"Read what feeds {Input} as a normal map",
        };

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        if (material.Input(Input) is { } there && LaidNodes.WhyNot(Node, Input, there.Type) is { } why)
            throw new CannotUseException(why);
        var can = SceneFormats.Of(scene.Scene.Path).Capabilities;
        if (material.Material.Graph.SurfaceNode is not { } surface || can.WhyNoNodes(surface) is not { } refusal)
            return [new LayNode(material.Name, Input, Node, [])];
        var map = Map(material);
        return Node switch
        {
            LaidNode.Invert => [map.Read(WireEnds.Inverted)],
            LaidNode.NormalMap when map.PassesNormalMap || !map.Use.Bias.IsEmpty => throw new CannotUseException(
                $"What feeds {Input} is read as a normal map already."
            ),
            LaidNode.NormalMap => [map.Read(u => u with { Scale = Twice, Bias = Less })],
            _ => throw new CannotUseException(refusal),
        };
    }

    /// <summary>A format without nodes has to read the image otherwise.</summary>
    internal override string? Missed(SceneDraft draft, Target place) =>
        Reaching(draft, place, Input) is [{ Use: { Scale.IsEmpty: true, Bias.IsEmpty: true }, Through: var through }]
        && !through.Any(t => t.Contains(LaidNodes.NameOf(Node), StringComparison.Ordinal))
            ? SceneFormats.Of(draft.Before.Path).Capabilities.WhyNot(SceneAct.LayNode)
                ?? $"The format reads the image of {Input} as it is stored."
            : null;
}

/// <summary>Takes a node out that lies before an input.</summary>
public sealed record HandTakeOut(string Input, string Node) : HandDecision
{
    public override string Title => $"Take {Node} out before {Input}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place) => [new TakeNode(Material(scene, place).Name, Input, Node)];
}

/// <summary>Sets a value of a node that lies before an input.</summary>
/// <param name="Value">Null to leave it to its default.</param>
public sealed record HandNodeValue(string Input, string Node, string Part, ShaderValue? Value) : HandDecision
{
    public override string Title => $"Set {Part} of {Node} to {Value?.ToString() ?? "its default"}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        var now = material.Material.Graph.Node(Node)?.Input(Part)?.Value;
        return [new SetNode(material.Name, Input, Node, Part, now, Value)];
    }
}
