using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing;

/// <summary>
/// Images on their way between glTF, which counts V downwards and has no gain of an image's values, and all others.
/// </summary>
internal static class ImageTurns
{
    /// <summary>The same reading of each image, as the other side says it.</summary>
    /// <param name="toGltf">From another model to glTF's; false for the way back.</param>
    public static ImmutableArray<ShaderNode> Of(ImmutableArray<ShaderNode> nodes, bool toGltf)
    {
        var turned = nodes.Select(n => n.Image is { } use ? n with { Image = Turned(use) } : n).ToList();
        if (!toGltf)
            return [.. turned.Select(n => n.Image is { } use ? n with { Image = use with { Scale = [], Bias = [] } } : n)];
        var gains = turned.Where(n => n.Image is { } use && (!use.Scale.IsEmpty || !use.Bias.IsEmpty)).ToList();
        var moved = gains.ToDictionary(n => n.Name, n => $"{n.Name} moved", StringComparer.Ordinal);
        var rewired = turned.Select(n =>
            n with
            {
                Inputs =
                [
                    .. n.Inputs.Select(i =>
                        i.From is { } wire && moved.TryGetValue(wire.Node, out var to) ? i with { From = wire with { Node = to } } : i
                    ),
                ],
                Image = n.Image is { } use ? use with { Scale = [], Bias = [] } : null,
            }
        );
        return [.. rewired, .. gains.SelectMany(n => Gain(n, moved[n.Name]))];
    }

    private static IEnumerable<ShaderNode> Gain(ShaderNode image, string name)
    {
        var use = image.Image!;
        ImmutableArray<double> Four(ImmutableArray<double> of, double otherwise) =>
            of.IsEmpty
                ? [otherwise, otherwise, otherwise, otherwise]
                : [.. Enumerable.Range(0, 4).Select(i => of[Math.Min(i, of.Length - 1)])];
        yield return new(
            $"{name} once",
            "multiply",
            [
                new("in1", Shading.InputType.Color4, null, new(image.Name, "out")),
                new("in2", Shading.InputType.Color4, new(Four(use.Scale, 1))),
            ]
        )
        {
            Output = Shading.InputType.Color4,
        };
        yield return new(
            name,
            "add",
            [
                new("in1", Shading.InputType.Color4, null, new($"{name} once", "out")),
                new("in2", Shading.InputType.Color4, new(Four(use.Bias, 0))),
            ]
        )
        {
            Output = Shading.InputType.Color4,
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
