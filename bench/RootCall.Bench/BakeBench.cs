using System.Diagnostics;
using RootCall.Core.Crossing;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Viewing;
using RootCall.Native;

namespace RootCall.Bench;

/// <summary>Images baked for another shading model, beside decoding the same images and encoding what is made of them.</summary>
internal static class BakeBench
{
    private const int Side = 2048;

    private const string Scene = """
        {"asset":{"version":"2.0"},"extensionsUsed":["KHR_materials_pbrSpecularGlossiness"],
         "images":[{"uri":"diffuse.png"},{"uri":"gloss.png"}],"textures":[{"source":0},{"source":1}],
         "materials":[{"name":"tin","extensions":{"KHR_materials_pbrSpecularGlossiness":{
           "diffuseTexture":{"index":0},"specularGlossinessTexture":{"index":1}}}}]}
        """;

    public static void Run()
    {
        using var folder = Folders.Temporary();
        using var decoder = new ImageDecoder(Bounds.Default);
        string At(string name) => Path.Combine(folder.Path, name);
        Paint(decoder, At("diffuse.png"), 3, (x, y, c) => 0.5f + (0.4f * MathF.Sin((x + (c * 90)) * 0.011f) * MathF.Cos(y * 0.017f)));
        Paint(decoder, At("gloss.png"), 4, (x, y, c) => 0.5f + (0.45f * MathF.Sin((x * 0.013f) + (y * 0.007f) + c)));
        File.WriteAllText(At("tin.gltf"), Scene);
        var context = new MusterContext(CurrentScene.Scope(At("tin.gltf"), []), new RootIndex([]), new FileFacts(decoder));
        var report = CurrentScene.Muster(At("tin.gltf"), context, Bounds.Default);
        var material = report.Scene.Materials[0];
        var crossed = Crossings.Of(material.Graph, "gltf-metallic-roughness", CrossingRoute.Metalness)!;
        var (baking, plain) = (new List<double>(), new List<double>());
        for (var n = 0; n < 4; n++)
        {
            var clock = Stopwatch.StartNew();
            var work = new LookBaking(report, new(decoder, 2_000_000_000, LookBaking.LargestSide), decoder, At("moment"), At($"baked{n}"));
            work.Bake(material, crossed, default);
            baking.Add(clock.Elapsed.TotalSeconds);
            clock.Restart();
            foreach (var image in new[] { "diffuse.png", "gloss.png" })
                decoder.Read(At(image), _ => { });
            var decoding = clock.Elapsed;
            plain.Add((decoding + work.Names.Select(m => Again(decoder, At($"baked{n}/{m}"))).Aggregate((a, b) => a + b)).TotalSeconds);
        }

        // The first run starts processes and compiles.
        var (own, other) = (baking.Skip(1).Min(), plain.Skip(1).Min());
        Console.WriteLine(
            $"two images of {Side} px become two by the published solve: {own:0.00} s; decoding and encoding the same {other:0.00} s: "
                + $"{other / own:0.00} of its speed (bar 0.5)"
        );
    }

    private static void Paint(ImageDecoder encoder, string path, int channels, Func<int, int, int, float> value)
    {
        using var file = File.Create(path);
        encoder.Write(file, new(channels, 8), Side, Side, (first, rows, values) =>
        {
            var span = values.Span;
            for (var i = 0; i < span.Length; i++)
                span[i] = value(i / channels % Side, first + (i / channels / Side), i % channels);
        });
    }

    /// <summary>What encoding an image's rows takes, once they are at hand.</summary>
    private static TimeSpan Again(ImageDecoder decoder, string path)
    {
        var kept = new List<float>();
        decoder.Read(path, rows => kept.AddRange(rows.Values));
        var values = kept.ToArray();
        var channels = values.Length / Side / Side;
        var clock = Stopwatch.StartNew();
        using var file = File.Create(path + ".again");
        decoder.Write(file, new(channels, 8), Side, Side, (first, _, into) =>
            values.AsSpan(first * Side * channels, into.Length).CopyTo(into.Span)
        );
        return clock.Elapsed;
    }
}
