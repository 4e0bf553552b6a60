using RootCall.Core.Formats.Xml;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>One document of a MaterialX library with the bytes it was read from.</summary>
internal sealed record MtlxFile(string Path, int Index, byte[] Bytes, XmlTree Root);

/// <summary>An element and the document it stands in.</summary>
internal sealed record MtlxElement(MtlxFile File, XmlTree Tree)
{
    public string Name => Tree["name"] ?? string.Empty;

    public InputType Type => InputType.Of(Tree["type"] ?? string.Empty);

    /// <summary>
    /// An attribute of the element or the nearest element around it (MaterialX 1.38, "File prefixes", "Color spaces"): the
    /// innermost one holds.
    /// </summary>
    public string? Active(string attribute)
    {
        for (var tree = Tree; tree is not null; tree = tree.Parent)
            if (tree[attribute] is { } value)
                return value;
        return null;
    }

    public IEnumerable<MtlxElement> Inputs =>
        Tree.Children.Where(c => c.Name is "input" or "parameter").Select(c => new MtlxElement(File, c));
}

/// <summary>All elements of a document and the ones it includes, found by name.</summary>
internal sealed class MtlxDocument(IReadOnlyList<MtlxFile> files)
{
    private readonly Dictionary<string, MtlxElement> top = files
        .SelectMany(f => f.Root.Children.Select(c => new MtlxElement(f, c)))
        .Where(e => e.Name.Length > 0)
        .DistinctBy(e => e.Name)
        .ToDictionary(e => e.Name, StringComparer.Ordinal);

    // Nodes of a graph by name: one with thousands of nodes asks for each of them.
    private readonly Dictionary<XmlTree, Dictionary<string, XmlTree>> inside = [];

    public IReadOnlyList<MtlxFile> Files => files;

    public IEnumerable<MtlxElement> All(string element) => files.SelectMany(f => f.Root.All(element).Select(c => new MtlxElement(f, c)));

    public MtlxElement? Find(string name) => top.GetValueOrDefault(name);

    /// <summary>A node in a graph, or at the top when <paramref name="graph"/> is null.</summary>
    public MtlxElement? Find(MtlxElement? graph, string name) =>
        graph is null ? Find(name)
        : NodesOf(graph.Tree).TryGetValue(name, out var tree) ? new(graph.File, tree)
        : null;

    private Dictionary<string, XmlTree> NodesOf(XmlTree graph)
    {
        if (!inside.TryGetValue(graph, out var nodes))
            inside[graph] = nodes = graph
                .Children.Where(c => c["name"] is not null)
                .DistinctBy(c => c["name"])
                .ToDictionary(c => c["name"]!, StringComparer.Ordinal);
        return nodes;
    }

    /// <summary>The inputs of a node with those it inherits; its own come first and win.</summary>
    public IEnumerable<MtlxElement> InputsOf(MtlxElement node)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var visited = new HashSet<MtlxElement>();
        for (MtlxElement? at = node; at is not null && visited.Add(at); at = at.Tree["inherit"] is { } template ? Find(template) : null)
            foreach (var input in at.Inputs)
                if (seen.Add(input.Name))
                    yield return input;
    }
}
