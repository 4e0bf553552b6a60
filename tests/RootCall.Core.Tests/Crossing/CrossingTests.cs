using System.Numerics;
using RootCall.Core.Crossing;
using RootCall.Core.Formats.MaterialX;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Demo.Looks;
using RootCall.Testing;

namespace RootCall.Core.Tests.Crossing;

/// <summary>Looks carried from one shading model to another.</summary>
public sealed class CrossingTests
{
    /// <summary>An image whose colour is told by the name that calls it.</summary>
    private sealed class Painted : ITextureSource, ITexture
    {
        private Vector4 colour;

        public ITexture? Find(ImageUse use)
        {
            var numbers = use
                .Reference.Written.Split(' ')
                .Select(n => float.Parse(n, System.Globalization.CultureInfo.InvariantCulture))
                .ToArray();
            return new Painted { colour = numbers.Length == 1 ? new(numbers[0]) : new(numbers[0], numbers[1], numbers[2], 1) };
        }

        public Vector4 Sample(Vector2 uv, float footprint) => colour;
    }

    /// <summary>Grows along U and V, so that a move of its coordinates is seen.</summary>
    private sealed class Ramp : ITextureSource, ITexture
    {
        public ITexture? Find(ImageUse use) => this;

        public Vector4 Sample(Vector2 uv, float footprint) => new(uv.X - MathF.Floor(uv.X), uv.Y - MathF.Floor(uv.Y), 0.2f, 1);
    }

    private static ShaderGraph Graph(string type, params (string Input, double[] Numbers)[] inputs) =>
        new([new("surface", type, [.. inputs.Select(i => Input(i.Input, i.Numbers))])], "surface");

    private static ShaderInput Input(string name, double[] numbers) =>
        new(name, InputType.OfNumbers(numbers.Length), ShaderValue.Of(numbers));

    private static double[] Value(ShaderGraph graph, string input)
    {
        var surface = graph.SurfaceNode!;
        return surface.Input(input)?.Value is { } v ? [.. v.Numbers] : [.. ShadingModels.OfType(surface.Type)!.Input(input)!.Default];
    }

    private static ShaderGraph To(ShaderGraph graph, string model) => Crossings.Of(graph, model)!.Graph;

    private static double Apart(ShaderGraph a, ShaderGraph b, ITextureSource? images = null, int samples = 2) =>
        new Fidelity(Studio.Light(), 16, samples).Between(a, b, images ?? new Painted(), default)!.Mean;

    public static TheoryData<string, string> Pairs()
    {
        var pairs = new TheoryData<string, string>();
        foreach (var from in Crossings.Models)
        foreach (var to in Crossings.Models)
            if (from != to)
                pairs.Add(from, to);
        return pairs;
    }

    /// <summary>
    /// The conversion that the archived extension published (KHR_materials_pbrSpecularGlossiness, examples, convert-between-workflows),
    /// worked in doubles.
    /// </summary>
    [Fact]
    public void Metalness_and_base_colour_of_specular_and_glossiness_are_the_published_solve()
    {
        double[][] points =
        [
            [0.8, 0.2, 0.1, 0.04, 0.04, 0.04],
            [0.5, 0.5, 0.5, 0.2, 0.2, 0.2],
            [0, 0, 0, 1, 0.78, 0.34],
            [0.02, 0.02, 0.02, 0.95, 0.93, 0.88],
            [0.3, 0.1, 0.6, 0.01, 0.01, 0.01],
            [1, 1, 1, 0, 0, 0],
            [0.1, 0.3, 0.2, 0.5, 0.4, 0.3],
            [0.05, 0.05, 0.05, 0.05, 0.05, 0.05],
            [0.9, 0.7, 0.5, 0.1, 0.2, 0.3],
            [0, 0, 0, 0.03, 0.03, 0.03],
            [0.25, 0.5, 0.75, 0.6, 0.1, 0.1],
            [0.6, 0.6, 0.1, 0.99, 0.99, 0.99],
        ];
        foreach (var p in points)
        {
            var made = To(Graph("gltf-specular-glossiness", ("diffuse", p[..3]), ("specular", p[3..]), ("glossiness", [0.3])), "mtl-pbr");
            var (metal, colour) = Solved(p[..3], p[3..]);
            Assert.Equal(metal, Value(made, "Pm")[0], 1e-9);
            Assert.All(Enumerable.Range(0, 3), i =>
                Assert.Equal(colour[i], Value(made, "Kd") is [var one] ? one : Value(made, "Kd")[i], 1e-9)
            );
            Assert.Equal(0.7, Value(made, "Pr")[0], 1e-12);
        }
    }

