using System.Numerics;
using System.Text.Json;
using OpenQA.Selenium.Chrome;
using RootCall.Core.Rendering;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Shading;
using RootCall.Core.Shading.Evaluation;
using RootCall.Testing;
using Xunit.Abstractions;

namespace RootCall.Browser.Tests;

/// <summary>
/// A sphere under one directional light, against the physical material of three 0.187 (MeshPhysicalMaterial, tone mapping off): 24 points
/// of roughness, metalness and clearcoat. The difference is CIEDE2000 of what a display shows, over the lit side.
/// </summary>
public sealed class PhysicalMaterialTests(ITestOutputHelper output) : IDisposable
{
    private const int Side = 48;

    /// <summary>
    /// Pixels that three draws for each that is compared: it adds to the roughness what the normal turns from one pixel to the next.
    /// </summary>
    private const int Fine = 8;

    private static readonly Vector3 Light = Vector3.Normalize(new(-0.5f, 0.6f, 0.9f)),
        Colour = new(0.7f, 0.4f, 0.2f);

    private readonly Place profile = new();

    public void Dispose() => profile.Dispose();

    /// <remarks>
    /// What exceeds 2 are rough metals, from 0.6 on: three gives back the light that bounces between their facets (its
    /// multiScatteringCompensation), the sample implementation of glTF 2.0 (appendix B.3) loses it. They are darker here,
    /// and that is all the difference.
    /// </remarks>
    [Fact]
    public void A_lit_sphere_looks_as_three_draws_it()
    {
        float[] roughnesses = [0.15f, 0.25f, 0.4f, 0.6f, 0.8f, 1];
        var cases = (
            from coat in new[] { 0f, 0.8f }
            from metal in new[] { 0f, 1f }
            from rough in roughnesses
            select (Roughness: rough, Metalness: metal, Coat: coat)
        ).ToList();
        var pictures = Drawn(JsonSerializer.Serialize(cases.Select(c => new[] { c.Roughness, c.Metalness, c.Coat })));
        var means = new List<double>();
        for (var i = 0; i < cases.Count; i++)
        {
            var own = Own(cases[i].Roughness, cases[i].Metalness, cases[i].Coat);
            var other = Enumerable.Range(0, Side * Side).Select(p => new Vector3(pictures[i].AsSpan(p * 3, 3))).ToArray();
            var apart = LookDifference.Of(own, other, IsLit);
            output.WriteLine($"{cases[i]}: ΔE mean {apart.Mean:0.00}, 95 % {apart.High:0.00}, most {apart.Most:0.00}");
            means.Add(apart.Mean);
            var isRoughMetal = cases[i] is { Metalness: 1, Roughness: > 0.4f };
            Assert.True(apart.Mean < (isRoughMetal ? 13 : 1), $"{cases[i]}: {apart}");
            if (isRoughMetal)
                Assert.All(Enumerable.Range(0, own.Length).Where(IsLit), p => Assert.True(own[p].X <= other[p].X * 1.001f));
        }

        output.WriteLine($"24 points: ΔE mean {means.Average():0.00}, largest mean {means.Max():0.00}");
    }

    private static Vector3? Normal(int pixel)
    {
        // The pixel behind the middle of its square, in the picture that three draws.
        static float At(int i) => ((((i * Fine) + (Fine / 2) + 0.5f) * 2) / (Side * Fine)) - 1;
        var (x, y) = (At(pixel % Side), At(pixel / Side));
        var depth2 = 1 - (x * x) - (y * y);
        return depth2 > 0.02f ? new(x, y, MathF.Sqrt(depth2)) : null;
    }

    private static bool IsLit(int pixel) => Normal(pixel) is { } n && Vector3.Dot(n, Light) > 0.05f;

