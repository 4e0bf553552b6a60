using System.Collections.Immutable;
using System.Globalization;
using System.Numerics;

namespace RootCall.Core.Rendering.Graphs;

/// <summary>
/// What a node gives at one point. A number stands in all four parts of its vector; of shorter vectors the rest is 0.
/// </summary>
/// <param name="inputs">Values of its inputs, in the order of its kind.</param>
internal delegate Vector4 NodeFunction(ReadOnlySpan<Vector4> inputs, in ShadingPoint point);

/// <summary>Where an input that nothing feeds gets its value.</summary>
internal enum Given
{
    Number,
    Uv,
    Position,
    Normal,
    Tangent,
    Bitangent,
}

/// <param name="Value">Holds where <paramref name="From"/> is a number.</param>
internal sealed record NodeInput(string Name, Given From, Vector4 Value);

/// <summary>A node of the MaterialX standard library: its inputs with their defaults, and what it gives.</summary>
internal sealed record NodeKind(string Name, ImmutableArray<NodeInput> Inputs, NodeFunction Function)
{
    /// <summary>The same for many points at once, where that is worth having.</summary>
    public NodeLoop? Loop { get; init; }

    /// <param name="inputs">
    /// <c>in1=0 in2=1 texcoord=uv</c>: numbers with commas between, or a word for what the point gives.
    /// </param>
    public static NodeKind Of(string name, string inputs, NodeFunction function) =>
        new(name, [.. inputs.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Input)], function);

    /// <summary>A node that does the same with each number of <c>in1</c> and <c>in2</c>.</summary>
    public static NodeKind Pair(string name, float first, float second, Func<Vector4, Vector4, Vector4> function) =>
        new(name, [new("in1", Given.Number, new(first)), new("in2", Given.Number, new(second))], (i, in _) => function(i[0], i[1]));

    /// <summary>The same, with a loop for many points.</summary>
    public static NodeKind Pair<T>(string name, float first, float second)
        where T : struct, IPairOfNumbers => Pair(name, first, second, T.Of) with { Loop = NodeLoops.Pairs<T> };

    /// <summary>A node that does the same with each number of <c>in</c>.</summary>
    public static NodeKind Each(string name, Func<float, float> function, float standard = 0) =>
        new(name, [new("in", Given.Number, new(standard))], (i, in _) =>
            new(function(i[0].X), function(i[0].Y), function(i[0].Z), function(i[0].W))
        );

    private static NodeInput Input(string text)
    {
        var (name, value) = (text[..text.IndexOf('=')], text[(text.IndexOf('=') + 1)..]);
        if (Enum.TryParse<Given>(value, ignoreCase: true, out var given) && char.IsLetter(value[0]))
            return new(name, given, default);
        var numbers = value.Split(',').Select(n => float.Parse(n, CultureInfo.InvariantCulture)).ToArray();
        return new(name, Given.Number, Values.Of(numbers));
    }
}

/// <summary>Numbers of one to four parts as vectors.</summary>
internal static class Values
{
    public static Vector4 Of(params ReadOnlySpan<float> numbers) =>
        numbers.Length switch
        {
            0 => Vector4.Zero,
            1 => new(numbers[0]),
            2 => new(numbers[0], numbers[1], 0, 0),
            3 => new(numbers[0], numbers[1], numbers[2], 0),
            _ => new(numbers[0], numbers[1], numbers[2], numbers[3]),
        };

    public static Vector4 Of(Vector3 v) => new(v, 0);

    public static Vector3 Three(Vector4 v) => new(v.X, v.Y, v.Z);

    public static Vector4 Map(Vector4 a, Vector4 b, Func<float, float, float> f) => new(f(a.X, b.X), f(a.Y, b.Y), f(a.Z, b.Z), f(a.W, b.W));
}