    private static (double Metal, double[] Colour) Solved(double[] diffuse, double[] specular)
    {
        const double Dielectric = 0.04,
            Epsilon = 1e-6;
        static double Perceived(double[] c) => Math.Sqrt((0.299 * c[0] * c[0]) + (0.587 * c[1] * c[1]) + (0.114 * c[2] * c[2]));
        var left = 1 - specular.Max();
        var (d, s) = (Perceived(diffuse), Perceived(specular));
        var metal = 0.0;
        if (s >= Dielectric)
        {
            double b = (d * left / (1 - Dielectric)) + s - (2 * Dielectric),
                c = Dielectric - s;
            metal = Math.Clamp((-b + Math.Sqrt(Math.Max((b * b) - (4 * Dielectric * c), 0))) / (2 * Dielectric), 0, 1);
        }

        return (
            metal,
            [
                .. Enumerable
                    .Range(0, 3)
                    .Select(i =>
                    {
                        var fromDiffuse = diffuse[i] * (left / (1 - Dielectric) / Math.Max(1 - metal, Epsilon));
                        var fromSpecular = (specular[i] - (Dielectric * (1 - metal))) / Math.Max(metal, Epsilon);
                        return Math.Clamp(fromDiffuse + ((fromSpecular - fromDiffuse) * metal * metal), 0, 1);
                    }),
            ]
        );
    }

    /// <summary>A formula is said once: what it does with numbers, its nodes do where an image says the same numbers.</summary>
    [Theory]
    [MemberData(nameof(Pairs))]
    public void Images_cross_as_numbers_do(string from, string to)
    {
        var source = To(
            Graph("open_pbr_surface", ("base_color", [0.6, 0.3, 0.2]), ("specular_roughness", [0.4]), ("base_metalness", [0.3])),
            from
        );
        var surface = source.SurfaceNode!;
        var images = surface.Inputs.Where(i => i.Value is { Text: null, Numbers.Length: 1 or 3 } && i.Type != InputType.Integer).ToList();
        var painted = source with
        {
            Nodes =
            [
                surface with
                {
                    Inputs =
                    [
                        .. surface.Inputs.Select(i =>
                            images.Contains(i) ? i with { Value = null, From = new($"{i.Name} image", "out") } : i
                        ),
                    ],
                },
                .. images.Select(i => new ShaderNode(
                    $"{i.Name} image",
                    "image",
                    [],
                    new(new(ReferenceKind.Image, "a", i.Value!.ToString())) { EffectiveSpace = ColourSpace.Data }
                )
                {
                    Output = i.Type,
                }),
            ],
        };
        Assert.InRange(Apart(source, painted), 0, 1e-3);
        // A highlight that is the same everywhere may be said as an index and a tint; one that varies is solved for.
        var isChosen = from is "mtl-phong" or "collada-common" && to is "standard-surface" or "open-pbr";
        Assert.InRange(Apart(To(source, to), To(painted, to)), 0, isChosen ? 3 : 0.02);
    }

