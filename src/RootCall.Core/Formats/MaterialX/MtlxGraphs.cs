using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>Turns surface materials of a document into graphs, following node graphs and interface names.</summary>
/// <param name="file">Gives the reference of a filename input.</param>
internal sealed class MtlxGraphs(MtlxDocument document, Func<MtlxElement, ReferenceKey?> file)
{
    private readonly Dictionary<string, ShaderNode> nodes = [];
    private readonly HashSet<string> open = [];

    public ShaderGraph Of(MtlxElement material)
    {
        nodes.Clear();
        open.Clear();
        var shader = document.InputsOf(material).FirstOrDefault(i => i.Name == "surfaceshader");
        if (shader is null || Source(shader, null) is not { } surface) return ShaderGraph.Empty;
        // The surface shader comes first, what feeds it behind.
        return new([.. nodes.Values.OrderByDescending(n => n.Name == surface.Node)], surface.Node);
    }

    /// <summary>Reads the node that feeds an input, and all behind it.</summary>
    private Connection? Source(MtlxElement input, MtlxElement? graph)
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

        if (input.Tree["nodename"] is not { } name || document.Find(graph, name) is not { } node) return null;
        var id = graph is null ? name : $"{graph.Name}/{name}";
        Node(id, node, graph);
        return new(id, output);
    }

    private void Node(string id, MtlxElement node, MtlxElement? graph)
    {
        // A cycle ends here: the node is being read further up.
        if (!open.Add(id)) return;
        var inputs = ImmutableArray.CreateBuilder<ShaderInput>();
        ImageUse? image = null;
        foreach (var input in document.InputsOf(node))
        {
            var holder = Interface(input, graph);
            var from = Source(input, graph);
            inputs.Add(new(input.Name, input.Type, holder.Tree["value"] is { } value ? Value(input.Type, value) : null, from)
            {
                Dangling = from is null ? input.Tree["nodename"] ?? input.Tree["nodegraph"] : null,
            });
            if (input.Type == "filename" && image is null && file(holder) is { } reference) image = new(reference) { DeclaredSpace = holder.Active("colorspace") ?? string.Empty };
        }

        var read = new ShaderNode(id, node.Tree.Name, inputs.ToImmutable());
        if (image is not null) read = read with { Image = Settings(image, read, node.Type) };
        nodes[id] = read;
    }

    /// <summary>The input of the graph that an interface name stands for, or the input itself.</summary>
    private static MtlxElement Interface(MtlxElement input, MtlxElement? graph) =>
        input.Tree["interfacename"] is { } name && graph?.Inputs.FirstOrDefault(i => i.Name == name) is { } outer ? outer : input;

    private ImageUse Settings(ImageUse image, ShaderNode node, string type)
    {
        var transform = Tiling(node);
        var set = string.Empty;
        var at = node.Input("texcoord")?.From;
        for (var hops = 0; at is not null && hops < 16 && nodes.TryGetValue(at.Node, out var before); hops++)
        {
            if (before.Type == "place2d") transform = Place(before);
            set = before.Type switch
            {
                "geompropvalue" => before.Input("geomprop")?.Value?.Text ?? set,
                "texcoord" => before.Input("index")?.Value is { Numbers: [var index] } ? $"index {index}" : set,
                "usdprimvarreader" or "UsdPrimvarReader" => before.Input("varname")?.Value?.Text ?? set,
                _ => set,
            };
            at = before.Inputs.FirstOrDefault(i => i.From is not null)?.From;
        }

        return image with
        {
            UvSet = set,
            Transform = transform,
            WrapU = Wrap(node.Input("uaddressmode")),
            WrapV = Wrap(node.Input("vaddressmode")),
            EffectiveSpace = Effective(image.DeclaredSpace, type),
            Channels = type switch { "float" => "r", "vector2" => "rg", "color4" or "vector4" => "rgba", _ => "rgb" },
            Default = node.Input("default")?.Value?.Numbers ?? [],
        };
    }

    /// <summary>Values that are no colours are not converted, whatever is written (MaterialX 1.38, "Color spaces").</summary>
    private static string Effective(string declared, string type)
    {
        if (!type.StartsWith("color", StringComparison.Ordinal) || declared is "none") return "data";
        return declared switch { "" => "linear", "srgb_texture" => "srgb", "lin_rec709" => "linear", _ => declared };
    }

    private static UvTransform Tiling(ShaderNode node)
    {
        var tiling = node.Input("uvtiling")?.Value?.Numbers ?? [];
        var offset = node.Input("uvoffset")?.Value?.Numbers ?? [];
        return UvTransform.Identity with
        {
            ScaleU = tiling.Length == 2 ? tiling[0] : 1,
            ScaleV = tiling.Length == 2 ? tiling[1] : 1,
            OffsetU = offset.Length == 2 ? offset[0] : 0,
            OffsetV = offset.Length == 2 ? offset[1] : 0,
            Order = "scale offset",
        };
    }

    /// <summary>place2d divides by its scale and subtracts its offset (MaterialX 1.38, standard nodes).</summary>
    private static UvTransform Place(ShaderNode node)
    {
        double At(string name, int i, double standard) => node.Input(name)?.Value?.Numbers is { } n && n.Length > i ? n[i] : standard;
        double Inverse(double scale) => scale == 0 ? 0 : 1 / scale;
        return new(-At("offset", 0, 0), -At("offset", 1, 0), At("rotate", 0, 0), Inverse(At("scale", 0, 1)), Inverse(At("scale", 1, 1)), At("operationorder", 0, 0) == 0 ? "scale rotate offset" : "offset rotate scale");
    }

    private static WrapMode Wrap(ShaderInput? mode) => mode?.Value?.Text switch { "clamp" => WrapMode.Clamp, "mirror" => WrapMode.Mirror, "constant" => WrapMode.Black, _ => WrapMode.Repeat };

    internal static ShaderValue Value(string type, string text)
    {
        if (type is "filename" or "string" or "boolean" or "geomname") return ShaderValue.OfText(text);
        var numbers = ImmutableArray.CreateBuilder<double>();
        foreach (var part in text.Split([',', ' '], StringSplitOptions.RemoveEmptyEntries))
        {
            if (!double.TryParse(part, NumberStyles.Float, CultureInfo.InvariantCulture, out var n)) return ShaderValue.OfText(text);
            numbers.Add(n);
        }

        return new(numbers.ToImmutable());
    }
}
