using System.Globalization;
using System.Xml.Linq;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>Writes looks as elements of a MaterialX 1.39 document.</summary>
/// <param name="pathOf">The path that an image is called by.</param>
/// <param name="names">Names that the document has; those of what is added are put among them.</param>
public sealed class MtlxAuthor(Func<ReferenceKey, string> pathOf, params IEnumerable<string> names)
{
    private readonly List<XElement> elements = [];
    private readonly HashSet<string> taken = new(names, StringComparer.Ordinal);

    /// <summary>The elements of what was added, in their order.</summary>
    public IEnumerable<XElement> Elements => elements;

    /// <summary>Attributes of the element that holds them also speak of them: a prefix of file names is undone.</summary>
    public bool IsUnderPrefix { get; init; }

    /// <summary>Adds a material.</summary>
    /// <returns>Why it cannot be said; null when it was added.</returns>
    public string? Add(string material, ShaderGraph graph)
    {
        if (StandardGraph.Of(graph, out var why) is not { } look)
            return why;
        var called = Unique(material);
        var names = look.Nodes.ToDictionary(n => n.Name, n => Unique($"{called}_{n.Name}"), StringComparer.Ordinal);
        foreach (var node in look.Nodes)
            elements.Add(Node(node, names, node.Name == look.Surface ? "surfaceshader" : node.Output.Word));
        elements.Add(
            new XElement(
                "surfacematerial",
                new XAttribute("name", called),
                new XAttribute("type", "material"),
                new XElement(
                    "input",
                    new XAttribute("name", "surfaceshader"),
                    new XAttribute("type", "surfaceshader"),
                    new XAttribute("nodename", names[look.Surface])
                )
            )
        );
        return null;
    }

    public string Document()
    {
        var root = new XElement("materialx", new XAttribute("version", "1.39"), elements);
        return "<?xml version=\"1.0\"?>\n" + root.ToString().ReplaceLineEndings("\n") + "\n";
    }

    private XElement Node(ShaderNode node, Dictionary<string, string> names, string type)
    {
        var element = new XElement(node.Type, new XAttribute("name", names[node.Name]), new XAttribute("type", type));
        foreach (var input in node.Inputs)
        {
            var made = new XElement("input", new XAttribute("name", input.Name), new XAttribute("type", input.Type.Word));
            if (input.From is { } from)
            {
                made.Add(new XAttribute("nodename", names[from.Node]));
                if (from.Output != "out")
                    made.Add(new XAttribute("output", from.Output));
            }
            else if (input.Type == InputType.FileName && node.Image is { } image)
            {
                if (IsUnderPrefix)
                    made.Add(new XAttribute("fileprefix", string.Empty));
                made.Add(new XAttribute("value", pathOf(image.Reference)));
                if (image.DeclaredSpace.Length > 0)
                    made.Add(new XAttribute("colorspace", image.DeclaredSpace));
            }
            else
                made.Add(new XAttribute("value", input.Value?.Text ?? Numbers(input.Value?.Numbers ?? [])));
            element.Add(made);
        }

        return element;
    }

    private static string Numbers(IEnumerable<double> numbers) =>
        string.Join(", ", numbers.Select(n => n.ToString("0.#########", CultureInfo.InvariantCulture)));

    private string Unique(string wanted) => StandardNames.Unique(wanted, taken);
}
