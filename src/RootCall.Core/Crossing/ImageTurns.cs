using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Crossing;

/// <summary>
/// Images on their way between glTF, which counts V downwards and has no gain of an image's values, and all others.
/// </summary>
internal static class ImageTurns
{
    /// <summary>
    /// The same reading of each image, as the other side says it. What an image's use multiplies and adds becomes nodes, which take the
    /// image's name, so that whoever reads it need not know; glTF says so only how strong a normal is, which is taken elsewhere.
    /// </summary>
    public static ImmutableArray<ShaderNode> Of(ImmutableArray<ShaderNode> nodes, bool fromGltf, bool toGltf) =>
        [.. nodes.SelectMany(n => n.Image is { } use ? Of(n, fromGltf == toGltf ? use : Turned(use), fromGltf) : [n])];

    private static IEnumerable<ShaderNode> Of(ShaderNode node, ImageUse use, bool fromGltf)
    {
        var plain = node with { Image = use with { Scale = [], Bias = [] } };
        if (fromGltf || (use.Scale.IsEmpty && use.Bias.IsEmpty))
            return [plain];
        var stored = $"{node.Name} stored";
        var gained = $"{node.Name} gained";
        return [plain with { Name = stored }, Four(gained, "multiply", stored, use.Scale, 1), Four(node.Name, "add", gained, use.Bias, 0)];
    }

    private static ShaderNode Four(string name, string type, string of, ImmutableArray<double> by, double otherwise)
    {
        ImmutableArray<double> numbers = [.. Enumerable.Range(0, 4).Select(i => by.IsEmpty ? otherwise : by[Math.Min(i, by.Length - 1)])];
        return new(name, type, [new("in1", InputType.Color4, null, new(of, "out")), new("in2", InputType.Color4, new ShaderValue(numbers))])
        {
            Output = InputType.Color4,
        };
    }

    /// <summary>A move of V that grows one way, said in the other: x ↦ R S x + o becomes x ↦ J R S J x + J (R S e + o) + e.</summary>
    private static ImageUse Turned(ImageUse use)
    {
        var t = use.Transform;
        if (t.IsIdentity)
            return use;
        var (sine, cosine) = Math.SinCos(t.Rotation * Math.PI / 180);
        return t.Order.StartsWith("offset", StringComparison.Ordinal)
            ? use
            : use with
            {
                Transform = t with { OffsetU = t.OffsetU + (sine * t.ScaleV), OffsetV = 1 - (cosine * t.ScaleV) - t.OffsetV },
            };
    }
}
