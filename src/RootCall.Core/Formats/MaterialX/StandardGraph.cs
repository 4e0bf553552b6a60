using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>
/// A look as nodes of MaterialX's standard library alone (MaterialX 1.39, "Standard Nodes"): an image of another format becomes an
/// <c>image</c> with its UV set and the move of its coordinates as nodes before it. What reads a node stands behind it.
/// </summary>
internal sealed class StandardGraph
{
    private const string Letters = "rgba";
    private readonly ShaderGraph graph;
    private readonly List<ShaderNode> reached;
    private readonly List<ShaderNode> made = [];
    private readonly HashSet<string> taken = new(StringComparer.Ordinal);
    private readonly Dictionary<string, string> names;

    private StandardGraph(ShaderGraph graph, List<ShaderNode> reached)
    {
        (this.graph, this.reached) = (graph, reached);
        names = reached.ToDictionary(n => n.Name, n => Unique(n.Name), StringComparer.Ordinal);
    }

    /// <param name="why">Why it cannot be said; null when it can.</param>
    public static ShaderGraph? Of(ShaderGraph graph, out string? why)
    {
        why = null;
        if (graph.SurfaceNode is not { } surface)
        {
            why = "It has no surface.";
            return null;
        }

        var reached = Reached(graph, surface);
        if (reached.FirstOrDefault(n => n.Image is null && n.Name != surface.Name && !IsStandard(n)) is { } strange)
            why = $"Its node “{strange.Name}” ({strange.Type}) is none of MaterialX's standard library.";
        else if (reached.FirstOrDefault(n => n.Image is not null && !IsPlaced(graph, n)) is { } bent)
            why = $"The coordinates of its image “{bent.Name}” are made by nodes; only a move of them is written.";
        return why is null ? new StandardGraph(graph, reached).Whole(surface) : null;
    }

    private ShaderGraph Whole(ShaderNode surface)
    {
        foreach (var node in reached.Where(n => n.Name != surface.Name))
        {
            if (node.Image is { } use)
                Image(node, use);
            else
                made.Add(new(names[node.Name], NodeKinds.NameOf(node.Type), [.. Said(node)]) { Output = TypeOf(node) });
        }

        made.Add(new(names[surface.Name], surface.Type, [.. Said(surface)]));
        return new([.. made], names[surface.Name]);
    }

    private static bool IsStandard(ShaderNode node) =>
        NodeKinds.NameOf(node.Type) is var name
        && (name is "bump" or "heighttonormal" || NodeKinds.Find(name, TypeOf(node)) is not null)
        && !name.StartsWith("Usd", StringComparison.Ordinal);

    /// <summary>What feeds an image's coordinates is what its use says: a UV set and a move.</summary>
    private static bool IsPlaced(ShaderGraph graph, ShaderNode image)
    {
        var wire = (image.Input("texcoord") ?? image.Input("st"))?.From;
        for (var hops = 0; wire is not null && graph.Node(wire.Node) is { } node; hops++)
        {
            var name = NodeKinds.NameOf(node.Type);
            if (hops > 4 || !Placing.Any(p => name.StartsWith(p, StringComparison.OrdinalIgnoreCase)))
                return false;
            wire = node.Inputs.FirstOrDefault(i => i.From is not null)?.From;
        }

        return true;
    }

    private static readonly string[] Placing = ["place2d", "texcoord", "geompropvalue", "UsdTransform2d", "UsdPrimvarReader"];

    private static List<ShaderNode> Reached(ShaderGraph graph, ShaderNode surface)
    {
        var found = new List<ShaderNode>();
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var ahead = new Stack<(ShaderNode Node, bool IsDone)>([(surface, false)]);
        while (ahead.TryPop(out var at))
        {
            if (at.IsDone)
            {
                found.Add(at.Node);
                continue;
            }

            if (!seen.Add(at.Node.Name))
                continue;
            ahead.Push((at.Node, true));
            // What moves the coordinates of an image is said by its use.
            foreach (var input in at.Node.Image is null ? at.Node.Inputs.Reverse() : [])
                if (input.From is { } wire && graph.Node(wire.Node) is { } next)
                    ahead.Push((next, false));
        }

        return found;
    }

    private void Image(ShaderNode node, ImageUse use)
    {
        var type = ImageType(node);
        var name = names[node.Name];
        var inputs = new List<ShaderInput> { new("file", InputType.FileName, ShaderValue.OfText(use.Reference.Written)) };
        var set = Coordinates(name, use.UvSet);
        if (!use.Transform.IsIdentity)
            set = Place($"{name}_place", use.Transform, set);
        if (set is not null)
            inputs.Add(new("texcoord", InputType.Vector2, null, set));
        foreach (var (mode, input) in new[] { (use.WrapU, "uaddressmode"), (use.WrapV, "vaddressmode") })
            if (mode is not (WrapMode.Repeat or WrapMode.FromFile))
                inputs.Add(new(input, InputType.Text, ShaderValue.OfText(MtlxImages.Word(mode))));
        var declared = !type.IsColour ? string.Empty : Space(use) ?? use.DeclaredSpace;
        made.Add(new(name, "image", [.. inputs], new(use.Reference) { DeclaredSpace = declared }) { Output = type });
    }

