using System.Globalization;
using System.Xml.Linq;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>
/// Writes looks as a MaterialX 1.39 document. Nodes of the standard library stand as they are; an image of another format becomes an
/// <c>image</c> with the move of its coordinates as a <c>place2d</c> before it.
/// </summary>
/// <param name="pathOf">The path that an image is called by.</param>
public sealed class MtlxAuthor(Func<ReferenceKey, string> pathOf)
{
    private readonly XElement root = new("materialx", new XAttribute("version", "1.39"));
    private readonly HashSet<string> taken = new(StringComparer.Ordinal);

    /// <summary>Adds a material.</summary>
    /// <returns>Why it cannot be said; null when it was added.</returns>
    public string? Add(string material, ShaderGraph graph)
    {
        if (graph.SurfaceNode is not { } surface)
            return "It has no surface.";
        var nodes = Reached(graph, surface);
        if (nodes.FirstOrDefault(n => n.Image is null && n.Name != surface.Name && !IsStandard(n)) is { } strange)
            return $"Its node “{strange.Name}” ({strange.Type}) is none of MaterialX's standard library.";
        if (nodes.FirstOrDefault(n => n.Image is not null && !IsPlaced(graph, n)) is { } bent)
            return $"The coordinates of its image “{bent.Name}” are made by nodes; only a move of them is written.";
        var called = Unique(material);
        var names = nodes.ToDictionary(n => n.Name, n => Unique($"{called}_{n.Name}"), StringComparer.Ordinal);
        foreach (var node in nodes.Where(n => n.Name != surface.Name))
            Node(node, names, nodes);
        var shader = new XElement(surface.Type, new XAttribute("name", names[surface.Name]), new XAttribute("type", "surfaceshader"));
        foreach (var input in surface.Inputs)
            shader.Add(Input(input.Name, input, names, nodes));
        root.Add(shader);
        root.Add(
            new XElement(
                "surfacematerial",
                new XAttribute("name", called),
                new XAttribute("type", "material"),
                new XElement(
                    "input",
                    new XAttribute("name", "surfaceshader"),
                    new XAttribute("type", "surfaceshader"),
                    new XAttribute("nodename", names[surface.Name])
                )
            )
        );
        return null;
    }

    public string Document() => "<?xml version=\"1.0\"?>\n" + root.ToString().ReplaceLineEndings("\n") + "\n";

    private static bool IsStandard(ShaderNode node) =>
        (node.Type is "bump" or "heighttonormal" || NodeKinds.Find(node.Type, TypeOf(node)) is not null)
        && !node.Type.StartsWith("Usd", StringComparison.Ordinal);

    /// <summary>What feeds an image's coordinates is what its use says: a UV set and a move.</summary>
    private static bool IsPlaced(ShaderGraph graph, ShaderNode image)
    {
        var wire = (image.Input("texcoord") ?? image.Input("st"))?.From;
        for (var hops = 0; wire is not null && graph.Node(wire.Node) is { } node; hops++)
        {
            if (hops > 4 || !Placing.Any(p => node.Type.StartsWith(p, StringComparison.OrdinalIgnoreCase)))
                return false;
            wire = node.Inputs.FirstOrDefault(i => i.From is not null)?.From;
        }

        return true;
    }

    private static readonly string[] Placing = ["place2d", "texcoord", "geompropvalue", "UsdTransform2d", "UsdPrimvarReader"];

    private static List<ShaderNode> Reached(ShaderGraph graph, ShaderNode surface)
    {
        var found = new List<ShaderNode>();
        var seen = new HashSet<string>(StringComparer.Ordinal) { surface.Name };
        var ahead = new Queue<ShaderNode>([surface]);
        while (ahead.TryDequeue(out var node))
        {
            found.Add(node);
            // What moves the coordinates of an image is said by its use.
            foreach (var input in node.Image is null ? node.Inputs : [])
                if (input.From is { } wire && graph.Node(wire.Node) is { } next && seen.Add(next.Name))
                    ahead.Enqueue(next);
        }

        found.Reverse();
        return found;
    }

    private void Node(ShaderNode node, Dictionary<string, string> names, List<ShaderNode> nodes)
    {
        if (node.Image is { } use)
        {
            Image(node, use, names[node.Name], nodes);
            return;
        }

        var element = new XElement(node.Type, new XAttribute("name", names[node.Name]), new XAttribute("type", TypeOf(node).Word));
        foreach (var input in node.Inputs)
            element.Add(Input(input.Name, input, names, nodes));
        root.Add(element);
    }

    private void Image(ShaderNode node, ImageUse use, string name, List<ShaderNode> nodes)
    {
        var type = ImageType(node, nodes);
        var element = new XElement("image", new XAttribute("name", name), new XAttribute("type", type.Word));
        var file = new XElement(
            "input",
            new XAttribute("name", "file"),
            new XAttribute("type", "filename"),
            new XAttribute("value", pathOf(use.Reference))
        );
        if (Space(use) is { } space && type.IsColour)
            file.Add(new XAttribute("colorspace", space));
        element.Add(file);
        if (!use.Transform.IsIdentity)
        {
            var place = Unique($"{name}_place");
            Place(place, use.Transform);
            element.Add(Wire("texcoord", "vector2", place));
        }

        foreach (var (mode, input) in new[] { (use.WrapU, "uaddressmode"), (use.WrapV, "vaddressmode") })
            if (mode != WrapMode.Repeat)
                element.Add(Value(input, "string", mode == WrapMode.Black ? "constant" : mode.ToString().ToLowerInvariant()));
        root.Add(element);
    }

