using System.Numerics;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Shading;

namespace RootCall.Core.Rendering.Graphs.Nodes;

/// <summary>MaterialX 1.39, “Procedural Nodes” and “Noise Nodes”, and blackbody.</summary>
internal static class PatternNodes
{
    public static IEnumerable<NodeKind> All =>
        [
            NodeKind.Of("ramplr", "valuel=0 valuer=0 texcoord=uv", (i, in _) => Vector4.Lerp(i[0], i[1], Math.Clamp(i[2].X, 0, 1))),
            NodeKind.Of("ramptb", "valuet=0 valueb=0 texcoord=uv", (i, in _) => Vector4.Lerp(i[0], i[1], Math.Clamp(i[2].Y, 0, 1))),
            NodeKind.Of("ramp4", "valuetl=0 valuetr=0 valuebl=0 valuebr=0 texcoord=uv", (i, in _) =>
            {
                var (s, t) = (Math.Clamp(i[4].X, 0, 1), Math.Clamp(i[4].Y, 0, 1));
                return Vector4.Lerp(Vector4.Lerp(i[0], i[1], s), Vector4.Lerp(i[2], i[3], s), t);
            }),
            NodeKind.Of("splitlr", "valuel=0 valuer=0 center=0.5 texcoord=uv", (i, in _) => i[3].X >= i[2].X ? i[1] : i[0]),
            NodeKind.Of("splittb", "valuet=0 valueb=0 center=0.5 texcoord=uv", (i, in _) => i[3].Y >= i[2].X ? i[1] : i[0]),
            NodeKind.Of("checkerboard", "color1=1 color2=0 uvtiling=8,8 uvoffset=0,0 texcoord=uv", (i, in _) =>
            {
                var at = (i[4] * i[2]) - i[3];
                return ((int)(MathF.Floor(at.X) + MathF.Floor(at.Y)) & 1) != 0 ? i[0] : i[1];
            }),
            NodeKind.Of("noise2d", "amplitude=1 pivot=0 texcoord=uv", (i, in _) => (Spread(i[2]) * i[0]) + i[1]),
            NodeKind.Of("noise3d", "amplitude=1 pivot=0 position=position", (i, in _) => (Spread3(i[2]) * i[0]) + i[1]),
            NodeKind.Of("fractal2d", "amplitude=1 octaves=3 lacunarity=2 diminish=0.5 texcoord=uv", (i, in _) =>
                new Vector4(Noise.Fractal(new Vector2(i[4].X, i[4].Y), (int)i[1].X, i[2].X, i[3].X)) * i[0]
            ),
            NodeKind.Of("fractal3d", "amplitude=1 octaves=3 lacunarity=2 diminish=0.5 position=position", (i, in _) =>
                new Vector4(Noise.Fractal(Values.Three(i[4]), (int)i[1].X, i[2].X, i[3].X)) * i[0]
            ),
            NodeKind.Of("cellnoise2d", "texcoord=uv", (i, in _) => new(Noise.Cell(new Vector2(i[0].X, i[0].Y)))),
            NodeKind.Of("cellnoise3d", "position=position", (i, in _) => new(Noise.Cell(Values.Three(i[0])))),
            Worley2(isOne: true),
            Worley3(isOne: true),
            NodeKind.Of("unifiednoise2d", $"texcoord=uv freq=1,1 offset=0,0 {Unified}", (i, in _) =>
            {
                var at = (i[0] * i[1]) + i[2];
                var turn = (i[3].X - 1) * Scatter;
                var turned = MathNodes.Turned(at, turn);
                return Fitted(
                    i,
                    (int)i[10].X switch
                    {
                        1 => Noise.Cell(new Vector2(turned.X, turned.Y)),
                        2 => Noise.Nearest(new Vector2(at.X, at.Y), i[3].X, i[11].X == 1, isOne: true).X,
                        3 => Noise.Fractal(new Vector3(at.X, at.Y, turn), (int)i[7].X, i[8].X, i[9].X),
                        _ => (Noise.Gradient(new Vector2(turned.X, turned.Y)) * 0.5f) + 0.5f,
                    }
                );
            }),
            NodeKind.Of("unifiednoise3d", $"position=position freq=1,1,1 offset=0,0,0 {Unified}", (i, in _) =>
            {
                var at = (i[0] * i[1]) + i[2];
                var turned = Values.Three(MathNodes.Turned(Values.Three(at), (i[3].X - 1) * Scatter, new(0.1f, 1, 0)));
                return Fitted(
                    i,
                    (int)i[10].X switch
                    {
                        1 => Noise.Cell(turned),
                        2 => Noise.Nearest(Values.Three(at), i[3].X, i[11].X == 1, isOne: true).X,
                        3 => Noise.Fractal(turned, (int)i[7].X, i[8].X, i[9].X),
                        _ => (Noise.Gradient(turned) * 0.5f) + 0.5f,
                    }
                );
            }),
            NodeKind.Of("randomfloat", "in=0 min=0 max=1 seed=0", (i, in _) =>
                new(i[1].X + (Noise.Cell(new Vector2(i[0].X * 4096, i[3].X)) * (i[2].X - i[1].X)))
            ),
            NodeKind.Of("blackbody", "temperature=5000", (i, in _) => Values.Of(BlackBody.Hue(i[0].X))),
        ];

