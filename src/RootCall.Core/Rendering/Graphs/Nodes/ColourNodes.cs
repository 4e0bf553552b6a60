using System.Numerics;

namespace RootCall.Core.Rendering.Graphs.Nodes;

/// <summary>MaterialX 1.39, “Adjustment Nodes”, “Compositing Nodes” and “Conditional Nodes”.</summary>
internal static class ColourNodes
{
    private const string Luma = "lumacoeffs=0.2722287,0.6740818,0.0536895";

    public static IEnumerable<NodeKind> All => [.. Adjustments, .. Compositing, .. Conditional];

    private static IEnumerable<NodeKind> Adjustments =>
        [
            NodeKind.Of("remap", "in=0 inlow=0 inhigh=1 outlow=0 outhigh=1", (i, in _) => Remapped(i[0], i[1], i[2], i[3], i[4])),
            NodeKind.Of("range", "in=0 inlow=0 inhigh=1 gamma=1 outlow=0 outhigh=1 doclamp=0", (i, in _) =>
            {
                var at = Values.Map(Remapped(i[0], i[1], i[2], Vector4.Zero, Vector4.One), Vector4.One / i[3], Power);
                var result = Remapped(at, Vector4.Zero, Vector4.One, i[4], i[5]);
                return i[6].X > 0.5f ? Vector4.Min(Vector4.Max(result, i[4]), i[5]) : result;
            }),
            NodeKind.Of("smoothstep", "in=0 low=0 high=1", (i, in _) =>
                new(Step(i[0].X, i[1].X, i[2].X), Step(i[0].Y, i[1].Y, i[2].Y), Step(i[0].Z, i[1].Z, i[2].Z), Step(i[0].W, i[1].W, i[2].W))
            ),
            NodeKind.Of("contrast", "in=0 amount=1 pivot=0.5", (i, in _) => ((i[0] - i[2]) * i[1]) + i[2]),
            NodeKind.Of("luminance", $"in=0 {Luma}", (i, in _) => new(new Vector3(Grey(i[0], i[1])), i[0].W)),
            NodeKind.Of("rgbtohsv", "in=0", (i, in _) => new(ToHsv(Values.Three(i[0])), i[0].W)),
            NodeKind.Of("hsvtorgb", "in=0", (i, in _) => new(FromHsv(Values.Three(i[0])), i[0].W)),
            NodeKind.Of("hsvadjust", "in=0 amount=0,1,1", (i, in _) => new(Shifted(Values.Three(i[0]), Values.Three(i[1])), i[0].W)),
            NodeKind.Of("saturate", $"in=0 amount=1 {Luma}", (i, in _) => new(Saturated(Values.Three(i[0]), i[1].X, i[2]), i[0].W)),
            NodeKind.Of(
                "colorcorrect",
                $"in=1 hue=0 saturation=1 gamma=1 lift=0 gain=1 contrast=1 contrastpivot=0.5 exposure=0 {Luma}",
                (i, in _) =>
                {
                    var c = Saturated(Shifted(Values.Three(i[0]), new(i[1].X, 1, 1)), i[2].X, i[9]);
                    c = new(Power(c.X, 1 / i[3].X), Power(c.Y, 1 / i[3].X), Power(c.Z, 1 / i[3].X));
                    c = ((c * (1 - i[4].X)) + new Vector3(i[4].X)) * i[5].X;
                    c = ((c - new Vector3(i[7].X)) * i[6].X) + new Vector3(i[7].X);
                    return new(c * MathF.Pow(2, i[8].X), i[0].W);
                }
            ),
            NodeKind.Of("premult", "in=0,0,0,1", (i, in _) => new(Values.Three(i[0]) * i[0].W, i[0].W)),
            NodeKind.Of("unpremult", "in=0,0,0,1", (i, in _) => new(Values.Three(i[0]) / i[0].W, i[0].W)),
        ];

    private static IEnumerable<NodeKind> Compositing =>
        [
            NodeKind.Of("mix", "fg=0 bg=0 mix=0", (i, in _) => (i[0] * i[2]) + (i[1] * (Vector4.One - i[2]))) with
            {
                Loop = NodeLoops.Mix,
            },
            Blend("plus", (f, b) => b + f),
            Blend("minus", (f, b) => b - f),
            Blend("difference", (f, b) => Vector4.Abs(b - f)),
            Blend("screen", (f, b) => Vector4.One - ((Vector4.One - f) * (Vector4.One - b))),
            Blend("overlay", (f, b) => Values.Map(f, b, (x, y) => y >= 0.5f ? 1 - (2 * (1 - x) * (1 - y)) : 2 * x * y)),
            NodeKind.Of("burn", "fg=0 bg=0 mix=1", (i, in _) => Guarded(i, (f, b) => MathF.Abs(f) < 1e-7f ? null : 1 - ((1 - b) / f))),
            NodeKind.Of("dodge", "fg=0 bg=0 mix=1", (i, in _) => Guarded(i, (f, b) => MathF.Abs(1 - f) < 1e-7f ? null : b / (1 - f))),
            Blend("in", (f, b) => f * b.W),
            Blend("mask", (f, b) => b * f.W),
            Blend("matte", (f, b) => new(Values.Three((f * f.W) + (b * (1 - f.W))), f.W + (b.W * (1 - f.W)))),
            Blend("out", (f, b) => f * (1 - b.W)),
            Blend("over", (f, b) => f + (b * (1 - f.W))),
            NodeKind.Of("inside", "in=0 mask=1", (i, in _) => i[0] * i[1]),
            NodeKind.Of("outside", "in=0 mask=0", (i, in _) => i[0] * (Vector4.One - i[1])),
        ];

