using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats;

/// <summary>
/// Builds the graph that a fixed-function material implies: image, channel extract, multiply by a factor, input. Node
/// types are MaterialX's where it has them.
/// </summary>
internal sealed class GraphBuilder(string surfaceType)
{
    private const string Surface = "surface";
    private readonly List<ShaderNode> nodes = [];
    private readonly List<ShaderInput> inputs = [];

    /// <param name="value">What is written; null when the default holds.</param>
    public void Value(string input, InputType type, ShaderValue? value, ShaderValue? standard = null) =>
        inputs.Add(new(input, type, value) { Default = standard });

    /// <summary>An image on an input; <paramref name="factor"/> is the input's own value that the format multiplies it by.</summary>
    public void Map(string input, InputType type, ImageUse image, ShaderValue? factor = null, ShaderValue? standard = null)
    {
        var name = $"{input} image";
        nodes.Add(new(name, "image", [new("file", InputType.FileName, ShaderValue.OfText(image.Reference.Written))], image));
        var from = new Connection(name, "out");
        if (image.Channels.Place() is { } index && type == InputType.Float)
        {
            nodes.Add(
                new(
                    $"{input} channel",
                    "extract",
                    [new("in", InputType.Color4, null, from), new("index", InputType.Integer, ShaderValue.Of(index))]
                )
            );
            from = new($"{input} channel", "out");
        }

        if (type == InputType.Vector3 && input.Contains("ormal", StringComparison.Ordinal))
        {
            nodes.Add(
                new(
                    $"{input} map",
                    "normalmap",
                    [
                        new("in", InputType.Vector3, null, from),
                        .. image.Scale is [var scale, ..]
                            ? [new ShaderInput("scale", InputType.Float, ShaderValue.Of(scale))]
                            : ImmutableArray<ShaderInput>.Empty,
                    ]
                )
            );
            from = new($"{input} map", "out");
        }

        if (factor is not null)
        {
            nodes.Add(new($"{input} factor", "multiply", [new("in1", type, null, from), new("in2", type, factor)]));
            from = new($"{input} factor", "out");
        }

        inputs.Add(new(input, type, null, from) { Default = standard });
    }

    public ShaderGraph Build() => new([new(Surface, surfaceType, [.. inputs]), .. nodes], Surface);
}
