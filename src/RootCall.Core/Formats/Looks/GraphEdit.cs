using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Looks;

/// <summary>The graph of one material while it is changed, for formats whose materials are nodes.</summary>
internal sealed class GraphEdit(SceneDraft draft, int place, Func<ShaderGraph, ShaderGraph> finish)
{
    private readonly Dictionary<string, ShaderNode> changed = new(StringComparer.Ordinal);
    private readonly List<ShaderNode> added = [];
    private readonly List<Action> then = [];
    private readonly HashSet<string> dropped = new(StringComparer.Ordinal);

    public Material Material { get; } = draft.Materials[place];

    public ShaderGraph Graph => Material.Graph;

    /// <summary>The node as it stands now; null when there is none.</summary>
    public ShaderNode? Node(string name) => changed.GetValueOrDefault(name) ?? added.Find(n => n.Name == name) ?? Graph.Node(name);

    public void Put(ShaderNode node)
    {
        var at = added.FindIndex(n => n.Name == node.Name);
        if (at >= 0)
            added[at] = node;
        else
            changed[node.Name] = node;
    }

    public ShaderNode Add(ShaderNode node)
    {
        added.Add(node with { IsMade = true });
        return added[^1];
    }

    /// <summary>A node that was there before this entry of the ledger and was taken out of the graph since.</summary>
    public void Revive(ShaderNode node, ShaderGraph graph)
    {
        if (Node(node.Name) is not null)
            return;
        added.Add(node);
        foreach (var from in node.Inputs.Select(i => i.From).OfType<Connection>())
            if (graph.Node(from.Node) is { } before)
                Revive(before, graph);
    }

    /// <summary>A node that was made and is in no file yet: nothing is left of it.</summary>
    public void Drop(string name)
    {
        if (Graph.Node(name) is { IsMade: true })
            dropped.Add(name);
    }

    /// <summary>A name that no node of the scene has.</summary>
    public string Free(string wanted)
    {
        for (var n = 1; ; n++)
        {
            var name = n == 1 ? wanted : $"{wanted}{n}";
            if (Node(name) is null && !draft.With(name).Any())
                return name;
        }
    }

    /// <summary>Gives an input of a node a value or a connection; the other one goes.</summary>
    public static ShaderNode With(ShaderNode node, string input, InputType type, ShaderValue? value, Connection? from = null)
    {
        var at = node.Inputs.IndexOf(node.Input(input)!);
        if (at < 0)
            return node with { Inputs = node.Inputs.Add(new(input, type, value, from)) };
        var old = node.Inputs[at];
        return node with
        {
            Inputs = node.Inputs.SetItem(
                at,
                old with
                {
                    Value = value,
                    From = from,
                    Dangling = null,
                    IsPassedOn = false,
                    Type = old.Type.IsSaid ? old.Type : type,
                }
            ),
        };
    }

    public static ShaderNode Without(ShaderNode node, string input) =>
        node.Input(input) is { } there ? node with { Inputs = node.Inputs.Remove(there) } : node;

    /// <summary>Names of the nodes behind an input.</summary>
    public static HashSet<string> Behind(ShaderGraph graph, ShaderInput input)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var open = new Stack<Connection>();
        if (input.From is { } first)
            open.Push(first);
        while (open.TryPop(out var at))
        {
            if (!seen.Add(at.Node) || graph.Node(at.Node) is not { } node)
                continue;
            foreach (var next in node.Inputs)
                if (next.From is { } from)
                    open.Push(from);
        }

        return seen;
    }

    /// <summary>No other input, of this or any material, is fed through the node.</summary>
    public bool IsOnlyFor(string node, string input) =>
        Sharers(node)
            .All(p =>
                draft.Materials[p].Graph.SurfaceNode is not { } surface
                || surface.Inputs.All(i => (p == place && i.Name == input) || !Behind(draft.Materials[p].Graph, i).Contains(node))
            );

    /// <summary>No other node takes anything from the node.</summary>
    public bool IsOnlyReadBy(string node, string reader) =>
        Sharers(node).All(p => draft.Materials[p].Graph.Nodes.All(n => n.Name == reader || n.Inputs.All(i => i.From?.Node != node)));

    /// <summary>Nodes are called by the same name in all materials, or within one only.</summary>
    public bool NamesAreShared { get; init; } = true;

    private IEnumerable<int> Sharers(string node) => NamesAreShared || node.StartsWith('/') ? draft.With(node) : [place];

    /// <summary>Something else that happens to the draft when the change is made, and not when it is refused.</summary>
    public void Then(Action also) => then.Add(also);

    public void Apply()
    {
        foreach (var also in then)
            also();
        // A node that materials share changes in all of them.
        int[] places = [.. changed.Keys.SelectMany(Sharers).Where(p => p != place).Distinct(), place];
        foreach (var at in places)
        {
            var material = draft.Materials[at];
            var nodes = material.Graph.Nodes.Where(n => !dropped.Contains(n.Name)).Select(n => changed.GetValueOrDefault(n.Name) ?? n);
            var graph = finish(material.Graph with { Nodes = [.. nodes, .. added.Where(a => material.Graph.Node(a.Name) is null)] });
            draft.Put(at, material with { Graph = graph }, places);
        }
    }

    /// <summary>Without the nodes that reach no input.</summary>
    public static ShaderGraph Pruned(ShaderGraph graph)
    {
        if (graph.SurfaceNode is not { } surface)
            return graph;
        var kept = surface.Inputs.SelectMany(i => Behind(graph, i)).Append(surface.Name).ToHashSet(StringComparer.Ordinal);
        return kept.Count >= graph.Nodes.Length ? graph : graph with { Nodes = [.. graph.Nodes.Where(n => kept.Contains(n.Name))] };
    }
}
