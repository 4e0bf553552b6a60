using System.Numerics;
using RootCall.Core.Rendering.Sampling;
using RootCall.Core.Shading.Evaluation;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Tests.Rendering;

/// <summary>What must hold for any way to scatter light, and what the specifications say in equations.</summary>
public sealed class LobeTests
{
    private static readonly float[] Heights = [1, 0.8f, 0.5f, 0.2f];

    private static readonly List<Vector3> Sphere = [.. SamplingTests.Directions(120_000)];
    private static readonly List<Vector3> Upper = [.. Sphere.Where(d => d.Z > 0)];

    private static Vector3 View(float height) => new(MathF.Sqrt(1 - (height * height)), 0, height);

    private sealed record Case(ModelPoint Point, float Height)
    {
        public Surface Surface { get; } = Point.At(View(Height));

        public Vector3 From { get; } = View(Height);

        public override string ToString() => $"{Point} seen at {Height}";
    }

    private static float[] One(float v) => [v];

    private static float[] Grey(float v) => [v, v, v];

    /// <summary>Every model over what it is told to mirror, let through and cover itself with.</summary>
    /// <param name="white">What each colour is.</param>
    private static IEnumerable<ModelPoint> Points(float white)
    {
        foreach (var rough in (float[])[0.15f, 0.4f, 1])
        foreach (var metal in (float[])[0, 0.5f, 1])
        {
            (string, float[]) Rough(string name) => (name, One(rough));
            (string, float[]) Metal(string name) => (name, One(metal));
            yield return new("gltf-metallic-roughness", ("baseColor", Grey(white)), Metal("metallic"), Rough("roughness"));
            yield return new(
                "gltf-metallic-roughness",
                ("baseColor", Grey(white)),
                Metal("metallic"),
                Rough("roughness"),
                ("clearcoat", One(1)),
                ("clearcoatRoughness", One(0.3f)),
                ("sheenColor", Grey(0.5f)),
                ("sheenRoughness", One(0.4f)),
                ("anisotropyStrength", One(0.6f)),
                ("anisotropyRotation", One(0.7f)),
                ("iridescence", One(0.5f))
            );
            yield return new("materialx-gltf-pbr", ("base_color", Grey(white)), Metal("metallic"), Rough("roughness"));
            yield return new(
                "usd-preview-surface",
                ("diffuseColor", Grey(white)),
                Metal("metallic"),
                Rough("roughness"),
                ("clearcoat", One(metal)),
                ("clearcoatRoughness", One(0.3f))
            );
            yield return new(
                "open-pbr",
                ("base_color", Grey(white)),
                Metal("base_metalness"),
                Rough("specular_roughness"),
                ("base_diffuse_roughness", One(rough))
            );
            yield return new(
                "open-pbr",
                ("base_color", Grey(white)),
                Metal("base_metalness"),
                Rough("specular_roughness"),
                ("coat_weight", One(0.7f)),
                ("coat_roughness", One(0.3f)),
                ("fuzz_weight", One(0.5f)),
                ("specular_roughness_anisotropy", One(0.5f)),
                ("transmission_weight", One(0.5f))
            );
            yield return new(
                "standard-surface",
                ("base_color", Grey(white)),
                Metal("metalness"),
                Rough("specular_roughness"),
                ("coat", One(0.5f)),
                ("coat_roughness", One(0.3f)),
                ("sheen", One(0.5f)),
                ("transmission", One(0.4f)),
                ("subsurface", One(0.3f))
            );
        }
    }

    private static IEnumerable<Case> Grid(float white) => from point in Points(white) from height in Heights select new Case(point, height);

    /// <summary>Here the peak is narrower than the directions that sums are made of.</summary>
    private static bool IsNarrow(ModelPoint point) =>
        point.Given.Any(g => g.Name.EndsWith("oughness", StringComparison.Ordinal) && g.Value[0] < 0.2f);

    /// <summary>
    /// Under light of 1 from all around nothing gives back more than 1 (white furnace). The sample equations of glTF's specification do not
    /// hold to that for dielectrics seen from the side: their diffuse part is taken less by the facets that face both directions, not by
    /// all that is mirrored. There what comes back is what those equations add up to.
    /// </summary>
    [Fact]
    public void Nothing_gives_back_more_than_it_gets_but_where_the_specification_says_so()
    {
        foreach (var c in Grid(1))
        {
            var back = Estimate(c.Surface, c.From, 4096).X;
            // One table stands for facets of two widths.
            var limit = c.Point.Given.Any(g => g.Name.Contains("anisotropy", StringComparison.Ordinal)) ? 1.04f : 1.02f;
            var isGltf = c.Point.Model == "gltf-metallic-roughness";
            Assert.True(back > 0.3f && (back < limit || (isGltf && c.Height < 0.6f)), $"{c}: {back}");
        }
    }