    private static IEnumerable<NodeKind> Conditional =>
        [
            NodeKind.Of("ifgreater", "value1=1 value2=0 in1=0 in2=0", (i, in _) => i[0].X > i[1].X ? i[2] : i[3]) with
            {
                Loop = NodeLoops.IfGreater,
            },
            NodeKind.Of("ifgreatereq", "value1=1 value2=0 in1=0 in2=0", (i, in _) => i[0].X >= i[1].X ? i[2] : i[3]),
            NodeKind.Of("ifequal", "value1=0 value2=0 in1=0 in2=0", (i, in _) => i[0].X == i[1].X ? i[2] : i[3]),
            NodeKind.Of("switch", "which=0 in1=0 in2=0 in3=0 in4=0 in5=0 in6=0 in7=0 in8=0 in9=0 in10=0", (i, in _) =>
                i[0].X is >= 0 and < 10 ? i[1 + (int)i[0].X] : Vector4.Zero
            ),
        ];

    private static NodeKind Blend(string name, Func<Vector4, Vector4, Vector4> both) =>
        NodeKind.Of(name, "fg=0 bg=0 mix=1", (i, in _) => (both(i[0], i[1]) * i[2]) + (i[1] * (Vector4.One - i[2])));

    /// <summary>What the foreground cannot be divided by gives nothing, whatever the mix.</summary>
    private static Vector4 Guarded(ReadOnlySpan<Vector4> i, Func<float, float, float?> both)
    {
        var (fg, bg, mix) = (i[0], i[1], i[2].X);
        float One(float f, float b) => both(f, b) is { } value ? (value * mix) + (b * (1 - mix)) : 0;
        return Values.Map(fg, bg, One);
    }

    private static Vector4 Remapped(Vector4 v, Vector4 inLow, Vector4 inHigh, Vector4 low, Vector4 high) =>
        low + ((v - inLow) * (high - low) / (inHigh - inLow));

    private static float Power(float x, float exponent) => x < 0 ? -MathF.Pow(-x, exponent) : MathF.Pow(x, exponent);

    private static float Step(float x, float low, float high)
    {
        if (x >= high)
            return 1;
        if (x <= low)
            return 0;
        var t = (x - low) / (high - low);
        return t * t * (3 - (2 * t));
    }

    private static float Grey(Vector4 colour, Vector4 weights) => Vector3.Dot(Values.Three(colour), Values.Three(weights));

    private static Vector3 Saturated(Vector3 c, float amount, Vector4 weights) =>
        Vector3.Lerp(new(Vector3.Dot(c, Values.Three(weights))), c, amount);

    private static Vector3 Shifted(Vector3 colour, Vector3 amount)
    {
        var hsv = ToHsv(colour);
        return FromHsv(new(hsv.X + amount.X, hsv.Y * amount.Y, hsv.Z * amount.Z));
    }

    /// <summary>Hue, saturation, value, each from 0 to 1 (“Color Gamut Transform Pairs”, SIGGRAPH 1978).</summary>
    private static Vector3 ToHsv(Vector3 c)
    {
        float high = MathF.Max(c.X, MathF.Max(c.Y, c.Z)),
            chroma = high - MathF.Min(c.X, MathF.Min(c.Y, c.Z));
        if (high <= 0 || chroma <= 0)
            return new(0, 0, high);
        var sixth =
            c.X >= high ? (c.Y - c.Z) / chroma
            : c.Y >= high ? 2 + ((c.Z - c.X) / chroma)
            : 4 + ((c.X - c.Y) / chroma);
        var hue = sixth / 6;
        return new(hue < 0 ? hue + 1 : hue, chroma / high, high);
    }

    private static Vector3 FromHsv(Vector3 hsv)
    {
        var (s, v) = (hsv.Y, hsv.Z);
        if (s < 0.0001f)
            return new(v);
        var h = 6 * (hsv.X - MathF.Floor(hsv.X));
        var at = (int)h;
        var f = h - at;
        float p = v * (1 - s),
            q = v * (1 - (s * f)),
            t = v * (1 - (s * (1 - f)));
        return at switch
        {
            0 => new(v, t, p),
            1 => new(q, v, p),
            2 => new(p, v, t),
            3 => new(p, q, v),
            4 => new(t, p, v),
            _ => new(v, p, q),
        };
    }
}
