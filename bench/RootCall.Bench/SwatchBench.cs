using System.Diagnostics;
using System.Globalization;
using System.Numerics;
using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Sessions;
using RootCall.Core.Viewing;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Bench;

/// <summary>Swatches: one beside its graph alone, a sheet of 200 different materials, and how often an image is decoded for it.</summary>
internal static class SwatchBench
{
    private const int Materials = 200,
        Sets = 20,
        Side = 1024,
        Large = 256,
        Small = 96;

    public static void Run(Place place)
    {
        var scene = Write(place);
        using var decoder = new ImageDecoder(Bounds.Default);
        var scope = CurrentScene.Scope(scene, []);
        var edited = EditedScene.Open(scene, new ReadContext(scope, Bounds.Default), () => place.At("edited"));
        var report = Session.Of(edited, new MusterContext(scope, RootIndex.Build(scope), new(decoder))).Report;
        var cache = new TextureCache(decoder, 1L << 30, 512);
        Swatch Made(int material, int side, int threads) =>
            Swatch.Of(
                SwatchOrder.Of(report.Scene.Materials[material], report, SwatchLight.Studio, side),
                cache,
                place.At("moment"),
                Swatch.Samples,
                threads,
                Timeout.InfiniteTimeSpan,
                default
            )!;

        var clock = Stopwatch.StartNew();
        Parallel.For(0, Materials, new() { MaxDegreeOfParallelism = Environment.ProcessorCount }, m => Made(m, Small, 1));
        var memory = Process.GetCurrentProcess().PeakWorkingSet64 / 1_000_000;
        Console.WriteLine(
            $"a sheet of {Materials} materials with five images, {Small} px: {clock.Elapsed.TotalSeconds:0.0} s (bar 25 s on two cores); "
                + $"{cache.Decoded} images of {Side} x {Side} decoded, {Sets * 5} there are; at most {memory} MB"
        );

        Made(0, Large, Environment.ProcessorCount);
        var order = SwatchOrder.Of(report.Scene.Materials[0], report, SwatchLight.Studio, Large);
        var program = MaterialProgram.Of(order.Graph, new OrderedTextures(order.Images, cache, place.At("moment"), default))!;
        var points = Large * Large * Swatch.Samples * 3 / 4;
        Measure.Compare(
            $"a swatch of {Large} px, preview quality, images in memory",
            () => Made(0, Large, Environment.ProcessorCount),
            $"its graph and model alone at {points:N0} points",
            () => Parallel.For(0, points, new() { MaxDegreeOfParallelism = Environment.ProcessorCount }, i =>
                {
                    var uv = new Vector2(i % Large, i / Large % Large) / Large;
                    program.At(new(new(uv, 0), Vector3.UnitZ, Vector3.UnitX, Vector3.UnitY, uv, 1f / Large, Vector3.UnitZ), false);
                })
        );
    }

    /// <summary>Materials of their own factors over shared sets of base colour, roughness, normal, occlusion and emission.</summary>
    private static string Write(Place place)
    {
        string[] maps = ["basecolor", "metallicroughness", "normal", "occlusion", "emission"];
        for (var s = 0; s < Sets; s++)
            foreach (var map in maps)
                place.Put($"sheet/tin_{s:00}_{map}.png", Pictures.Png(Side, Side, (byte)(40 + (s * 10))));
        var text = new StringBuilder("{\"asset\":{\"version\":\"2.0\"},\"images\":[");
        text.AppendJoin(',', Enumerable.Range(0, Sets).SelectMany(s => maps.Select(m => $"{{\"uri\":\"tin_{s:00}_{m}.png\"}}")));
        text.Append("],\"textures\":[").AppendJoin(',', Enumerable.Range(0, Sets * maps.Length).Select(i => $"{{\"source\":{i}}}"));
        text.Append("],\"materials\":[")
            .AppendJoin(
                ',',
                Enumerable
                    .Range(0, Materials)
                    .Select(m =>
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $$$"""
                            {"name":"tin_{{{m}}}","pbrMetallicRoughness":{"baseColorFactor":[{{{m
                                / 200.0}}},0.5,0.5,1],"metallicFactor":{{{m % 10 / 9.0}}},
                            "baseColorTexture":{"index":{{{m % Sets * 5}}} },"metallicRoughnessTexture":{"index":{{{(m % Sets * 5)
                                + 1}}} } },
                            "normalTexture":{"index":{{{(m % Sets * 5) + 2}}} },"occlusionTexture":{"index":{{{(m % Sets * 5) + 3}}} },
                            "emissiveTexture":{"index":{{{(m % Sets * 5) + 4}}} },"emissiveFactor":[0.01,0.01,0.01]}
                            """
                        )
                    )
            );
        return place.Put("sheet/sheet.gltf", text.Append("]}").ToString());
    }
}
