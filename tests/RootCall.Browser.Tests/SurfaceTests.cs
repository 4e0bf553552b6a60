using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Sampling;
using RootCall.Core.Shading.Evaluation;
using RootCall.Testing;
using Xunit.Abstractions;

namespace RootCall.Browser.Tests;

/// <summary>
/// Surface shaders under one directional light, and in uniform light, against the graphs of the MaterialX reference library
/// 1.39.4: 8 roughnesses x 5
/// metalnesses, seen and lit from four sides. The difference is CIEDE2000 of what a display shows.
/// </summary>
public sealed class SurfaceTests(ReferenceShaders reference, ITestOutputHelper output) : IClassFixture<ReferenceShaders>, IDisposable
{
    private const int Roughnesses = 8,
        Metalnesses = 5;

    private readonly Place place = new();

    private static Vector3 From(float around, float up)
    {
        var (sine, cosine) = MathF.SinCos(float.DegreesToRadians(around));
        var level = MathF.Cos(float.DegreesToRadians(up));
        return new(level * cosine, level * sine, MathF.Sin(float.DegreesToRadians(up)));
    }

    private static readonly (Vector3 View, Vector3 Light)[] Views =
    [
        (Vector3.UnitZ, From(20, 60)),
        (From(180, 50), From(0, 50)),
        (From(180, 35), From(70, 40)),
        (From(10, 70), From(200, 25)),
    ];

    /// <summary>The shader, what roughness and metalness are called, and what else is said.</summary>
    public static TheoryData<string, string, string, string> Surfaces { get; } =
        new()
        {
            { "standard_surface", "specular_roughness", "metalness", "base_color color3 0.7,0.4,0.2" },
            {
                "standard_surface",
                "specular_roughness",
                "metalness",
                "base_color color3 0.7,0.4,0.2;coat float 0.8;" + "coat_color color3 0.9,0.7,0.5;coat_roughness float 0.3"
            },
            {
                "standard_surface",
                "specular_roughness",
                "metalness",
                "base_color color3 0.2,0.4,0.7;sheen float 0.6;" + "sheen_roughness float 0.4;diffuse_roughness float 0.5"
            },
            {
                "open_pbr_surface",
                "specular_roughness",
                "base_metalness",
                "base_color color3 0.7,0.4,0.2;" + "specular_color color3 0.9,0.9,0.5"
            },
            {
                "open_pbr_surface",
                "specular_roughness",
                "base_metalness",
                "base_color color3 0.7,0.4,0.2;" + "coat_weight float 0.7;coat_roughness float 0.2;coat_color color3 0.9,0.8,0.7"
            },
            { "gltf_pbr", "roughness", "metallic", "base_color color3 0.7,0.4,0.2" },
            {
                "gltf_pbr",
                "roughness",
                "metallic",
                "base_color color3 0.3,0.6,0.2;clearcoat float 0.6;"
                    + "clearcoat_roughness float 0.3;sheen_color color3 0.3,0.2,0.4;sheen_roughness float 0.5"
            },
            {
                "UsdPreviewSurface",
                "roughness",
                "metallic",
                "diffuseColor color3 0.7,0.4,0.2;clearcoat float 0.4;" + "clearcoatRoughness float 0.3"
            },
        };

    [Theory]
    [MemberData(nameof(Surfaces))]
    public void Surfaces_look_as_the_reference_library_has_them(string shader, string roughness, string metalness, string said) =>
        Compare(
            (shader, roughness, metalness, said),
            isSurrounded: false,
            (surface, view, light) => surface.Evaluate(view, light) * (light.Z * MathF.PI),
            mean: 0.5,
            most: 2
        );

    /// <summary>The same in light of 1 from all around: what each gives back in all.</summary>
    [Theory]
    [MemberData(nameof(Surfaces))]
    public void Surfaces_give_back_what_the_reference_library_says(string shader, string roughness, string metalness, string said) =>
        Compare(
            (shader, roughness, metalness, said),
            isSurrounded: true,
            (surface, view, _) =>
            {
                var sum = Vector3.Zero;
                for (var n = 0u; n < GivenBack; n++)
                    if (surface.Sample(view, Sobol.Point(n, 1)) is { } picked && surface.Density(view, picked) is > 0 and var density)
                        sum += surface.Evaluate(view, picked) * (MathF.Abs(picked.Z) / density);
                return sum / GivenBack;
            },
            mean: 0.3,
            most: 1
        );

    /// <summary>Directions over which light from all around is summed.</summary>
    private const int GivenBack = 1024;

    private void Compare(
        (string Shader, string Roughness, string Metalness, string Said) of,
        bool isSurrounded,
        Func<Surface, Vector3, Vector3, Vector3> seen,
        double mean,
        double most
    )
    {
        var document = Document(of.Shader, of.Roughness, of.Metalness, of.Said);
        var expected = reference.Run(document, Roughnesses, Metalnesses, isSurrounded, Views);
        var path = place.Put("surface.mtlx", document);
        var scene = SceneFormats.Read(path, new(new RootScope([place.Folder]), Bounds.Default));
        var program = MaterialProgram.Of(scene.Materials[0].Graph, NoImages.All)!;
        var all = new List<(double Difference, string Where)>();
        for (var v = 0; v < Views.Length; v++)
        for (var i = 0; i < Roughnesses * Metalnesses; i++)
        {
            var uv = new Vector2(((i % Roughnesses) + 0.5f) / Roughnesses, ((i / Roughnesses) + 0.5f) / Metalnesses);
            var (view, light) = Views[v];
            var point = new ShadingPoint(Vector3.Zero, Vector3.UnitZ, Vector3.UnitX, Vector3.UnitY, uv, 0, view);
            var (surface, frame) = program.At(point, false);
            var own = seen(surface, frame.ToLocal(view), frame.ToLocal(light));
            var other = new Vector3(expected[v].AsSpan(i * 3, 3));
            var apart = LookDifference.Of([own], [other], _ => true).Mean;
            all.Add((apart, $"roughness {uv.X} metalness {uv.Y} view {v}: {own} beside {other}"));
        }

        var worst = all.MaxBy(a => a.Difference);
        output.WriteLine(
            $"{of.Shader} {of.Said}: mean {all.Average(a => a.Difference):0.00}, most {worst.Difference:0.00} ({worst.Where})"
        );
        Assert.True(
            all.Average(a => a.Difference) <= mean && worst.Difference <= most,
            $"mean {all.Average(a => a.Difference):0.00}, most {worst}"
        );
    }

    private static string Document(string shader, string roughness, string metalness, string said) =>
        $"""
            <?xml version="1.0"?>
            <materialx version="1.39">
              <texcoord name="uv" type="vector2"/>
              <separate2 name="parts" type="multioutput"><input name="in" type="vector2" nodename="uv"/></separate2>
              <{shader} name="surface" type="surfaceshader">
                <input name="{roughness}" type="float" nodename="parts" output="outx"/>
                <input name="{metalness}" type="float" nodename="parts" output="outy"/>
                {string.Concat(
                said.Split(';').Select(s => s.Split(' ')).Select(s => $"<input name=\"{s[0]}\" type=\"{s[1]}\" value=\"{s[2]}\"/>")
            )}
              </{shader}>
              <surfacematerial name="swatch" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="surface"/>
              </surfacematerial>
            </materialx>
            """;

    public void Dispose() => place.Dispose();
}
