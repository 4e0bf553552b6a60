using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Rendering.Graphs;

/// <summary>
/// Turns what feeds the inputs of a surface into a <see cref="GraphProgram"/>. What cannot be worked out (a node that is not known, a
/// circle, more than is read) gives its default, and is told.
/// </summary>
/// <param name="told">What was left out, in sentences.</param>
/// <param name="open">Nodes that are being read further up.</param>
internal sealed class GraphCompiler(ShaderGraph graph, ITextureSource textures, SortedSet<string> told, HashSet<string> open, int depth)
{
    private const int Deepest = 500;
    private const int MostSteps = 20_000;

    /// <summary>How far apart heights are taken for their slope, in UV, at least.</summary>
    private const float LeastStep = 1f / 2048;

    private readonly Dictionary<string, ShaderNode> nodes = graph
        .Nodes.DistinctBy(n => n.Name)
        .ToDictionary(n => n.Name, StringComparer.Ordinal);
    private readonly ImmutableArray<GraphProgram.Step>.Builder steps = ImmutableArray.CreateBuilder<GraphProgram.Step>();
    private readonly Dictionary<(string Node, string Output), GraphProgram.Source> made = [];
    private int depth = depth;

    /// <summary>glTF counts V downwards, as images do.</summary>
    private readonly bool countsDown = graph.SurfaceNode?.Type.StartsWith("gltf-", StringComparison.Ordinal) == true;

    /// <summary>A program that gives the value of each wish, in their order.</summary>
    public static GraphProgram Compile(
        ShaderGraph graph,
        ITextureSource textures,
        IEnumerable<(ShaderInput? Input, Vector4 Default)> wishes,
        SortedSet<string> told
    )
    {
        var compiler = new GraphCompiler(graph, textures, told, new(StringComparer.Ordinal), 0);
        var results = wishes.Select(w => compiler.Result(w.Input, w.Default)).ToImmutableArray();
        return new(compiler.steps.ToImmutable(), results);
    }

    private GraphProgram.Source Result(ShaderInput? input, Vector4 standard) => Source(input, new(string.Empty, Given.Number, standard));

    /// <summary>A step; or what it gives, where that is the same everywhere.</summary>
    private GraphProgram.Source Add(GraphProgram.Step step)
    {
        if (step.Inputs.Length > 0 && step.Inputs.All(i => i.IsNumber))
            return GraphProgram.Source.Of(
                Given.Number,
                GraphProgram.Trimmed(step.Function([.. step.Inputs.Select(i => i.Value)], default), step.Numbers)
            );
        return Placed(step);
    }

    /// <summary>A step that asks for the place.</summary>
    private GraphProgram.Source Placed(GraphProgram.Step step)
    {
        steps.Add(step);
        return GraphProgram.Source.OfStep(steps.Count - 1);
    }

    /// <summary>What feeds an input, or the value it has.</summary>
    private GraphProgram.Source Source(ShaderInput? input, NodeInput standard)
    {
        if (input?.From is { } from && Behind(from) is { } behind)
            return behind;
        if (input?.Effective is { } value && Number(value) is { } number)
            return GraphProgram.Source.Of(Given.Number, number);
        return GraphProgram.Source.Of(standard.From, standard.Value);
    }

    private static Vector4? Number(ShaderValue value) =>
        value.Text is { } text
            ? text switch
            {
                "true" => Vector4.One,
                "false" => Vector4.Zero,
                _ => null,
            }
        : value.Numbers.IsDefaultOrEmpty ? null
        : Values.Of([.. value.Numbers.Select(n => (float)n)]);

