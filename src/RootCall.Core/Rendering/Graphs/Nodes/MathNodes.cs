using System.Numerics;

namespace RootCall.Core.Rendering.Graphs.Nodes;

/// <summary>MaterialX 1.39, “Math Nodes”.</summary>
internal static class MathNodes
{
    public static IEnumerable<NodeKind> All =>
        [
            NodeKind.Pair<NodeLoops.Sum>("add", 0, 0),
            NodeKind.Pair<NodeLoops.Difference>("subtract", 0, 0),
            NodeKind.Pair<NodeLoops.Product>("multiply", 0, 1),
            NodeKind.Pair<NodeLoops.Quotient>("divide", 0, 1),
            NodeKind.Pair("modulo", 0, 1, (a, b) => Values.Map(a, b, (x, y) => x - (y * MathF.Floor(x / y)))),
            NodeKind.Pair("power", 0, 1, Power) with
            {
                Loop = NodeLoops.Power(Power),
            },
            NodeKind.Pair("safepower", 0, 1, (a, b) => Values.Map(a, b, (x, y) => Sign(x) * MathF.Pow(MathF.Abs(x), y))),
            NodeKind.Pair<NodeLoops.Smaller>("min", 0, 0),
            NodeKind.Pair<NodeLoops.Larger>("max", 0, 0),
            NodeKind.Pair("distance", 0, 0, (a, b) => new((a - b).Length())),
            NodeKind.Pair("dotproduct", 0, 0, (a, b) => new(Vector4.Dot(a, b))) with
            {
                Loop = NodeLoops.Dot,
            },
            NodeKind.Pair("crossproduct", 0, 0, (a, b) => Values.Of(Vector3.Cross(Values.Three(a), Values.Three(b)))),
            NodeKind.Each("fract", x => x - MathF.Floor(x)),
            NodeKind.Each("absval", MathF.Abs),
            NodeKind.Each("floor", MathF.Floor),
            NodeKind.Each("ceil", MathF.Ceiling),
            NodeKind.Each("round", MathF.Round),
            NodeKind.Each("sin", MathF.Sin),
            NodeKind.Each("cos", MathF.Cos),
            NodeKind.Each("tan", MathF.Tan),
            NodeKind.Each("asin", MathF.Asin),
            NodeKind.Each("acos", MathF.Acos),
            NodeKind.Each("sqrt", MathF.Sqrt),
            NodeKind.Each("ln", MathF.Log, 1),
            NodeKind.Each("exp", MathF.Exp),
            NodeKind.Each("sign", Sign),
            NodeKind.Each("trianglewave", x => 0.5f - MathF.Abs(MathF.Abs(x) % 1 - 0.5f)),
            NodeKind.Of("atan2", "iny=0 inx=1", (i, in _) => Values.Map(i[0], i[1], MathF.Atan2)),
            NodeKind.Of("invert", "in=0 amount=1", (i, in _) => i[1] - i[0]),
            NodeKind.Of("clamp", "in=0 low=0 high=1", (i, in _) => Vector4.Min(Vector4.Max(i[0], i[1]), i[2])) with
            {
                Loop = NodeLoops.Clamp,
            },
            NodeKind.Of("normalize", "in=0", (i, in _) => i[0].Length() is > 0 and var length ? i[0] / length : Vector4.Zero),
            NodeKind.Of("magnitude", "in=0", (i, in _) => new(i[0].Length())),
            NodeKind.Of("rotate2d", "in=0 amount=0", (i, in _) => Turned(i[0], i[1].X)),
            NodeKind.Of("rotate3d", "in=0 amount=0 axis=0,1,0", (i, in _) => Turned(Values.Three(i[0]), i[1].X, Values.Three(i[2]))),
            NodeKind.Of("reflect", "in=1,0,0 normal=normal", (i, in _) =>
                Values.Of(Vector3.Reflect(Values.Three(i[0]), Values.Three(i[1])))
            ),
            NodeKind.Of("and", "in1=0 in2=0", (i, in _) => new(i[0].X > 0.5f && i[1].X > 0.5f ? 1 : 0)),
            NodeKind.Of("or", "in1=0 in2=0", (i, in _) => new(i[0].X > 0.5f || i[1].X > 0.5f ? 1 : 0)),
            NodeKind.Of("xor", "in1=0 in2=0", (i, in _) => new(i[0].X > 0.5f != i[1].X > 0.5f ? 1 : 0)),
            NodeKind.Of("not", "in=0", (i, in _) => new(i[0].X > 0.5f ? 0 : 1)),
            NodeKind.Of("place2d", "texcoord=uv pivot=0,0 scale=1,1 rotate=0 offset=0,0 operationorder=0", (i, in _) =>
            {
                var from = i[0] - i[1];
                return i[5].X == 0 ? Turned(from / i[2], i[3].X) - i[4] + i[1] : (Turned(from - i[4], i[3].X) / i[2]) + i[1];
            }),
            // UsdPreviewSurface 2.6, “Transform2d”: scale, then turn counter-clockwise, then move.
            NodeKind.Of("UsdTransform2d", "in=uv rotation=0 scale=1,1 translation=0,0", (i, in _) => Turned(i[0] * i[2], -i[1].X) + i[3]),
        ];

    /// <summary>Squares and roots, which formulas are full of, need no logarithm.</summary>
    private static Vector4 Power(Vector4 a, Vector4 b) =>
        b == new Vector4(2) ? a * a
        : b == new Vector4(0.5f) ? Vector4.SquareRoot(a)
        : Values.Map(a, b, MathF.Pow);

    private static float Sign(float x) => float.IsNaN(x) ? 0 : MathF.Sign(x);

    /// <summary>Clockwise, in degrees, as rotate2d has it.</summary>
    internal static Vector4 Turned(Vector4 v, float degrees)
    {
        var (sine, cosine) = MathF.SinCos(float.DegreesToRadians(degrees));
        return new((cosine * v.X) + (sine * v.Y), (cosine * v.Y) - (sine * v.X), 0, 0);
    }

    /// <summary>Around an axis, in degrees, as rotate3d has it: clockwise along the axis.</summary>
    internal static Vector4 Turned(Vector3 v, float degrees, Vector3 axis)
    {
        var a = Vector3.Normalize(axis);
        var (sine, cosine) = MathF.SinCos(float.DegreesToRadians(degrees));
        return Values.Of((v * cosine) - (Vector3.Cross(a, v) * sine) + (a * (Vector3.Dot(a, v) * (1 - cosine))));
    }
}
