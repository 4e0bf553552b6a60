using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Tests.Rendering;

/// <summary>
/// Graphs that break, and images as graphs read them. What each node gives is held against the reference library elsewhere.
/// </summary>
public sealed class GraphTests
{
    private static readonly ImageUse Use = new(new ReferenceKey(ReferenceKind.Image, "a.mtlx", "a.png"));

    private static ShaderNode Node(string name, string type, params ShaderInput[] inputs) => new(name, type, [.. inputs]);

    private static ShaderInput Number(string name, params double[] value) =>
        new(name, value.Length == 1 ? InputType.Float : InputType.Color3, ShaderValue.Of(value));

    private static ShaderInput From(string name, string node, string output = "out") =>
        new(name, InputType.Color3, null, new(node, output));

    /// <summary>What an unlit surface gives off that a node feeds.</summary>
    private static (Vector3 Colour, ImmutableArray<string> Told) Shown(string from, ITexture? image, Vector2 uv, params ShaderNode[] nodes)
    {
        var graph = new ShaderGraph([Node("surface", "surface_unlit", From("emission_color", from)), .. nodes], "surface");
        var program = MaterialProgram.Of(graph, new One(image))!;
        return (program.At(At(uv), false).Surface.Emission, program.Told);
    }

    private static ShadingPoint At(Vector2 uv) => new(new(uv, 0), Vector3.UnitZ, Vector3.UnitX, Vector3.UnitY, uv, 0, Vector3.UnitZ);

    private sealed class One(ITexture? image) : ITextureSource
    {
        public ITexture? Find(ImageUse use) => image;
    }

    /// <summary>Gives back where it was asked.</summary>
    private sealed class Coordinates : ITexture
    {
        public Vector4 Sample(Vector2 uv, float footprint) => new(uv.X, uv.Y, 0, 1);
    }

    [Fact]
    public void A_node_that_feeds_itself_or_is_not_known_is_told_and_has_its_default()
    {
        var circle = Shown(
            "a",
            null,
            default,
            Node("a", "add", From("in1", "b"), Number("in2", 0.25)),
            Node("b", "add", From("in1", "a"), Number("in2", 1))
        );
        Assert.Equal(new Vector3(1.25f), circle.Colour);
        Assert.Contains("circle", Assert.Single(circle.Told), StringComparison.Ordinal);

        var unknown = Shown("a", null, default, Node("a", "multiply", From("in1", "b"), Number("in2", 3)), Node("b", "weave_of_tin"));
        Assert.Equal(Vector3.Zero, unknown.Colour);
        Assert.Contains("weave_of_tin", Assert.Single(unknown.Told), StringComparison.Ordinal);
    }

    [Fact]
    public void A_graph_of_thousands_of_nodes_is_worked_out_as_far_as_it_may_go()
    {
        var chain = Enumerable
            .Range(0, 5000)
            .Select(i => Node($"n{i}", "add", i == 4999 ? Number("in1", 1) : From("in1", $"n{i + 1}"), Number("in2", 1)));
        var deep = Shown("n0", null, default, [.. chain]);
        Assert.Contains("larger than is worked out", Assert.Single(deep.Told), StringComparison.Ordinal);
        // Each reads the next one twice: without remembering, 2 to the power of 100 ways.
        var twice = Enumerable
            .Range(0, 100)
            .Select(i =>
                Node(
                    $"n{i}",
                    "multiply",
                    i == 99 ? Number("in1", 1) : From("in1", $"n{i + 1}"),
                    i == 99 ? Number("in2", 1) : From("in2", $"n{i + 1}")
                )
            );
        Assert.Equal(Vector3.One, Shown("n0", null, default, [.. twice]).Colour);
    }

