using System.Collections.Immutable;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Changes a node on the way to an input, or which nodes lie there.</summary>
/// <param name="Input">Of the surface shader; something feeds it.</param>
public abstract record NodeEdit(string Material, string Input) : Edit
{
    public override string Target => $"{Material}.{Input}";

    internal override string? Change(SceneDraft draft)
    {
        if (WhyNot(draft, SceneAct.LayNode) is { } why)
            return why;
        if (draft.Find(Material) is not (>= 0 and var at))
            return NoMaterial(Material);
        if (Lays && draft.Materials[at].Graph.SurfaceNode is { } surface && Capabilities(draft).WhyNoNodes(surface) is { } no)
            return no;
        return Change((INodeShape)Capabilities(draft).Shape!, draft, at);
    }

    /// <summary>It brings a node: what has no place for one may still set those that it has.</summary>
    private protected virtual bool Lays => false;

    private protected abstract string? Change(INodeShape shape, SceneDraft draft, int material);

    /// <summary>What another node was called, or where it lay, is not in it.</summary>
    protected override Edit? Reverse() => null;
}

/// <summary>Lays a node right before an input.</summary>
/// <param name="Values">Of its parts, where they are not as the standard leaves them.</param>
public sealed record LayNode(string Material, string Input, LaidNode Node, ImmutableArray<NodeValue> Values) : NodeEdit(Material, Input)
{
    /// <summary>A ledger that says none means none.</summary>
    public ImmutableArray<NodeValue> Values { get; init; } = Values.IsDefault ? [] : Values;

    public bool Equals(LayNode? other) => base.Equals(other) && Node == other.Node && Values.SequenceEqual(other.Values);

    public override int GetHashCode() => HashCode.Combine(base.GetHashCode(), Node, Values.Length);

    public override EditText Text => new("node", $"{Material}, {Input}", string.Empty, LaidNodes.NameOf(Node));

    public override string Word => "lay node";

    private protected override bool Lays => true;

    public override string Describe() => $"Lay {LaidNodes.NameOf(Node)} before {Material}.{Input}";

    private protected override string? Change(INodeShape shape, SceneDraft draft, int material) =>
        shape.LayNode(draft, material, Input, Node, Values);
}

/// <summary>Takes a node out; what fed it feeds what it fed.</summary>
/// <param name="Node">Its name in the graph.</param>
public sealed record TakeNode(string Material, string Input, string Node) : NodeEdit(Material, Input)
{
    public override EditText Text => new("node", $"{Material}, {Input}", Node, string.Empty);

    public override string Word => "take node out";

    public override string Describe() => $"Take {Node} out before {Material}.{Input}";

    private protected override string? Change(INodeShape shape, SceneDraft draft, int material) =>
        shape.TakeNode(draft, material, Input, Node);
}

/// <summary>Sets a value of a node.</summary>
/// <param name="Part">Of its inputs.</param>
/// <param name="From">What was written; null when the default held.</param>
public sealed record SetNode(string Material, string Input, string Node, string Part, ShaderValue? From, ShaderValue? To)
    : NodeEdit(Material, Input)
{
    public override string Target => $"{Material}.{Input}/{Node}.{Part}";

    public override EditText Text =>
        new("value", $"{Material}, {Input}, {Node}.{Part}", From?.ToString() ?? "default", To?.ToString() ?? "default");

    public override string Word => "set node";

    public override string Describe() => $"Set {Part} of {Node} before {Material}.{Input} to {To?.ToString() ?? "its default"}";

    private protected override string? Change(INodeShape shape, SceneDraft draft, int material) =>
        shape.SetNode(draft, material, Input, Node, Part, To);

    protected override Edit? Reverse() => this with { From = To, To = From };
}
