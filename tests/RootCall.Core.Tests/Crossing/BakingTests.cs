using System.Text.Json;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Viewing;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Core.Tests.Crossing;

/// <summary>What a format cannot say as nodes becomes images, texel by texel.</summary>
public sealed class BakingTests : IDisposable
{
    private const int Width = 24,
        Height = 10;

    private readonly Place place = new();
    private readonly ImageDecoder decoder = new(Bounds.Default);

    public void Dispose()
    {
        decoder.Dispose();
        place.Dispose();
    }

    private string Painted(string name, int channels, int bits, Func<int, int, int, double> value)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(place.At(name))!);
        using var file = File.Create(place.At(name));
        decoder.Write(file, new(channels, bits), Width, Height, (first, rows, values) =>
        {
            for (var y = 0; y < rows; y++)
            for (var x = 0; x < Width; x++)
            for (var c = 0; c < channels; c++)
                values.Span[(((y * Width) + x) * channels) + c] = (float)value(x, first + y, c);
        });
        return name;
    }

    private (int Channels, float[] Values) Read(string path)
    {
        var (channels, values) = (0, new List<float>());
        decoder.Read(path, rows =>
        {
            channels = rows.Channels;
            values.AddRange(rows.Values);
        });
        return (channels, [.. values]);
    }

    private (MusterReport Report, LookBaking Baking) Opened(string scene)
    {
        var report = CurrentScene.Muster(place.At(scene), Look.Context(place.At(scene)), Bounds.Default);
        var textures = new TextureCache(decoder, 100 << 20, LookBaking.LargestSide);
        return (report, new(report, textures, decoder, place.At("moment"), place.At("baked")));
    }

    private EditedScene Crossed(MusterReport report, string model, CrossingRoute route, LookBaking baking)
    {
        var material = report.Scene.Materials.First(m => m.Graph.SurfaceNode is not null);
        var baked = baking.Bake(material, Crossings.Of(material.Graph, model, route)!, default);
        Assert.Null(baked.WhyNot);
        var change = new CrossChange([], baked.Inputs, baked.Files) { Route = route };
        var entry = CrossingEntries.TakeOver(
            report.Scene,
            [material],
            model,
            new Dictionary<string, CrossChange> { [material.Name] = change },
            DateTimeOffset.UnixEpoch
        );
        var scene = EditedScene
            .Of(report.Scene, new(new([place.Folder]), Bounds.Default), () =>
                Directory.CreateDirectory(place.At($"w{Guid.NewGuid():N}")).FullName
            )
            .And(entry);
        Assert.Empty(scene.Refused);
        return scene;
    }

    private const string SpecularAndGlossiness = """
        {"asset":{"version":"2.0"},"extensionsUsed":["KHR_materials_pbrSpecularGlossiness"],
         "images":[{"uri":"diffuse.png"},{"uri":"gloss.png"}],"textures":[{"source":0},{"source":1}],
         "materials":[{"name":"tin","extensions":{"KHR_materials_pbrSpecularGlossiness":{
           "diffuseFactor":[0.9,0.8,1,1],"diffuseTexture":{"index":0},"glossinessFactor":0.8,"specularGlossinessTexture":{"index":1}}}}]}
        """;

    /// <summary>
    /// The published solve in plain doubles, outside the product: a script is handed the texels and gives what is to be stored.
    /// </summary>
    private const string Solve = """
        const fs = require('fs');
        const { diffuse, gloss } = JSON.parse(fs.readFileSync(process.argv[1], 'utf8'));
        const linear = (c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
        const encoded = (c) => (c <= 0.0031308 ? c * 12.92 : 1.055 * c ** (1 / 2.4) - 0.055);
        const clamp = (x) => Math.min(1, Math.max(0, x));
        const perceived = (c) => Math.sqrt(0.299 * c[0] ** 2 + 0.587 * c[1] ** 2 + 0.114 * c[2] ** 2);
        const f0 = 0.04, epsilon = 1e-6;
        console.log(JSON.stringify(diffuse.map((d8, i) => {
          const d = [0.9, 0.8, 1].map((f, c) => f * linear(d8[c] / 255));
          const s = [0, 1, 2].map((c) => linear(gloss[i][c] / 255));
          const left = 1 - Math.max(...s), brightness = perceived(s);
          let metal = 0;
          if (brightness >= f0) {
            const b = perceived(d) * left / (1 - f0) + brightness - 2 * f0, c = f0 - brightness;
            metal = clamp((-b + Math.sqrt(Math.max(b * b - 4 * f0 * c, 0))) / (2 * f0));
          }
          const base = d.map((x, c) => {
            const matte = x * left / (1 - f0) / Math.max(1 - metal, epsilon);
            const mirrored = (s[c] - f0 * (1 - metal)) / Math.max(metal, epsilon);
            return clamp(matte + (mirrored - matte) * metal * metal);
          });
          return [...base.map(encoded), 1 - 0.8 * gloss[i][3] / 255, metal];
        })));
        """;

    [Fact]
    public void Specular_and_glossiness_become_metalness_and_roughness_texel_by_texel_as_a_script_of_doubles_says()
    {
        int Diffuse(int x, int y, int c) => ((x * 11) + (y * 37 * (c + 1))) % 256;
        int Gloss(int x, int y, int c) =>
            c == 3 ? (x * 9) % 256
            : y < 5 ? 20 + c
            : ((x * 10) + (c * 30) + y) % 256;
        Painted("diffuse.png", 3, 8, (x, y, c) => Diffuse(x, y, c) / 255.0);
        Painted("gloss.png", 4, 8, (x, y, c) => Gloss(x, y, c) / 255.0);
        place.Put("tin.gltf", SpecularAndGlossiness);
        var (report, baking) = Opened("tin.gltf");
        var scene = Crossed(report, "gltf-metallic-roughness", CrossingRoute.Metalness, baking);
        var texels = Enumerable.Range(0, Width * Height).Select(i => (X: i % Width, Y: i / Width)).ToList();
        var told = place.Put(
            "texels.json",
            JsonSerializer.Serialize(
                new
                {
                    diffuse = texels.Select(t => Enumerable.Range(0, 3).Select(c => Diffuse(t.X, t.Y, c))),
                    gloss = texels.Select(t => Enumerable.Range(0, 4).Select(c => Gloss(t.X, t.Y, c))),
                }
            )
        );
        var script = Tool.Run("node", ["-e", Solve, told], place.Folder);
        Assert.True(script.Status == 0, script.Error);
        var wanted = JsonSerializer.Deserialize<double[][]>(script.Output)!;
        var (colours, base8) = Read(place.At("baked/tin_base_color.png"));
        var (packed, rough8) = Read(place.At("baked/tin_metallic_roughness.png"));
        Assert.Equal((3, 3), (colours, packed));
        for (var i = 0; i < wanted.Length; i++)
        {
            for (var c = 0; c < 3; c++)
                Assert.Equal(wanted[i][c], base8[(i * 3) + c], 0.51 / 255);
            Assert.Equal(wanted[i][3], rough8[(i * 3) + 1], 0.51 / 255);
            Assert.Equal(wanted[i][4], rough8[(i * 3) + 2], 0.51 / 255);
        }

        var crossed = scene.Current.Called("tin_gltf_metallic_roughness")!;
        Assert.Equal("gltf-metallic-roughness", crossed.Graph.Surface is { } s ? crossed.Graph.Node(s)!.Type : null);
        Assert.Equal(
            ["textures/tin_base_color.png", "textures/tin_metallic_roughness.png"],
            crossed.Uses().Select(u => u.Key.Written).Distinct().Order(StringComparer.Ordinal)
        );
        Assert.Equal(
            place.At("baked/tin_base_color.png"),
            scene.Current.Answers[crossed.Uses().First(u => u.Key.Written.EndsWith("color.png", StringComparison.Ordinal)).Key].File
        );
    }

    /// <summary>A library's own conversion (glTF-Transform's <c>metalRough</c>), of materials that say numbers.</summary>
    private const string MetalRough = """
        const { NodeIO } = require('@gltf-transform/core');
        const { KHRONOS_EXTENSIONS } = require('@gltf-transform/extensions');
        const { metalRough } = require('@gltf-transform/functions');
        (async () => {
          const document = await new NodeIO().registerExtensions(KHRONOS_EXTENSIONS).read(process.argv[1]);
          await document.transform(metalRough());
          console.log(JSON.stringify(document.getRoot().listMaterials().map((m) => [
            ...m.getBaseColorFactor(), m.getMetallicFactor(), m.getRoughnessFactor(),
            m.getExtension('KHR_materials_ior').getIOR(), ...m.getExtension('KHR_materials_specular').getSpecularColorFactor(),
          ])));
        })();
        """;

    [Fact]
    public void Mirrored_colours_that_are_kept_are_what_a_librarys_conversion_says()
    {
        double[][] points =
        [
            [0.8, 0.2, 0.1, 0.04, 0.04, 0.04, 0.3],
            [0, 0, 0, 1, 0.78, 0.34, 1],
            [0.3, 0.1, 0.6, 0.01, 0.02, 0, 0.55],
        ];
        var materials = points.Select(
            (p, i) =>
                new
                {
                    name = $"m{i}",
                    extensions = new
                    {
                        KHR_materials_pbrSpecularGlossiness = new
                        {
                            diffuseFactor = p[..3].Append(1),
                            specularFactor = p[3..6],
                            glossinessFactor = p[6],
                        },
                    },
                }
        );
        var file = place.Put(
            "numbers.gltf",
            JsonSerializer.Serialize(
                new
                {
                    asset = new { version = "2.0" },
                    extensionsUsed = new[] { "KHR_materials_pbrSpecularGlossiness" },
                    materials,
                }
            )
        );
        var script = Tool.Run("node", ["-e", MetalRough, file], Path.Combine(Tool.Home, "web"));
        Assert.True(script.Status == 0, script.Error);
        var wanted = JsonSerializer.Deserialize<double[][]>(script.Output)!;
        var arrived = CurrentScene.Muster(file, Look.Context(file), Bounds.Default).Scene;
        foreach (var (material, said) in arrived.Materials.Zip(wanted))
        {
            var surface = Crossings.Of(material.Graph, "gltf-metallic-roughness")!.Graph.SurfaceNode!;
            IEnumerable<double> Of(string input, params double[] standard) => surface.Input(input)?.Value?.Numbers ?? [.. standard];
            double[] ours =
            [
                .. Of("baseColor", 1, 1, 1),
                .. Of("alpha", 1),
                .. Of("metallic", 1),
                .. Of("roughness", 1),
                .. Of("ior", 1.5),
                .. Of("specularColor", 1, 1, 1),
            ];
            Assert.All(ours.Zip(said), p => Assert.Equal(p.Second, p.First, 1e-6));
        }
    }

    [Fact]
    public void An_image_is_baked_as_deep_as_it_was_and_read_as_it_was_and_once_for_all_that_ask_for_the_same()
    {
        Painted("gloss.png", 1, 16, (x, y, _) => ((x * Height) + y) / 300.0);
        place.Put(
            "tools.mtl",
            string.Concat(new[] { "one", "two" }.Select(n => $"newmtl {n}\nKd 0.5 0.4 0.3\nPm 0.2\nmap_Pr -s 3 2 1 gloss.png\n"))
        );
        place.Put("tools.obj", "mtllib tools.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl one\nf 1 2 3\nusemtl two\nf 1 2 3\n");
        var (report, baking) = Opened("tools.obj");
        // Blinn and Phong say an exponent, which is no line of a roughness.
        foreach (var material in report.Scene.Materials)
        {
            var made = baking.Bake(material, Crossings.Of(material.Graph, "mtl-phong")!, default);
            Assert.Null(made.WhyNot);
            var exponent = Assert.Single(made.Inputs, i => i.Input == "Ns");
            Assert.Equal((3.0, 2.0), (exponent.Image.Transform.ScaleU, exponent.Image.Transform.ScaleV));
        }

        Assert.Single(baking.Names, n => n.EndsWith("_ns.png", StringComparison.Ordinal));
        var baked = place.At("baked/one_ns.png");
        Assert.Equal(16, new FileFacts().Probe(baked, FileFacts.Stamp(baked)!.Value).Facts!.BitDepth);
    }

    /// <summary>An image that would not look the same wherever it is read is not made: better no crossing than a wrong texture.</summary>
    [Theory]
    [InlineData("map_Pr gloss.png", null)]
    [InlineData("map_Pr nobody.png", "did not come")]
    [InlineData("map_Pr -s 3 2 1 gloss.png\nmap_Kd gloss.png", "tiled or wrapped in different ways")]
    public void What_an_image_cannot_stand_for_is_not_baked_and_the_reason_is_told(string maps, string? why)
    {
        Painted("gloss.png", 1, 8, (x, y, _) => ((x * Height) + y) / 300.0);
        place.Put("tool.mtl", $"newmtl tool\nKd 0.5 0.4 0.3\nPm 0.2\n{maps}\n");
        place.Put("tool.obj", "mtllib tool.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl tool\nf 1 2 3\n");
        var (report, baking) = Opened("tool.obj");
        var material = report.Scene.Materials[0];
        var baked = baking.Bake(material, Crossings.Of(material.Graph, "mtl-phong")!, default);
        if (why is null)
            Assert.Null(baked.WhyNot);
        else
            Assert.Contains(why, baked.WhyNot, StringComparison.Ordinal);
        Assert.Equal(
            why is null,
            baking.Names.Any(n => n.EndsWith("_ks.png", StringComparison.Ordinal) || n.EndsWith("_ns.png", StringComparison.Ordinal))
        );
    }
}