    /// <summary>What an image has to give: what is asked of it.</summary>
    private static InputType ImageType(ShaderNode node, List<ShaderNode> nodes)
    {
        var asked = nodes.SelectMany(n => n.Inputs).Where(i => i.From?.Node == node.Name).ToList();
        if (asked.Exists(i => i.Type == InputType.Color4 || i.From!.Output is "r" or "g" or "b" or "a"))
            return InputType.Color4;
        return asked.Select(i => i.Type).FirstOrDefault(t => t.Numbers > 0) is { IsSaid: true } type ? type : InputType.Color3;
    }

    private static string? Space(ImageUse use) =>
        use.EffectiveSpace switch
        {
            ColourSpace.Srgb or ColourSpace.Auto => "srgb_texture",
            ColourSpace.Linear => "lin_rec709",
            ColourSpace.AcesCg => "acescg",
            _ => null,
        };

    /// <summary>place2d divides by its scale and takes its offset away, and turns the other way around.</summary>
    private void Place(string name, UvTransform t)
    {
        var element = new XElement("place2d", new XAttribute("name", name), new XAttribute("type", "vector2"));
        element.Add(Value("scale", "vector2", Numbers([1 / t.ScaleU, 1 / t.ScaleV])));
        element.Add(Value("rotate", "float", Numbers([-t.Rotation])));
        element.Add(Value("offset", "vector2", Numbers([-t.OffsetU, -t.OffsetV])));
        if (t.Order.StartsWith("offset", StringComparison.Ordinal))
            element.Add(Value("operationorder", "integer", "1"));
        root.Add(element);
    }

    private XElement Input(string name, ShaderInput input, Dictionary<string, string> names, List<ShaderNode> nodes)
    {
        if (input.From is { } wire && names.TryGetValue(wire.Node, out var from))
        {
            var behind = nodes.First(n => n.Name == wire.Node);
            var given = behind.Image is null ? TypeOf(behind) : ImageType(behind, nodes);
            if (wire.Output.Length == 1 && Channels.IndexOf(wire.Output[0]) is >= 0 and var channel && given.Numbers > 1)
                return Wire(name, input.Type.Word, Part(from, given, channel));
            if (wire.Output == "rgb" && given == InputType.Color4)
                return Wire(name, input.Type.Word, Colour(from, input.Type));
            var element = Wire(name, input.Type.Word, from);
            if (behind.Type.StartsWith("separate", StringComparison.Ordinal))
                element.Add(new XAttribute("output", wire.Output));
            return element;
        }

        return Value(name, input.Type.Word, input.Value?.Text ?? Numbers(input.Value?.Numbers ?? []));
    }

    private const string Channels = "rgba";

    /// <summary>One of the numbers that a node gives, as a node of its own.</summary>
    private string Part(string node, InputType type, int channel)
    {
        var name = Unique($"{node}_{Channels[channel]}");
        var extract = new XElement("extract", new XAttribute("name", name), new XAttribute("type", InputType.Float.Word));
        extract.Add(Wire("in", type.Word, node));
        extract.Add(Value("index", InputType.Integer.Word, Numbers([channel])));
        root.Add(extract);
        return name;
    }

    /// <summary>The first three numbers of four, as a node of their own.</summary>
    private string Colour(string node, InputType type)
    {
        string Converted(string of, InputType from, InputType to)
        {
            var name = Unique($"{of}_{to.Word}");
            root.Add(new XElement("convert", new XAttribute("name", name), new XAttribute("type", to.Word), Wire("in", from.Word, of)));
            return name;
        }

        var colour = Converted(node, InputType.Color4, InputType.Color3);
        return type == InputType.Vector3 ? Converted(colour, InputType.Color3, InputType.Vector3) : colour;
    }

    private static InputType TypeOf(ShaderNode node) =>
        node.Output.IsSaid
            ? node.Output
            : node.Type switch
            {
                "extract" => InputType.Float,
                "normalmap" => InputType.Vector3,
                _ => node.Inputs.Select(i => i.Type).Where(t => t.Numbers > 0).OrderByDescending(t => t.Numbers).FirstOrDefault(),
            };

    private static XElement Wire(string name, string type, string node) =>
        new("input", new XAttribute("name", name), new XAttribute("type", type), new XAttribute("nodename", node));

    private static XElement Value(string name, string type, string value) =>
        new("input", new XAttribute("name", name), new XAttribute("type", type), new XAttribute("value", value));

    private static string Numbers(IEnumerable<double> numbers) =>
        string.Join(", ", numbers.Select(n => n.ToString("0.#########", CultureInfo.InvariantCulture)));

    /// <summary>Letters, digits and underscores, none twice.</summary>
    private string Unique(string wanted)
    {
        var clean = string.Concat(wanted.Select(c => char.IsAsciiLetterOrDigit(c) ? c : '_'));
        if (clean.Length == 0 || char.IsAsciiDigit(clean[0]))
            clean = $"m_{clean}";
        var name = clean;
        for (var n = 2; !taken.Add(name); n++)
            name = $"{clean}_{n}";
        return name;
    }
}