    /// <summary>The UV set that an image is read by; null for the mesh's first.</summary>
    private Connection? Coordinates(string image, string set)
    {
        if (set.Length == 0)
            return null;
        // glTF 2.0, 3.8.2, and MaterialX: a set by its place.
        var digits =
            set.StartsWith("TEXCOORD_", StringComparison.Ordinal) ? set["TEXCOORD_".Length..]
            : set.StartsWith("index ", StringComparison.Ordinal) ? set["index ".Length..]
            : null;
        if (int.TryParse(digits, System.Globalization.CultureInfo.InvariantCulture, out var place))
            return place == 0 ? null : Coordinates(image, "texcoord", new ShaderInput("index", InputType.Integer, ShaderValue.Of(place)));
        return Coordinates(image, "geompropvalue", new ShaderInput("geomprop", InputType.Text, ShaderValue.OfText(set)));
    }

    private Connection Coordinates(string image, string type, ShaderInput input)
    {
        if (made.Find(n => n.Type == type && n.Inputs is [var there] && there == input) is { } same)
            return new(same.Name, "out");
        made.Add(new(Unique($"{image}_uv"), type, [input]) { Output = InputType.Vector2 });
        return new(made[^1].Name, "out");
    }

    /// <summary>What an image has to give: what is asked of it.</summary>
    private InputType ImageType(ShaderNode node)
    {
        var asked = reached.SelectMany(n => n.Inputs).Where(i => i.From?.Node == node.Name).ToList();
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
    private Connection Place(string name, UvTransform t, Connection? set)
    {
        var inputs = new List<ShaderInput>();
        if (set is not null)
            inputs.Add(new("texcoord", InputType.Vector2, null, set));
        inputs.Add(new("scale", InputType.Vector2, ShaderValue.Of(1 / t.ScaleU, 1 / t.ScaleV)));
        inputs.Add(new("rotate", InputType.Float, ShaderValue.Of(0 - t.Rotation)));
        inputs.Add(new("offset", InputType.Vector2, ShaderValue.Of(0 - t.OffsetU, 0 - t.OffsetV)));
        if (t.Order.StartsWith("offset", StringComparison.Ordinal))
            inputs.Add(new("operationorder", InputType.Integer, ShaderValue.Of(1)));
        made.Add(new(Unique(name), "place2d", [.. inputs]) { Output = InputType.Vector2 });
        return new(made[^1].Name, "out");
    }

    private IEnumerable<ShaderInput> Said(ShaderNode node) =>
        node.Inputs.Select(Input).Where(i => i.From is not null || i.Value is not null);

    private ShaderInput Input(ShaderInput input)
    {
        if (input.From is not { } wire || !names.TryGetValue(wire.Node, out var from))
            return new(input.Name, input.Type, input.Value ?? input.Default);
        var behind = graph.Node(wire.Node)!;
        var given = behind.Image is null ? TypeOf(behind) : ImageType(behind);
        var place = wire.Output.Length == 1 ? Letters.IndexOf(wire.Output[0], StringComparison.Ordinal) : -1;
        if (place >= 0 && given.Numbers > 1)
            from = Part(from, given, place);
        else if (wire.Output == "rgb" && given == InputType.Color4)
            from = Colour(from, input.Type);
        var output = NodeKinds.NameOf(behind.Type).StartsWith("separate", StringComparison.Ordinal) ? wire.Output : "out";
        return new(input.Name, input.Type, null, new(from, output));
    }

    /// <summary>One of the numbers that a node gives, as a node of its own.</summary>
    private string Part(string node, InputType type, int channel)
    {
        var name = Unique($"{node}_{Letters[channel]}");
        made.Add(
            new(name, "extract", [new("in", type, null, new(node, "out")), new("index", InputType.Integer, ShaderValue.Of(channel))])
            {
                Output = InputType.Float,
            }
        );
        return name;
    }

    /// <summary>The first three numbers of four, as a node of their own.</summary>
    private string Colour(string node, InputType type)
    {
        string Converted(string of, InputType from, InputType to)
        {
            var name = Unique($"{of}_{to.Word}");
            made.Add(new(name, "convert", [new("in", from, null, new(of, "out"))]) { Output = to });
            return name;
        }

        var colour = Converted(node, InputType.Color4, InputType.Color3);
        return type == InputType.Vector3 ? Converted(colour, InputType.Color3, InputType.Vector3) : colour;
    }

    private static InputType TypeOf(ShaderNode node) =>
        node.Output.IsSaid ? node.Output
        : NodeKinds.OutputOf(node.Type) is { IsSaid: true } told ? told
        : NodeKinds.NameOf(node.Type) switch
        {
            "extract" => InputType.Float,
            "normalmap" => InputType.Vector3,
            _ => node.Inputs.Select(i => i.Type).Where(t => t.Numbers > 0).OrderByDescending(t => t.Numbers).FirstOrDefault(),
        };

    /// <summary>Letters, digits and underscores, none twice.</summary>
    private string Unique(string wanted) => StandardNames.Unique(wanted, taken);
}

/// <summary>Names that MaterialX and USD take: letters, digits and underscores, no digit first.</summary>
internal static class StandardNames
{
    /// <param name="taken">Names there are; the new one is put among them.</param>
    public static string Unique(string wanted, HashSet<string> taken)
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