    private GraphProgram.Source? Behind(Connection from)
    {
        if (made.TryGetValue((from.Node, from.Output), out var known))
            return known;
        if (!nodes.TryGetValue(from.Node, out var node))
            return null;
        if (depth >= Deepest || steps.Count >= MostSteps)
        {
            told.Add(
                $"The graph is larger than is worked out ({Deepest} nodes deep, {MostSteps:N0} in all); what lies behind has its default."
            );
            return null;
        }

        if (!open.Add(node.Name))
        {
            told.Add($"“{node.Name}” feeds itself in a circle; its default is used.");
            return null;
        }

        depth++;
        var whole = made.TryGetValue((node.Name, string.Empty), out var before) ? before : Node(node);
        depth--;
        open.Remove(node.Name);
        if (whole is not { } step)
            return null;
        made[(node.Name, string.Empty)] = step;
        return made[(from.Node, from.Output)] = Picked(step, from.Output) ?? step;
    }

    private GraphProgram.Source? Node(ShaderNode node)
    {
        var name = NodeKinds.NameOf(node.Type);
        var type = NodeKinds.OutputOf(node);
        if (NodeKinds.IsImage(name))
            return Image(node, name, type);
        if (name is "heighttonormal" or "bump")
            return Slope(node, name);
        if (name is "swizzle")
            return Swizzle(node, type);
        if (name is "geompropvalue" || name.StartsWith("UsdPrimvarReader", StringComparison.Ordinal))
            return Primvar(node, type);
        if (NodeKinds.Find(name, type) is not { } kind)
        {
            told.Add($"The node “{node.Type}” is not known here; its default is used.");
            return null;
        }

        var inputs = kind.Inputs.Select(i => Source(node.Input(i.Name), i)).ToImmutableArray();
        return Add(new(kind.Function, inputs, type.IsSaid ? type : Fixed(name), kind.Loop));
    }

    /// <summary>What nodes give whose type no file says: those that a fixed-function material implies.</summary>
    private static InputType Fixed(string name) =>
        name switch
        {
            "extract" or "dotproduct" or "magnitude" => InputType.Float,
            "normalmap" => InputType.Vector3,
            _ => default,
        };

    /// <summary>One output of several.</summary>
    private GraphProgram.Source? Picked(GraphProgram.Source whole, string output)
    {
        int? place = output switch
        {
            "r" or "outr" or "outx" => 0,
            "g" or "outg" or "outy" => 1,
            "b" or "outb" or "outz" => 2,
            "a" or "outa" or "outw" => 3,
            _ => null,
        };
        if (place is { } at)
            return Add(new((i, in _) => new(i[0][at]), [whole], InputType.Float));
        return output == "rgb" ? Add(new((i, in _) => i[0], [whole], InputType.Color3)) : null;
    }

    private GraphProgram.Source Image(ShaderNode node, string name, InputType type)
    {
        var standard = node.Input(name == "UsdUVTexture" ? "fallback" : "default") is { } given
            ? Source(given, new(given.Name, Given.Number, default))
            : default;
        var use = node.Image;
        var fallback = use is { Default.Length: > 0 } ? Values.Of([.. use.Default.Select(n => (float)n)]) : standard.Value;
        if (use is null || textures.Find(use) is not { } texture)
            return GraphProgram.Source.Of(Given.Number, GraphProgram.Trimmed(fallback, type.Numbers));
        var placed = node.Input("st") ?? node.Input("texcoord");
        var behind = placed?.From is { } from ? Behind(from) : null;
        var at = behind ?? GraphProgram.Source.Of(Given.Uv, default);
        // What feeds the coordinates already moves them; a node's own tiling, and a field's, comes on top.
        var move = new UvMove(behind is not null ? UvTransform.Identity : use.Transform, countsDown, name == "tiledimage");
        var tiling = new[]
        {
            ("uvtiling", Vector4.One),
            ("uvoffset", Vector4.Zero),
            ("realworldimagesize", Vector4.One),
            ("realworldtilesize", Vector4.One),
        };
        ImmutableArray<GraphProgram.Source> inputs =
            name == "tiledimage" ? [at, .. tiling.Select(t => Source(node.Input(t.Item1), new(t.Item1, Given.Number, t.Item2)))] : [at];
        var gain = countsDown || use.Scale.IsEmpty ? Vector4.One : Values.Of([.. use.Scale.Select(n => (float)n)]);
        var bias = countsDown || use.Bias.IsEmpty ? Vector4.Zero : Values.Of([.. use.Bias.Select(n => (float)n)]);
        var isLuminance = use.Channels == Channels.Luminance;
        return Placed(
            new(
                (i, in p) =>
                {
                    var (uv, scale) = move.Of(i);
                    var value = texture.Sample(uv, p.Footprint * scale);
                    if (isLuminance)
                        value = new(Vector4.Dot(value, new(0.2126f, 0.7152f, 0.0722f, 0)));
                    return (value * gain) + bias;
                },
                inputs,
                type
            )
        );
    }