    /// <summary>
    /// White metals of models that make up for light between facets, and rough white matter that does: within 2 % of all.
    /// </summary>
    [Fact]
    public void Models_that_conserve_give_all_back()
    {
        foreach (var rough in (float[])[0.15f, 0.5f, 0.8f])
        foreach (var height in Heights)
        {
            Near(new("standard-surface", ("base_color", Grey(1)), ("metalness", One(1)), ("specular_roughness", One(rough))), height);
            Near(new("open-pbr", ("base_color", Grey(1)), ("base_metalness", One(1)), ("specular_roughness", One(rough))), height);
            Near(new("materialx-gltf-pbr", ("base_color", Grey(1)), ("metallic", One(1)), ("roughness", One(rough))), height);
            Near(new("open-pbr", ("base_color", Grey(1)), ("specular_weight", One(0)), ("base_diffuse_roughness", One(rough))), height);
        }

        static void Near(ModelPoint point, float height)
        {
            var back = Estimate(point.At(View(height)), View(height), 4096).X;
            Assert.True(Math.Abs(back - 1) < 0.02, $"{point} at {height}: {back}");
        }
    }

    private static Vector3 Estimate(ILobe lobe, Vector3 view, int samples)
    {
        var sum = Vector3.Zero;
        for (var i = 0; i < samples; i++)
            if (lobe.Sample(view, Sobol.Point((uint)i, 3)) is { } light && lobe.Density(view, light) is > 0 and var density)
                sum += lobe.Evaluate(view, light) * (MathF.Abs(light.Z) / density);
        return sum / samples;
    }

    public static TheoryData<string> Reciprocal =>
        new("gltf", "gloss", "principled", "lambert", "kept", "rough", "sheen", "facets", "turned");

    /// <summary>Light goes the same way back (Helmholtz), where a model does not weigh its layers by the view alone.</summary>
    [Theory]
    [MemberData(nameof(Reciprocal))]
    public void View_and_light_may_change_places(string which)
    {
        ILobe Of(Vector3 view) =>
            which switch
            {
                "gltf" => new ModelPoint(
                    "gltf-metallic-roughness",
                    ("baseColor", [0.9f, 0.5f, 0.2f]),
                    ("metallic", One(0.3f)),
                    ("roughness", One(0.4f))
                ).At(view),
                "gloss" => new ModelPoint(
                    "gltf-specular-glossiness",
                    ("diffuse", [0.4f, 0.5f, 0.2f]),
                    ("specular", [0.3f, 0.2f, 0.1f]),
                    ("glossiness", One(0.4f))
                ).At(view),
                "principled" => new ModelPoint(
                    "principled",
                    ("baseColor", [0.9f, 0.5f, 0.2f]),
                    ("metallic", One(0.3f)),
                    ("anisotropic", One(0.5f)),
                    ("sheen", One(0.5f)),
                    ("clearcoat", One(1)),
                    ("subsurface", One(0.5f))
                ).At(view),
                "kept" => new KeptDiffuseLobe(new(0.9f, 0.5f, 0.2f), 0.6f),
                "rough" => new RoughDiffuseLobe(0.6f),
                "sheen" => new SheenLobe(0.3f, true),
                "facets" => new FacetLobe(new(0.2f, 0.5f), Reflectance.Artistic(new(0.9f, 0.6f, 0.3f), Vector3.One), true, Vector3.One),
                "turned" => new TurnedLobe(new FacetLobe(new(0.2f, 0.5f), Reflectance.Dielectric(1.5f), true, Vector3.One), 0.2f),
                _ => LambertLobe.White,
            };
        var from = View(0.6f);
        foreach (var light in Upper.Take(300))
        {
            var (there, back) = (Of(from).Evaluate(from, light), Of(light).Evaluate(light, from));
            Assert.True(Vector3.Distance(there, back) <= 2e-4f * (1 + there.Length()), $"{light}: {there} {back}");
        }
    }