    /// <summary>What two models of the same family both can say looks the same in both.</summary>
    [Fact]
    public void The_common_subset_of_the_physically_based_models_hardly_moves()
    {
        string[] models = ["gltf-metallic-roughness", "usd-preview-surface", "open-pbr", "standard-surface"];
        var looks = HundredLooks.All.Where(l => l.Kind is "metals" or "dielectrics").Where((_, i) => i % 6 == 1).Select(l => l.Graph);
        looks = looks.Where(g => g.SurfaceNode!.Input("specular_roughness_anisotropy") is null);
        var moved = (
            from look in looks.ToList()
            from a in models
            let own = To(look, a)
            from b in models
            where a != b
            select Apart(own, To(own, b), samples: 24)
        )
            .Order()
            .ToList();
        Assert.InRange(moved[moved.Count / 2], 0, 1);
        Assert.InRange(moved[^1], 0, 3);
    }

    [Fact]
    public void Formulas_are_those_of_their_sources()
    {
        // Burley 2012, 5.5: 0.5 is 4 %, 1 is 8 %; an index says it where a weight of 1 is not enough.
        Assert.Equal([1], Value(To(Graph("principled", ("specular", [0.5])), "open-pbr"), "specular_weight"));
        var bright = To(Graph("principled", ("specular", [1])), "open-pbr");
        Assert.Equal(0.08, Math.Pow((Value(bright, "specular_ior")[0] - 1) / (Value(bright, "specular_ior")[0] + 1), 2), 1e-9);
        Assert.Equal(0.5, Value(To(Graph("open_pbr_surface"), "principled"), "specular")[0], 1e-9);
        // α² = 2/(N + 2), and α is the square of the roughness.
        var phong = To(Graph("mtl-phong", ("Kd", [0.2, 0.2, 0.2]), ("Ks", [0.3, 0.3, 0.3]), ("Ns", [98])), "gltf-specular-glossiness");
        Assert.Equal(0.02, Math.Pow(1 - Value(phong, "glossiness")[0], 4), 1e-9);
        // The highlight's middle: F0 (N + 2)/8.
        Assert.Equal(0.3 * 8 / 100, Value(phong, "specular")[0], 1e-9);
        // Light of 1,000 nits is white paper here; films are in nanometres there, in micrometres here.
        var lamp = To(
            Graph("open_pbr_surface", ("emission_luminance", [500]), ("thin_film_weight", [1]), ("thin_film_thickness", [0.4])),
            "gltf-metallic-roughness"
        );
        Assert.Equal([0.5, 0.5, 0.5], Value(lamp, "emissive"));
        Assert.Equal([400], Value(lamp, "iridescenceThicknessMaximum"));
    }

    [Fact]
    public void There_and_back_gives_the_same_numbers()
    {
        var own = Graph(
            "gltf-metallic-roughness",
            ("baseColor", [0.5, 0.4, 0.3]),
            ("metallic", [0.25]),
            ("roughness", [0.6]),
            ("ior", [1.4]),
            ("clearcoat", [0.5]),
            ("clearcoatRoughness", [0.2]),
            ("sheenColor", [0.1, 0.2, 0.3]),
            ("sheenRoughness", [0.5]),
            ("anisotropyStrength", [0.7])
        );
        foreach (var model in (string[])["standard-surface", "open-pbr", "materialx-gltf-pbr"])
        {
            var back = To(To(own, model), "gltf-metallic-roughness");
            foreach (var input in own.SurfaceNode!.Inputs)
                Assert.All(Value(back, input.Name).Zip(input.Value!.Numbers), p => Assert.Equal(p.Second, p.First, 1e-5));
        }
    }