    /// <summary>
    /// KHR_texture_transform and UsdTransform2d turn counter-clockwise, one where V grows downwards, the other where it grows upwards;
    /// place2d divides by its scale (MaterialX 1.39).
    /// </summary>
    [Fact]
    public void Images_are_read_where_each_format_moves_them()
    {
        var read = Node("image", "image") with { Image = Use };
        var up = Shown("image", new Coordinates(), new(0.25f, 0.75f), read).Colour;
        Assert.Equal(new Vector3(0.25f, 0.25f, 0), up);

        var moved = Node("image", "UsdUVTexture", new ShaderInput("st", InputType.Vector2, null, new("move", "result"))) with
        {
            Image = Use,
        };
        var move = Node(
            "move",
            "UsdTransform2d",
            Number("rotation", 90),
            new("scale", InputType.Vector2, ShaderValue.Of(2, 1)),
            new("translation", InputType.Vector2, ShaderValue.Of(1, 0.5))
        );
        // (0.25, 0.5) scaled (0.5, 0.5), turned (-0.5, 0.5), moved (0.5, 1): V 1 is the top row.
        var turned = Shown("image", new Coordinates(), new(0.25f, 0.5f), moved, move).Colour;
        Assert.True(Vector3.Distance(new(0.5f, 0, 0), turned) < 1e-5f, $"{turned}");

        var gltf = new ShaderGraph(
            [
                Node(
                    "surface",
                    "gltf-metallic-roughness",
                    From("baseColor", "image"),
                    new("unlit", InputType.Boolean, ShaderValue.OfText("true"))
                ),
                read with
                {
                    Image = Use with { Transform = new(0.1, 0.2, 90, 2, 1, "scale rotate offset") },
                },
            ],
            "surface"
        );
        // V downwards: (0.25, 0.25) scaled (0.5, 0.25), turned (0.25, -0.5), moved (0.35, -0.3), which no reflectance is below 0.
        var seen = MaterialProgram.Of(gltf, new One(new Coordinates()))!.At(At(new(0.25f, 0.75f)), false).Surface.Emission;
        Assert.True(Vector3.Distance(new(0.35f, 0, 0), seen) < 1e-5f, $"{seen}");
    }

    /// <summary>A bump that rises with U leans the normal back along U; no slope is steeper than a bump may be.</summary>
    [Fact]
    public void Many_points_at_once_give_what_the_standard_says_of_each()
    {
        static ShaderInput From(string input, InputType type, string node) => new(input, type, null, new(node, "out"));
        static ShaderInput Is(string input, params double[] numbers) =>
            new(input, InputType.OfNumbers(numbers.Length), ShaderValue.Of(numbers));
        var (one, three) = (InputType.Float, InputType.Color3);
        var look = new ShaderGraph(
            [
                new("place", "texcoord", []) { Output = InputType.Vector2 },
                new("u", "extract", [From("in", InputType.Vector2, "place"), Is("index", 0)]) { Output = one },
                new("v", "extract", [From("in", InputType.Vector2, "place"), Is("index", 1)]) { Output = one },
                new("three", "combine3", [From("in1", one, "u"), From("in2", one, "v"), Is("in3", 0.25)]) { Output = three },
                new("held", "clamp", [From("in", three, "three"), Is("low", 0.2), Is("high", 0.7)]) { Output = three },
                new("dot", "dotproduct", [From("in1", three, "three"), From("in2", three, "held")]) { Output = one },
                new(
                    "chosen",
                    "ifgreater",
                    [From("value1", one, "u"), Is("value2", 0.5), From("in1", three, "three"), From("in2", three, "held")]
                )
                {
                    Output = three,
                },
                new("mixed", "mix", [From("fg", three, "chosen"), From("bg", three, "three"), From("mix", one, "dot")]) { Output = three },
                new("cube", "power", [From("in1", three, "mixed"), Is("in2", 3)]) { Output = three },
                new("surface", "open_pbr_surface", [From("base_color", three, "cube")]),
            ],
            "surface"
        );
        var colour = look.SurfaceNode!.Input("base_color")!;
        var baker = new Baker(
            look,
            new("colour", [.. Enumerable.Range(0, 3).Select(c => new BakedPart(colour, c, 0))], false),
            new One(null)
        );
        var values = new float[40 * 2 * 3];
        baker.Fill(40, 2, 0, 2, values, 1, default);
        for (var i = 0; i < 40 * 2; i++)
        {
            double[] at = [(i % 40 + 0.5) / 40, 1 - ((i / 40 + 0.5) / 2), 0.25];
            double[] held = [.. at.Select(x => Math.Clamp(x, 0.2, 0.7))];
            var dot = at.Zip(held).Sum(p => p.First * p.Second);
            for (var c = 0; c < 3; c++)
                Assert.Equal(Math.Pow((at[0] > 0.5 ? at[c] : held[c]) * dot + (at[c] * (1 - dot)), 3), values[(i * 3) + c], 1e-5);
        }
    }

