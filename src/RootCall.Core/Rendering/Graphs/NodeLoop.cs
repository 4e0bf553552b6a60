using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;

namespace RootCall.Core.Rendering.Graphs;

/// <summary>What a node gives at many points: at each exactly what its <see cref="NodeFunction"/> gives there.</summary>
/// <param name="isOne">Only the first part of each value counts.</param>
internal delegate void NodeLoop(NodeColumns inputs, Span<Vector4> values, bool isOne);

/// <summary>Values of a node's inputs at many points, each input's together.</summary>
internal ref struct NodeColumns(Span<Vector4> registers, int stride, int count)
{
    public const int Most = 16;

    [InlineArray(Most)]
    internal struct Sixteen
    {
        private int first;
    }

    private readonly Span<Vector4> registers = registers;

    /// <summary>Where in the registers each input stands.</summary>
    public Sixteen Places;

    public readonly Span<Vector4> this[int input] => registers.Slice(Places[input] * stride, count);
}

/// <summary>Something that is done with two numbers, four at a time.</summary>
internal interface IPairOfNumbers
{
    static abstract Vector4 Of(Vector4 a, Vector4 b);
}

/// <summary>Loops of the nodes that formulas are made of.</summary>
internal static class NodeLoops
{
    public readonly struct Sum : IPairOfNumbers
    {
        public static Vector4 Of(Vector4 a, Vector4 b) => a + b;
    }

    public readonly struct Difference : IPairOfNumbers
    {
        public static Vector4 Of(Vector4 a, Vector4 b) => a - b;
    }

    public readonly struct Product : IPairOfNumbers
    {
        public static Vector4 Of(Vector4 a, Vector4 b) => a * b;
    }

    public readonly struct Quotient : IPairOfNumbers
    {
        public static Vector4 Of(Vector4 a, Vector4 b) => a / b;
    }

    public readonly struct Smaller : IPairOfNumbers
    {
        public static Vector4 Of(Vector4 a, Vector4 b) => Vector4.Min(a, b);
    }

    public readonly struct Larger : IPairOfNumbers
    {
        public static Vector4 Of(Vector4 a, Vector4 b) => Vector4.Max(a, b);
    }

    public static void Same(NodeColumns inputs, Span<Vector4> values, bool isOne) => inputs[0].CopyTo(values);

    public static void Clamp(NodeColumns inputs, Span<Vector4> values, bool isOne)
    {
        ReadOnlySpan<Vector4> v = inputs[0],
            low = inputs[1],
            high = inputs[2];
        for (var i = 0; i < values.Length; i++)
            values[i] = Vector4.Min(Vector4.Max(v[i], low[i]), high[i]);
    }

    public static void Mix(NodeColumns inputs, Span<Vector4> values, bool isOne)
    {
        ReadOnlySpan<Vector4> fg = inputs[0],
            bg = inputs[1],
            mix = inputs[2];
        for (var i = 0; i < values.Length; i++)
            values[i] = (fg[i] * mix[i]) + (bg[i] * (Vector4.One - mix[i]));
    }

    public static void IfGreater(NodeColumns inputs, Span<Vector4> values, bool isOne)
    {
        ReadOnlySpan<Vector4> left = inputs[0],
            right = inputs[1],
            yes = inputs[2],
            no = inputs[3];
        for (var i = 0; i < values.Length; i++)
            values[i] = left[i].X > right[i].X ? yes[i] : no[i];
    }

    public static void Extract(NodeColumns inputs, Span<Vector4> values, bool isOne)
    {
        var parts = MemoryMarshal.Cast<Vector4, float>(inputs[0]);
        var index = inputs[1];
        for (var i = 0; i < values.Length; i++)
            values[i] = new(parts[(i * 4) + Math.Clamp((int)index[i].X, 0, 3)]);
    }

    public static void Combine3(NodeColumns inputs, Span<Vector4> values, bool isOne)
    {
        ReadOnlySpan<Vector4> x = inputs[0],
            y = inputs[1],
            z = inputs[2];
        for (var i = 0; i < values.Length; i++)
            values[i] = new(x[i].X, y[i].X, z[i].X, 0);
    }

    public static void Dot(NodeColumns inputs, Span<Vector4> values, bool isOne)
    {
        ReadOnlySpan<Vector4> a = inputs[0],
            b = inputs[1];
        for (var i = 0; i < values.Length; i++)
            values[i] = new(Vector4.Dot(a[i], b[i]));
    }

    /// <summary>One number's power in place of four.</summary>
    public static NodeLoop Power(Func<Vector4, Vector4, Vector4> whole) =>
        (inputs, values, isOne) =>
        {
            ReadOnlySpan<Vector4> a = inputs[0],
                b = inputs[1];
            for (var i = 0; i < values.Length; i++)
                values[i] =
                    !isOne ? whole(a[i], b[i])
                    : b[i].X == 0.5f ? Vector4.SquareRoot(a[i])
                    : b[i].X == 2 ? a[i] * a[i]
                    : new(MathF.Pow(a[i].X, b[i].X));
        };

    public static void Pairs<T>(NodeColumns inputs, Span<Vector4> values, bool isOne)
        where T : struct, IPairOfNumbers
    {
        ReadOnlySpan<Vector4> a = inputs[0],
            b = inputs[1];
        for (var i = 0; i < values.Length; i++)
            values[i] = T.Of(a[i], b[i]);
    }
}