    /// <summary>A normal map as everybody writes it in USD (scale and bias), and one image of several maps by its channels.</summary>
    [Fact]
    public void Gains_and_channels_of_images_cross_and_are_written()
    {
        ShaderNode Texture(string name, double[] scale, double[] bias) =>
            new(
                name,
                "UsdUVTexture",
                [],
                new(new(ReferenceKind.Image, "a", "a.png"))
                {
                    Scale = [.. scale],
                    Bias = [.. bias],
                    EffectiveSpace = ColourSpace.Data,
                }
            );
        var own = new ShaderGraph(
            [
                new(
                    "surface",
                    "UsdPreviewSurface",
                    [
                        new("diffuseColor", InputType.Color3, null, new("colours", "rgb")),
                        new("roughness", InputType.Float, null, new("packed", "g")),
                        new("clearcoat", InputType.Float, null, new("packed", "b")),
                        new("normal", InputType.Vector3, null, new("bumps", "rgb")),
                    ]
                ),
                Texture("colours", [0.5, 0.6, 0.7, 1], [0.1, 0.1, 0.1, 0]),
                Texture("packed", [], []),
                Texture("bumps", [0.2, 0.2, 1, 1], [-0.1, -0.1, 0.5, 0]),
            ],
            "surface"
        );
        // Coordinates that are more than moved are not written as if they were not.
        var bent = own with
        {
            Nodes =
            [
                .. own.Nodes.Select(n =>
                    n.Name == "packed" ? n with { Inputs = [new("st", InputType.Vector2, null, new("warp", "out"))] } : n
                ),
                new("warp", "noise2d", []) { Output = InputType.Vector2 },
            ],
        };
        Assert.Contains("“packed”", new MtlxAuthor(k => k.Written).Add("tin", To(bent, "open-pbr")), StringComparison.Ordinal);
        using var place = new Place();
        foreach (var model in (string[])["gltf-metallic-roughness", "standard-surface", "open-pbr"])
        {
            var crossed = To(own, model);
            Assert.InRange(Apart(own, crossed, new Ramp(), samples: 16), 0, 1.6);
            if (model == "gltf-metallic-roughness")
                continue;
            var author = new MtlxAuthor(k => k.Written);
            Assert.Null(author.Add("tin", crossed));
            var read = Look.Read(place.Put($"{model}.mtlx", author.Document()));
            Assert.InRange(Apart(crossed, read.Materials[0].Graph, new Ramp()), 0, 0.05);
        }
    }

    /// <summary>FBX's phong is COLLADA's but for its factors.</summary>
    [Fact]
    public void A_phong_of_FBX_is_carried_as_one_of_COLLADA_is()
    {
        var fbx = Graph(
            "phong",
            ("DiffuseColor", [0.4, 0.2, 0.1]),
            ("DiffuseFactor", [0.5]),
            ("SpecularColor", [0.6, 0.6, 0.6]),
            ("SpecularFactor", [0.5]),
            ("ShininessExponent", [20])
        );
        var collada = Graph("collada-common", ("diffuse", [0.2, 0.1, 0.05]), ("specular", [0.3, 0.3, 0.3]), ("shininess", [20]));
        foreach (var input in (string[])["baseColor", "specularColor", "roughness"])
            Assert.All(Value(To(fbx, "gltf-metallic-roughness"), input).Zip(Value(To(collada, "gltf-metallic-roughness"), input)), p =>
                Assert.Equal(p.Second, p.First, 1e-12)
            );
    }

    [Fact]
    public void What_is_lost_or_cut_off_is_told_and_comes_first()
    {
        var coated = Crossings.Of(
            Graph("open_pbr_surface", ("coat_weight", [1]), ("base_color", [0.2, 0.3, 0.4])),
            "gltf-specular-glossiness"
        )!;
        Assert.Equal((MappingKind.Lost, "coat_weight"), (coated.Mappings[0].Kind, coated.Mappings[0].From[0]));
        Assert.Equal([.. coated.Mappings.Select(m => m.Kind).OrderDescending()], coated.Mappings.Select(m => m.Kind));
        Assert.EndsWith("has no coat", coated.Mappings[0].Detail, StringComparison.Ordinal);
        var bright = Crossings.Of(Graph("open_pbr_surface", ("specular_ior", [2.2])), "principled")!;
        Assert.True(bright.Mappings.Single(m => m.To == "specular").IsClamped);
        Assert.Null(Crossings.Of(Graph("nobody_knows"), "open-pbr"));
        Assert.All(Crossings.Models, m => Assert.Empty(Crossings.Of(To(Graph("open_pbr_surface"), m), m)!.Mappings));
    }