    [Fact]
    public void A_height_bends_the_normal()
    {
        var graph = new ShaderGraph(
            [
                Node("surface", "mtl-phong", new ShaderInput("bump", InputType.Float, null, new("height", "out"))),
                Node("height", "multiply", new ShaderInput("in1", InputType.Float, null, new("u", "outx")), Number("in2", 16)),
                Node("u", "separate2", new ShaderInput("in", InputType.Vector2, null, new("uv", "out"))),
                Node("uv", "texcoord") with
                {
                    Output = InputType.Vector2,
                },
            ],
            "surface"
        );
        var normal = MaterialProgram.Of(graph, new One(null))!.At(At(new(0.5f)), false).Frame.Normal;
        // A slope of 16 in UV counts as 1: 45°, from the normal and its bend.
        Assert.True(normal.X < -0.5f && MathF.Abs(normal.Y) < 1e-3f, $"{normal}");
    }

    [Fact]
    public void Textures_are_linear_filtered_and_wrapped()
    {
        var decoder = new Squares();
        var texture = Texture.Of(decoder, "any", ColourSpace.Srgb, 256, default);
        Vector4 At(float u, float v, WrapMode wrap) => texture.Sample(new(u, v), 0, wrap, wrap);
        // 0.5 encoded is 0.214 of the light (IEC 61966-2-1); the alpha is not encoded.
        Assert.Equal((float)SrgbCurve.ToLinear(0.5), At(0.25f, 0.25f, WrapMode.Repeat).X, 1e-4f);
        Assert.Equal(0.5f, At(0.25f, 0.25f, WrapMode.Repeat).W, 1e-5f);
        // Pixels are 1 where column + row is odd: between two it is the mean, outside each way of wrapping has its own.
        Assert.Equal(1, At(0.75f, 0.25f, WrapMode.Clamp).X, 1e-4f);
        Assert.Equal(At(0.75f, 0.25f, WrapMode.Repeat).X, At(-0.25f, 1.25f, WrapMode.Repeat).X, 1e-4f);
        Assert.Equal(At(0.75f, 0.25f, WrapMode.Clamp).X, At(1.25f, 0.25f, WrapMode.Mirror).X, 1e-4f);
        Assert.Equal(0, At(1.25f, 0.25f, WrapMode.Black).X);
        // From far away all pixels are one.
        var mean = ((float)SrgbCurve.ToLinear(0.5) + 1) / 2;
        Assert.Equal(mean, texture.Sample(new(0.4f, 0.6f), 10, WrapMode.Repeat, WrapMode.Repeat).X, 1e-4f);
        Assert.Equal(Vector4.Zero, texture.Sample(new(float.NaN), 0, WrapMode.Repeat, WrapMode.Repeat));
    }

    [Fact]
    public void An_image_is_decoded_once_and_what_is_kept_is_bounded()
    {
        TextureCache.Key Key(string path) => new(path, string.Empty, 1, default, ColourSpace.Linear);
        var small = new Squares();
        var cache = new TextureCache(small, 200, 256);
        for (var i = 0; i < 3; i++)
            Assert.NotNull(cache.Of(Key("a"), "a", default));
        Assert.Equal(1, cache.Decoded);
        // Each takes 2 x 2 and 1 pixels of 16 bytes: two do not stay beside a third.
        foreach (var path in (string[])["b", "c", "a"])
            cache.Of(Key(path), path, default);
        Assert.Equal(4, cache.Decoded);
    }

    /// <summary>Two by two pixels: half, one, one, half.</summary>
    private sealed class Squares : IImageDecoder
    {
        public ReducedImage Reduce(string path, int side, CancellationToken stop = default) => throw new NotSupportedException();

        public void Read(string path, Action<PixelRows> take, CancellationToken stop = default)
        {
            take(new(2, 2, 4, 0, [0.5f, 0.5f, 0.5f, 0.5f, 1, 1, 1, 1]));
            take(new(2, 2, 4, 1, [1, 1, 1, 1, 0.5f, 0.5f, 0.5f, 0.5f]));
        }
    }
}
