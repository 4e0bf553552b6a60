using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>How UsdUVTexture and MaterialX's image nodes read; other nodes give what they share with them.</summary>
internal static class UsdImages
{
    public const string Texture = "UsdUVTexture";
    public const string Place = "UsdTransform2d";

    /// <summary>Every image of a graph as its node and what gives it coordinates say now.</summary>
    public static ShaderGraph Derived(ShaderGraph graph)
    {
        var nodes = graph.Nodes.DistinctBy(n => n.Name).ToDictionary(n => n.Name, StringComparer.Ordinal);
        return graph with { Nodes = [.. graph.Nodes.Select(n => n.Image is { } image ? n with { Image = Of(image, n, nodes) } : n)] };
    }

    /// <param name="image">Its reference, and the colour space that is declared outside the node's inputs.</param>
    public static ImageUse Of(ImageUse image, ShaderNode node, IReadOnlyDictionary<string, ShaderNode> nodes)
    {
        var space = node.Input("sourceColorSpace")?.Value?.Text ?? image.DeclaredSpace;
        var transform = UvTransform.Identity with { Order = "scale rotate offset" };
        var tiling = node.Input("uvtiling")?.Value?.Numbers ?? [];
        if (tiling.Length == 2)
            transform = transform with { ScaleU = tiling[0], ScaleV = tiling[1] };
        var set = string.Empty;
        var at = (node.Input("st") ?? node.Input("texcoord"))?.From;
        for (var hops = 0; at is not null && hops < 32 && nodes.TryGetValue(at.Node, out var before); hops++)
        {
            double At(string name, int i, double standard) => before.Input(name)?.Value?.Numbers is { } n && n.Length > i ? n[i] : standard;
            if (before.Type == Place)
                transform = new(
                    At("translation", 0, 0),
                    At("translation", 1, 0),
                    At("rotation", 0, 0),
                    At("scale", 0, 1),
                    At("scale", 1, 1),
                    transform.Order
                );
            else if (before.Type.StartsWith("ND_place2d", StringComparison.Ordinal))
                transform = new(
                    0 - At("offset", 0, 0),
                    0 - At("offset", 1, 0),
                    At("rotate", 0, 0),
                    1 / At("scale", 0, 1),
                    1 / At("scale", 1, 1),
                    transform.Order
                );
            set = before.Input("varname")?.Value?.Text ?? before.Input("geomprop")?.Value?.Text ?? set;
            at = (before.Input("in") ?? before.Input("texcoord") ?? before.Inputs.FirstOrDefault(i => i.From is not null))?.From;
        }

        var preview = node.Type == Texture;
        var colour = preview || node.Type.Contains("color", StringComparison.Ordinal);
        return image with
        {
            UvSet = set,
            Transform = transform,
            WrapU = Wrap(node.Input("wrapS") ?? node.Input("uaddressmode"), preview),
            WrapV = Wrap(node.Input("wrapT") ?? node.Input("vaddressmode"), preview),
            DeclaredSpace = space,
            EffectiveSpace = space switch
            {
                "" or "auto" => preview ? ColourSpace.Auto
                : colour ? ColourSpace.Linear
                : ColourSpace.Data,
                _ => ColourSpaces.Of(space),
            },
            Channels =
                preview ? Channels.Rgba
                : node.Type.Contains("float", StringComparison.Ordinal) ? Channels.R
                : Channels.Rgb,
            Scale = node.Input("scale")?.Value?.Numbers ?? [],
            Bias = node.Input("bias")?.Value?.Numbers ?? [],
            Default = (node.Input("fallback") ?? node.Input("default"))?.Value?.Numbers ?? (preview ? [0, 0, 0, 1] : []),
        };
    }

    private static WrapMode Wrap(ShaderInput? mode, bool preview) =>
        mode?.Value?.Text switch
        {
            "repeat" or "periodic" => WrapMode.Repeat,
            "mirror" => WrapMode.Mirror,
            "clamp" => WrapMode.Clamp,
            "black" or "constant" => WrapMode.Black,
            "useMetadata" => WrapMode.FromFile,
            _ => preview ? WrapMode.FromFile : WrapMode.Repeat,
        };

    public static string Word(WrapMode mode) =>
        mode switch
        {
            WrapMode.Clamp => "clamp",
            WrapMode.Mirror => "mirror",
            WrapMode.Black => "black",
            WrapMode.FromFile => "useMetadata",
            _ => "repeat",
        };
}