    /// <summary>Noise of three numbers, which nodes of colours and vectors give; the compiler keeps the first for one.</summary>
    internal static readonly NodeKind Noise2Three = NodeKind.Of("noise2d", "amplitude=1 pivot=0 texcoord=uv", (i, in _) =>
        (Values.Of(Noise.Gradient3(new Vector2(i[2].X, i[2].Y))) * i[0]) + i[1]
    );

    internal static readonly NodeKind Noise3Three = NodeKind.Of("noise3d", "amplitude=1 pivot=0 position=position", (i, in _) =>
        (Values.Of(Noise.Gradient3(Values.Three(i[2]))) * i[0]) + i[1]
    );

    internal static readonly NodeKind Fractal3Three = NodeKind.Of(
        "fractal3d",
        "amplitude=1 octaves=3 lacunarity=2 diminish=0.5 position=position",
        (i, in _) => Values.Of(Noise.Fractal3(Values.Three(i[4]), (int)i[1].X, i[2].X, i[3].X)) * i[0]
    );

    private static readonly NodeKind Worley2Three = Worley2(isOne: false),
        Worley3Three = Worley3(isOne: false);

    private static NodeKind Worley2(bool isOne) =>
        NodeKind.Of("worleynoise2d", "texcoord=uv jitter=1 style=0", (i, in _) =>
            Of(Noise.Nearest(new Vector2(i[0].X, i[0].Y), i[1].X, i[2].X == 1, isOne), isOne)
        );

    private static NodeKind Worley3(bool isOne) =>
        NodeKind.Of("worleynoise3d", "position=position jitter=1 style=0", (i, in _) =>
            Of(Noise.Nearest(Values.Three(i[0]), i[1].X, i[2].X == 1, isOne), isOne)
        );

    private static Vector4 Of(Vector3 noise, bool isOne) => isOne ? new(noise.X) : Values.Of(noise);

    /// <summary>What all unified noises ask for, after place, frequency and offset.</summary>
    private const string Unified = "jitter=1 outmin=0 outmax=1 clampoutput=1 octaves=3 lacunarity=2 diminish=0.5 type=0 style=0";

    /// <summary>How far jitter turns what is not scattered in cells (the library's graphs of unifiednoise).</summary>
    private const float Scatter = 90_000;

    private static Vector4 Fitted(ReadOnlySpan<Vector4> i, float noise)
    {
        var fitted = float.Lerp(i[4].X, i[5].X, noise);
        return new(i[6].X > 0.5f ? Math.Clamp(fitted, MathF.Min(i[4].X, i[5].X), MathF.Max(i[4].X, i[5].X)) : fitted);
    }

    /// <summary>The kind of a node whose numbers are noises of their own where there are several of them.</summary>
    public static NodeKind For(NodeKind kind, InputType type) =>
        type.Numbers < 2
            ? kind
            : kind.Name switch
            {
                "noise2d" => Noise2Three,
                "noise3d" => Noise3Three,
                "fractal3d" => Fractal3Three,
                "worleynoise2d" => Worley2Three,
                "worleynoise3d" => Worley3Three,
                _ => kind,
            };

    private static Vector4 Spread(Vector4 uv) => new(Noise.Gradient(new Vector2(uv.X, uv.Y)));

    private static Vector4 Spread3(Vector4 position) => new(Noise.Gradient(Values.Three(position)));
}
