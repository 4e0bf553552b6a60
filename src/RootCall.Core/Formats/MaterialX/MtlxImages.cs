using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>How the image nodes of MaterialX read: what their inputs say of tiling, wrapping and colour.</summary>
internal static class MtlxImages
{
    /// <summary>Every image of a graph as its node and what gives it coordinates say now.</summary>
    public static ShaderGraph Derived(ShaderGraph graph)
    {
        var nodes = graph.Nodes.DistinctBy(n => n.Name).ToDictionary(n => n.Name, StringComparer.Ordinal);
        return graph with { Nodes = [.. graph.Nodes.Select(n => n.Image is { } image ? n with { Image = Of(image, n, nodes) } : n)] };
    }

    /// <param name="image">Its reference and the colour space that is declared.</param>
    public static ImageUse Of(ImageUse image, ShaderNode node, IReadOnlyDictionary<string, ShaderNode> nodes)
    {
        var transform = Tiling(node);
        var set = string.Empty;
        var at = node.Input("texcoord")?.From;
        for (var hops = 0; at is not null && hops < 16 && nodes.TryGetValue(at.Node, out var before); hops++)
        {
            if (before.Type == "place2d")
                transform = Place(before);
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
            EffectiveSpace = Effective(image.DeclaredSpace, node.Output),
            Channels = node.Output.Word switch
            {
                "float" => Channels.R,
                "vector2" => Channels.Rg,
                "color4" or "vector4" => Channels.Rgba,
                _ => Channels.Rgb,
            },
            Default = node.Input("default")?.Value?.Numbers ?? [],
        };
    }

    /// <summary>Values that are no colours are not converted, whatever is written (MaterialX 1.38, "Color spaces").</summary>
    private static ColourSpace Effective(string declared, InputType type) =>
        !type.IsColour ? ColourSpace.Data
        : declared.Length == 0 ? ColourSpace.Linear
        : ColourSpaces.Of(declared);

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
        var order = At("operationorder", 0, 0) == 0 ? "scale rotate offset" : "offset rotate scale";
        return new(
            0 - At("offset", 0, 0),
            0 - At("offset", 1, 0),
            At("rotate", 0, 0),
            Inverse(At("scale", 0, 1)),
            Inverse(At("scale", 1, 1)),
            order
        );
    }

    private static WrapMode Wrap(ShaderInput? mode) =>
        mode?.Value?.Text switch
        {
            "clamp" => WrapMode.Clamp,
            "mirror" => WrapMode.Mirror,
            "constant" => WrapMode.Black,
            _ => WrapMode.Repeat,
        };

    public static string Word(WrapMode mode) =>
        mode switch
        {
            WrapMode.Clamp => "clamp",
            WrapMode.Mirror => "mirror",
            WrapMode.Black => "constant",
            _ => "periodic",
        };
}
