using System.Numerics;
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
            NodeKind.Of("worleynoise2d", "texcoord=uv jitter=1 style=0", (i, in _) =>
                new(Noise.Nearest(new Vector2(i[0].X, i[0].Y), i[1].X, i[2].X == 1))
            ),
            NodeKind.Of("worleynoise3d", "position=position jitter=1 style=0", (i, in _) =>
                new(Noise.Nearest(Values.Three(i[0]), i[1].X, i[2].X == 1))
            ),
            NodeKind.Of("randomfloat", "in=0 min=0 max=1 seed=0", (i, in _) =>
                new(i[1].X + (Noise.Cell(new Vector2(i[0].X * 4096, i[3].X)) * (i[2].X - i[1].X)))
            ),
            NodeKind.Of("blackbody", "temperature=5000", (i, in _) => Values.Of(Blackbody(i[0].X))),
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

    /// <summary>The kind of a node whose numbers are noises of their own where there are three of them.</summary>
    public static NodeKind For(NodeKind kind, InputType type) =>
        type.Numbers < 3
            ? kind
            : kind.Name switch
            {
                "noise2d" => Noise2Three,
                "noise3d" => Noise3Three,
                "fractal3d" => Fractal3Three,
                _ => kind,
            };

    private static Vector4 Spread(Vector4 uv) => new(Noise.Gradient(new Vector2(uv.X, uv.Y)));

    private static Vector4 Spread3(Vector4 position) => new(Noise.Gradient(Values.Three(position)));

    /// <summary>
    /// Colour of a black body, of luminance 1, in Rec. 709 (CIE xy by the cubic fit of “Design of Advanced Color Temperature Control System
    /// for HDTV Applications”, 2002, which MaterialX's blackbody uses).
    /// </summary>
    /// <param name="kelvin">1,667 to 25,000; clamped.</param>
    private static Vector3 Blackbody(float kelvin)
    {
        var t = 1000 / Math.Clamp(kelvin, 1667, 25_000);
        var (t2, t3) = (t * t, t * t * t);
        var x =
            kelvin < 4000
                ? (-0.2661239f * t3) - (0.2343580f * t2) + (0.8776956f * t) + 0.179910f
                : (-3.0258469f * t3) + (2.1070379f * t2) + (0.2226347f * t) + 0.240390f;
        var (x2, x3) = (x * x, x * x * x);
        var y = kelvin switch
        {
            < 2222 => (-1.1063814f * x3) - (1.34811020f * x2) + (2.18555832f * x) - 0.20219683f,
            < 4000 => (-0.9549476f * x3) - (1.37418593f * x2) + (2.09137015f * x) - 0.16748867f,
            _ => (3.0817580f * x3) - (5.87338670f * x2) + (3.75112997f * x) - 0.37001483f,
        };
        y = MathF.Max(y, 1e-6f);
        float X = x / y,
            Z = (1 - x - y) / y;
        return Vector3.Max(
            Vector3.Zero,
            new(
                (3.2404542f * X) - 1.5371385f - (0.4985314f * Z),
                (-0.9692660f * X) + 1.8760108f + (0.0415560f * Z),
                (0.0556434f * X) - 0.2040259f + (1.0572252f * Z)
            )
        );
    }
}