    /// <summary>Where nothing else bends the surface; bent twice, it would be neither the one nor the other.</summary>
    [Fact]
    public void A_displacement_becomes_bump_where_the_other_model_has_none()
    {
        ShaderNode Heights(string name) => new(name, "UsdUVTexture", [], new(new(ReferenceKind.Image, "a", "a.png")));
        var raised = new ShaderGraph(
            [new("surface", "UsdPreviewSurface", [new("displacement", InputType.Float, null, new("heights", "r"))]), Heights("heights")],
            "surface"
        );
        var crossed = Crossings.Of(raised, "open-pbr")!;
        var row = crossed.Mappings[0];
        Assert.Equal((MappingKind.Approximate, "geometry_normal"), (row.Kind, row.To));
        Assert.InRange(Apart(To(Graph("open_pbr_surface"), "open-pbr"), crossed.Graph, new Ramp()), 0.5, 30);
        Assert.Equal(MappingKind.Exact, Crossings.Of(raised, "mtl-pbr")!.Mappings.Single(m => m.From.Contains("displacement")).Kind);

        var surface = raised.SurfaceNode!;
        var bent = raised with
        {
            Nodes =
            [
                surface with
                {
                    Inputs = surface.Inputs.Add(new("normal", InputType.Vector3, null, new("normals", "rgb"))),
                },
                .. raised.Nodes.Skip(1),
                Heights("normals"),
            ],
        };
        var kept = Crossings.Of(bent, "open-pbr")!;
        Assert.Equal((MappingKind.Lost, "displacement"), (kept.Mappings[0].Kind, kept.Mappings[0].From[0]));
        Assert.Contains(kept.Mappings, m => m.From.Contains("normal") && m.To == "geometry_normal");
    }

    /// <summary>glTF counts V downwards and turns the other way; what is written as MaterialX is read back as the same look.</summary>
    [Fact]
    public void Moved_images_and_normals_are_read_back_from_a_document_as_they_were()
    {
        ShaderNode Image(string name, UvTransform move, InputType type) =>
            new(name, "image", [], new(new(ReferenceKind.Image, "a", "a.png")) { Transform = move, EffectiveSpace = ColourSpace.Srgb })
            {
                Output = type,
            };
        var move = new UvTransform(0.2, 0.1, 30, 2, 3, UvTransform.Identity.Order);
        var own = new ShaderGraph(
            [
                new(
                    "surface",
                    "gltf-metallic-roughness",
                    [
                        new("baseColor", InputType.Color3, null, new("colours", "out")),
                        new("normal", InputType.Vector3, null, new("map", "out")),
                        Input("metallic", [0]),
                    ]
                ),
                Image("colours", move, InputType.Color3),
                Image("bumps", UvTransform.Identity, InputType.Vector3),
                new("map", "normalmap", [new("in", InputType.Vector3, null, new("bumps", "out")), Input("scale", [0.5])]),
            ],
            "surface"
        );
        using var place = new Place();
        foreach (var model in (string[])["standard-surface", "open-pbr", "usd-preview-surface", "materialx-gltf-pbr"])
        {
            var crossed = To(own, model);
            Assert.InRange(Apart(own, crossed, new Ramp(), samples: 16), 0, 1.6);
            var author = new MtlxAuthor(k => k.Written);
            Assert.Null(author.Add("a tin", crossed));
            var read = Look.Read(place.Put($"{model}.mtlx", author.Document()));
            Assert.Equal("a_tin", Assert.Single(read.Materials).Name);
            Assert.InRange(Apart(crossed, read.Materials[0].Graph, new Ramp()), 0, 0.05);
        }
    }
}