    /// <summary>The density adds up to 1, and a chi-square test finds no difference from what is picked.</summary>
    [Fact]
    public void Directions_are_picked_as_their_density_says()
    {
        const int Rings = 12,
            Slices = 12,
            Samples = 20_000;
        static int Bin(Vector3 d) =>
            (Math.Min(Rings - 1, (int)((d.Z + 1) / 2 * Rings)) * Slices)
            + Math.Min(Slices - 1, (int)((MathF.Atan2(d.Y, d.X) + MathF.PI) / (2 * MathF.PI) * Slices));
        var more = new[]
        {
            new ModelPoint(
                "principled",
                ("roughness", One(0.4f)),
                ("clearcoat", One(1)),
                ("clearcoatGloss", One(0)),
                ("specTrans", One(0.3f))
            ),
            new("mtl-phong", ("Kd", Grey(0.4f)), ("Ks", Grey(0.5f)), ("Ns", One(20))),
            new ModelPoint("collada-common", ("diffuse", Grey(0.4f)), ("specular", Grey(0.5f)), ("shininess", One(20))).Saying(
                "lighting",
                "phong"
            ),
            new(
                "gltf-metallic-roughness",
                ("transmission", One(0.7f)),
                ("metallic", One(0)),
                ("roughness", One(0.5f)),
                ("diffuseTransmission", One(0.5f))
            ),
        };
        foreach (var c in Grid(0.6f).Concat(more.Select(m => new Case(m, 0.6f))).Where(c => !IsNarrow(c.Point)))
        {
            var expected = new double[Rings * Slices];
            foreach (var d in Sphere)
                expected[Bin(d)] += c.Surface.Density(c.From, d) * 4 * Math.PI / Sphere.Count;
            var random = new Random(1);
            var (counts, lost) = (new int[Rings * Slices], 0);
            for (var i = 0; i < Samples; i++)
                if (c.Surface.Sample(c.From, new(random.NextSingle(), random.NextSingle())) is { } picked)
                    counts[Bin(picked)]++;
                else
                    lost++;
            Assert.True(Math.Abs(expected.Sum() + ((double)lost / Samples) - 1) < 0.03, $"{c}: {expected.Sum()} and {lost}");
            var bins = Enumerable.Range(0, counts.Length).Where(b => expected[b] * Samples >= 20).ToList();
            var chi = bins.Sum(b => Math.Pow(counts[b] - (expected[b] * Samples), 2) / (expected[b] * Samples));
            // For more than 30 degrees of freedom nearly normal around their number; five deviations and what the bins' own sums are off.
            Assert.True(chi < bins.Count + (5 * Math.Sqrt(2.0 * bins.Count)) + 30, $"{c}: chi² {chi:0.#} of {bins.Count} bins");
        }
    }

    /// <summary>glTF 2.0, appendix B.3.5, written once more in doubles from the specification's text.</summary>
    [Fact]
    public void The_model_of_glTF_is_its_specifications_sample_equations()
    {
        var random = new Random(5);
        for (var n = 0; n < 30; n++)
        {
            var (metallic, roughness) = (random.NextSingle(), 0.1f + (0.9f * random.NextSingle()));
            var colour = new Vector3(random.NextSingle(), random.NextSingle(), random.NextSingle());
            Vector3 v = Upper[random.Next(Upper.Count)],
                l = Upper[random.Next(Upper.Count)];
            var actual = new ModelPoint(
                "gltf-metallic-roughness",
                ("baseColor", [colour.X, colour.Y, colour.Z]),
                ("metallic", One(metallic)),
                ("roughness", One(roughness))
            )
                .At(v)
                .Evaluate(v, l);
            double dx = v.X + l.X,
                dy = v.Y + l.Y,
                dz = v.Z + l.Z;
            var length = Math.Sqrt((dx * dx) + (dy * dy) + (dz * dz));
            double vdoth = ((v.X * dx) + (v.Y * dy) + (v.Z * dz)) / length,
                ndoth = dz / length,
                alpha = (double)roughness * roughness,
                alpha2 = alpha * alpha;
            var d = alpha2 / (Math.PI * Math.Pow((ndoth * ndoth * (alpha2 - 1)) + 1, 2));
            double Half(double c) => 2 * c / (c + Math.Sqrt(alpha2 + ((1 - alpha2) * c * c)));
            var g = Half(l.Z) * Half(v.Z);
            for (var c = 0; c < 3; c++)
            {
                var diffuse = colour[c] * (1 - metallic);
                var f0 = (0.04 * (1 - metallic)) + (colour[c] * metallic);
                var f = f0 + ((1 - f0) * Math.Pow(1 - Math.Abs(vdoth), 5));
                var expected = ((1 - f) * diffuse / Math.PI) + (f * d * g / (4 * v.Z * l.Z));
                Assert.Equal(expected, actual[c], 2e-4 * (1 + expected));
            }
        }
    }

