using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>Turns surface materials of a document into graphs, following node graphs and interface names.</summary>
/// <param name="keyOf">Gives the reference of a filename input.</param>
internal sealed class MtlxGraphs(MtlxDocument document, Func<MtlxElement, ReferenceKey?> keyOf, List<ReadNote> notes)
{
    private const int MaxDepth = 200;
    private const int MaxNodes = 1_000_000;
    private const int MaxTold = 100;
    private readonly Dictionary<string, ShaderNode> nodes = [];
    private readonly HashSet<string> open = [];
    private int depth;
    private int told;
    private int read;

    /// <param name="file">Index of the document that holds the surface shader; of the material's own where there is none.</param>
    public ShaderGraph Of(MtlxElement material, out int file)
    {
        file = material.File.Index;
        nodes.Clear();
        open.Clear();
        var shader = document.InputsOf(material).FirstOrDefault(i => i.Name == "surfaceshader");
        if (shader is null || Source(shader, null) is not { } surface)
            return ShaderGraph.Empty;
        file = document.Find(surface.Node.Split('/')[0])?.File.Index ?? file;
        // The surface shader comes first, what feeds it behind.
        return new([.. nodes.Values.OrderByDescending(n => n.Name == surface.Node)], surface.Node);
    }

    /// <summary>Reads the node that feeds an input, and all behind it.</summary>
    private Connection? Source(MtlxElement input, MtlxElement? graph)
    {
        if (depth >= MaxDepth)
            return Left($"Nodes stand more than {MaxDepth} deep", input);
        depth++;
        try
        {
            return Behind(input, graph);
        }
        finally
        {
            depth--;
        }
    }

    private Connection? Left(string budget, MtlxElement element)
    {
        if (told++ < MaxTold)
            notes.Add(new($"{budget}; what lies behind was left out.", $"{Path.GetFileName(element.File.Path)}, line {element.Tree.Line}"));
        return null;
    }

    private Connection? Behind(MtlxElement input, MtlxElement? graph)
    {
        var output = input.Tree["output"] ?? "out";
        if (input.Tree["nodegraph"] is { } graphName && document.Find(graphName) is { } inner)
        {
            var end = inner.Tree.All("output").FirstOrDefault(o => o["name"] == output) ?? inner.Tree.All("output").FirstOrDefault();
            return end is null ? null : Source(new(inner.File, end), inner);
        }

        if (input.Tree["interfacename"] is { } interfaceName && graph is not null)
        {
            var outer = graph.Inputs.FirstOrDefault(i => i.Name == interfaceName);
            return outer is null ? null : Source(outer, null);
        }

        if (input.Tree["nodename"] is not { } name || document.Find(graph, name) is not { } node)
            return null;
        var id = graph is null ? name : $"{graph.Name}/{name}";
        if (open.Contains(id))
            return new(id, output); // It is there, or, in a circle, being read further up.
        if (read >= MaxNodes)
            return Left(Invariant($"Materials have more than {MaxNodes:N0} nodes"), node);
        Node(id, node, graph);
        return new(id, output);
    }

    private void Node(string id, MtlxElement node, MtlxElement? graph)
    {
        open.Add(id);
        read++;
        var inputs = ImmutableArray.CreateBuilder<ShaderInput>();
        ImageUse? image = null;
        foreach (var input in document.InputsOf(node))
        {
            var holder = Interface(input, graph);
            var from = Source(input, graph);
            var reference = input.Type == InputType.FileName ? keyOf(holder) : null;
            inputs.Add(
                new(
                    input.Name,
                    input.Type,
                    reference is { } r ? ShaderValue.OfText(r.Written)
                        : holder.Tree["value"] is { } value ? Value(input.Type, value)
                        : null,
                    from
                )
                {
                    Dangling = from is null ? input.Tree["nodename"] ?? input.Tree["nodegraph"] : null,
                    IsPassedOn = holder != input,
                }
            );
            if (image is null && reference is { } key)
                image = new(key) { DeclaredSpace = holder.Active("colorspace") ?? string.Empty };
        }

        var made = new ShaderNode(id, node.Tree.Name, inputs.ToImmutable()) { Output = node.Type, Template = node.Tree["inherit"] };
        if (image is not null)
            made = made with { Image = MtlxImages.Of(image, made, nodes) };
        nodes[id] = made;
    }

    /// <summary>The input of the graph that an interface name stands for, or the input itself.</summary>
    private static MtlxElement Interface(MtlxElement input, MtlxElement? graph) =>
        input.Tree["interfacename"] is { } name && graph?.Inputs.FirstOrDefault(i => i.Name == name) is { } outer ? outer : input;

    internal static ShaderValue Value(InputType type, string text)
    {
        if (type.Word is "filename" or "string" or "boolean" or "geomname")
            return ShaderValue.OfText(text);
        var numbers = ImmutableArray.CreateBuilder<double>();
        foreach (var part in text.Split([',', ' '], StringSplitOptions.RemoveEmptyEntries))
        {
            if (!double.TryParse(part, NumberStyles.Float, CultureInfo.InvariantCulture, out var n))
                return ShaderValue.OfText(text);
            numbers.Add(n);
        }

        return new(numbers.ToImmutable());
    }
}