    /// <summary>Rows from the bottom, as WebGL reads them.</summary>
    private static Vector3[] Own(float roughness, float metalness, float coat)
    {
        var data = ShadingModels.Find("gltf-metallic-roughness")!;
        var given = new Dictionary<string, Vector4>
        {
            ["baseColor"] = new(Colour, 1),
            ["roughness"] = new(roughness),
            ["metallic"] = new(metalness),
            ["clearcoat"] = new(coat),
            ["clearcoatRoughness"] = new(0.3f),
        };
        var model = Evaluations.Of(data, new Slots(data, _ => null, given.ContainsKey))!;
        var values = data.Inputs.Select(i => given.TryGetValue(i.Name, out var v) ? v : Default(i)).ToArray();
        var picture = new Vector3[Side * Side];
        for (var i = 0; i < picture.Length; i++)
        {
            if (Normal(i) is not { } n || Vector3.Dot(n, Light) <= 0)
                continue;
            var frame = Frame.Around(n);
            var view = frame.ToLocal(Vector3.UnitZ);
            var surface = model.At(new Inputs(values), new(view, false));
            picture[i] = surface.Evaluate(view, frame.ToLocal(Light)) * (Vector3.Dot(n, Light) * MathF.PI);
        }

        return picture;
    }

    private static Vector4 Default(ModelInput input) =>
        input.Default switch
        {
            [] => default,
            [var one] => new((float)one),
            [var r, var g, var b, ..] => new((float)r, (float)g, (float)b, 0),
            [var a, var b] => new((float)a, (float)b, 0, 0),
        };

    private float[][] Drawn(string cases)
    {
        var (service, options) = Chromium.Of(profile.At("profile"));
        options.AddArgument("--allow-file-access-from-files");
        using (service)
        using (var driver = new ChromeDriver(service, options, TimeSpan.FromMinutes(2)))
        {
            driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromMinutes(2);
            foreach (var part in new[] { "three.core.js", "three.module.js" })
                profile.Put($"page/{part}", File.ReadAllBytes(Path.Combine(Tool.Home, "web/node_modules/three/build", part)));
            driver.Url = new Uri(profile.Put("page/index.html", "<!doctype html>")).AbsoluteUri;
            float[] light = [Light.X, Light.Y, Light.Z],
                colour = [Colour.X, Colour.Y, Colour.Z];
            var text = (string)driver.ExecuteAsyncScript(Script, cases, Side, Fine, light, colour)!;
            Assert.StartsWith("[", text, StringComparison.Ordinal);
            return JsonSerializer.Deserialize<float[][]>(text)!;
        }
    }

    private const string Script = """
        const [cases, side, fine, light, colour, done] = arguments, all = side * fine;
        import(new URL('three.module.js', location)).then((three) => {
          const renderer = new three.WebGLRenderer();
          renderer.toneMapping = three.NoToneMapping;
          const scene = new three.Scene(), camera = new three.OrthographicCamera(-1, 1, 1, -1, 0.1, 10);
          camera.position.z = 5;
          const sun = new three.DirectionalLight(0xffffff, Math.PI);
          sun.position.set(...light.map((v) => v * 10));
          scene.add(sun);
          const target = new three.WebGLRenderTarget(all, all, { type: three.FloatType });
          const ball = new three.Mesh(new three.SphereGeometry(1, 512, 256));
          scene.add(ball);
          done(JSON.stringify(JSON.parse(cases).map(([roughness, metalness, clearcoat]) => {
            ball.material = new three.MeshPhysicalMaterial({ roughness, metalness, clearcoat, clearcoatRoughness: 0.3 });
            ball.material.color.setRGB(...colour, three.LinearSRGBColorSpace);
            renderer.setRenderTarget(target);
            renderer.render(scene, camera);
            const values = new Float32Array(all * all * 4), at = (i) => i * fine + fine / 2;
            renderer.readRenderTargetPixels(target, 0, 0, all, all, values);
            return Array.from({ length: side * side }, (_, i) => (at(Math.floor(i / side)) * all + at(i % side)) * 4)
              .flatMap((i) => [...values.subarray(i, i + 3)]);
          })));
        }).catch((e) => done(String(e)));
        """;
}