    /// <summary>
    /// Numbers that a mesh carries: coordinates are those of the point; anything else has its default, since a swatch's shape carries none.
    /// </summary>
    private GraphProgram.Source Primvar(ShaderNode node, InputType type)
    {
        var isUv =
            type == InputType.Vector2
            || node.Type.EndsWith("float2", StringComparison.Ordinal)
            || node.Type.EndsWith("vector2", StringComparison.Ordinal);
        if (isUv)
            return Add(new((i, in _) => i[0], [GraphProgram.Source.Of(Given.Uv, default)], InputType.Vector2));
        var given = node.Input("fallback") ?? node.Input("default");
        return Add(new((i, in _) => i[0], [Source(given, new("default", Given.Number, default))], type));
    }

    private GraphProgram.Source? Swizzle(ShaderNode node, InputType type)
    {
        var word = node.Input("channels")?.Value?.Text ?? string.Empty;
        ImmutableArray<int> order = [.. word.Select(c => "rgbaxyzw01".IndexOf(c)).Select(i => i is >= 4 and < 8 ? i - 4 : i)];
        if (order.Length is 0 or > 4 || order.Contains(-1))
            return null;
        return Add(
            new(
                (i, in _) =>
                {
                    Span<float> result = stackalloc float[order.Length];
                    for (var c = 0; c < order.Length; c++)
                        result[c] = order[c] < 4 ? i[0][order[c]] : order[c] - 8;
                    return Values.Of(result);
                },
                [Source(node.Input("in"), new("in", Given.Number, default))],
                type
            )
        );
    }

    /// <summary>A height as a normal: what feeds it is worked out at three places.</summary>
    private GraphProgram.Source Slope(ShaderNode node, string name)
    {
        var input = node.Input(name == "bump" ? "height" : "in");
        var scale = Source(node.Input("scale"), new("scale", Given.Number, Vector4.One));
        var height = Heights(input);
        var isBump = name == "bump";
        return Placed(
            new(
                (i, in p) =>
                {
                    var (u, v) = height(p);
                    var slope = i[0].X * GeometryNodes.SlopeScale;
                    var n = GeometryNodes.FromSlopes(u * slope, v * slope);
                    // heighttonormal stores its vector as maps do; bump gives it in the space of the scene.
                    return Values.Of(isBump ? p.FromTangentSpace(n) : (n + Vector3.One) / 2);
                },
                [scale],
                InputType.Vector3
            )
        );
    }

    private Func<ShadingPoint, (float U, float V)> Heights(ShaderInput? input)
    {
        var compiler = new GraphCompiler(graph, textures, told, open, depth);
        var result = compiler.Result(input, Vector4.Zero);
        var program = new GraphProgram(compiler.steps.ToImmutable(), [result]);
        return point => Slopes(program, point);
    }

    /// <summary>How much a program's first result changes along U and V.</summary>
    internal static (float U, float V) Slopes(GraphProgram program, in ShadingPoint point)
    {
        var step = MathF.Max(point.Footprint, LeastStep);
        Span<Vector4> values = stackalloc Vector4[3];
        program.Run(
            [
                point,
                point with
                {
                    Uv = point.Uv + new Vector2(step, 0),
                    Position = point.Position + (point.Tangent * step),
                },
                point with
                {
                    Uv = point.Uv + new Vector2(0, step),
                    Position = point.Position + (point.Bitangent * step),
                },
            ],
            values
        );
        return ((values[1].X - values[0].X) / step, (values[2].X - values[0].X) / step);
    }
}