    /// <summary>
    /// Optics: (n-1)²/(n+1)² for water 1.333, glass 1.5, diamond 2.417; Brewster's and the critical angle.
    /// </summary>
    [Theory]
    [InlineData(1.333, 0.0204)]
    [InlineData(1.5, 0.04)]
    [InlineData(2.417, 0.172)]
    public void Interfaces_reflect_as_their_index_says(double ior, double f0)
    {
        Assert.Equal(f0, Fresnel.NormalIncidence(ior), 3);
        Assert.Equal(Fresnel.NormalIncidence(ior), Fresnel.Dielectric(1, ior), 9);
        Assert.Equal(1, Fresnel.Dielectric(0, ior), 9);
        Assert.Equal(1, Fresnel.Dielectric(Math.Cos(Math.Asin(1 / ior) + 0.01), 1 / ior), 9);
        // At Brewster's angle only the part across is reflected: half of ((n² - 1) / (n² + 1))².
        var across = Math.Pow(((ior * ior) - 1) / ((ior * ior) + 1), 2);
        Assert.Equal(across / 2, Fresnel.Dielectric(Math.Cos(Math.Atan(ior)), ior), 9);
        Assert.Equal(Fresnel.Dielectric(0.3, ior), Fresnel.Conductor(0.3, ior, 0), 9);
        Assert.Equal((Math.Pow(ior - 1, 2) + 9) / (Math.Pow(ior + 1, 2) + 9), Fresnel.Conductor(1, ior, 3), 9);
    }

    /// <summary>
    /// Normal-incidence reflectance from n and k at 633 nm (CRC Handbook of Chemistry and Physics, “Optical Properties of Selected
    /// Elements”; the numbers from memory): R = ((n-1)² + k²) / ((n+1)² + k²).
    /// </summary>
    [Theory]
    [InlineData(0.18, 3.43, 0.94)] // gold
    [InlineData(0.14, 4.15, 0.97)] // silver
    [InlineData(0.25, 3.41, 0.92)] // copper
    [InlineData(1.37, 7.62, 0.91)] // aluminium
    [InlineData(3.14, 3.31, 0.56)] // chromium
    public void Metals_reflect_as_their_complex_index_says(double n, double k, double reflectance)
    {
        Assert.Equal(reflectance, Fresnel.Conductor(1, n, k), 0.011);
        // What an artist gives as reflectivity at normal incidence is what comes back there, whatever the edge.
        var r = new Vector3((float)reflectance);
        Assert.Equal((float)reflectance, Reflectance.Artistic(r, new(0.3f)).At(1).X, 1e-3f);
    }

    /// <summary>Beer's law: half the light after a depth is a quarter after two, and a coat takes light twice by its Fresnel.</summary>
    [Fact]
    public void What_is_inside_swallows_by_its_depth_and_a_coat_mirrors_what_its_index_says()
    {
        var glass = new ModelPoint(
            "open-pbr",
            ("transmission_weight", One(1)),
            ("transmission_color", [0.5f, 0.25f, 1]),
            ("transmission_depth", One(2))
        ).At(Vector3.UnitZ, isInside: true);
        Assert.Equal(0.25f, MathF.Exp(-glass.Absorption.X * 4), 1e-4f);
        Assert.Equal(0.25f, MathF.Exp(-glass.Absorption.Y * 2), 1e-4f);
        Assert.Equal(0, glass.Absorption.Z, 1e-6f);

        // A black base below a smooth coat of index 1.5 gives back 4 % at normal incidence; below one of 1.8, 8.2 %.
        foreach (var (index, f0) in (ReadOnlySpan<(float, float)>)[(1.5f, 0.04f), (1.8f, 0.0816f)])
        {
            var coated = new ModelPoint(
                "standard-surface",
                ("base_color", Grey(0)),
                ("specular", One(0)),
                ("coat", One(1)),
                ("coat_IOR", One(index)),
                ("coat_roughness", One(0.05f))
            ).At(Vector3.UnitZ);
            Assert.Equal(f0, Estimate(coated, Vector3.UnitZ, 4096).X, 0.002f);
        }
    }
}
