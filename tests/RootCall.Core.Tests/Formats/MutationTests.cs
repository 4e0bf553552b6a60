using System.Diagnostics;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Tests.Formats.Usd;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Thousands of broken variants with a fixed seed: bytes flipped, cut, doubled and dropped. A reader gives a scene or refuses
/// in one sentence; a scene it gives can be mustered, planned and written.
/// </summary>
public sealed class MutationTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private const int Variants = 400;

    // Far above what a whole sample takes, far below what an absurd count would.
    private const long MostMemory = 512L << 20;
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(5);
    private readonly Place place = new();

    [Theory]
    [InlineData("arrived/glasshouse_corner/glasshouse_corner.gltf", 1)]
    [InlineData("arrived/brass_lamp/brass_lamp.glb", 2)]
    [InlineData("arrived/enamel_sign/enamel_sign.mtl", 3)]
    [InlineData("arrived/enamel_sign/enamel_sign.obj", 4)]
    [InlineData("arrived/watering_can/watering_can.usda", 6)]
    [InlineData("arrived/watering_can/watering_can_looks.usda", 7)]
    [InlineData("arrived/tin_pear/tin_pear.usdz", 8)]
    [InlineData("crate", 9)]
    [InlineData("arrived/seed_drawer/seed_drawer.mtlx", 10)]
    [InlineData("arrived/moth_jar/moth_jar.dae", 11)]
    [InlineData("arrived/garden_gate/garden_gate.fbx", 12)]
    [InlineData("/usr/share/assimp/models/FBX/box.fbx", 13)]
    [InlineData("arrived/pebble/pebble.stl", 14)]
    [InlineData("arrived/dew_drop/dew_drop.ply", 15)]
    public void A_broken_scene_is_read_or_refused_and_never_crashes(string sample, int seed)
    {
        var random = new Random(seed);
        // Only the beginning of a large file is of interest: the rest is numbers.
        var whole = sample == "crate" ? CrateTests.Crate("./tin.png") : File.ReadAllBytes(demo.At(sample));
        // The text of a format comes before and behind its numbers: the middle goes.
        var isText = !sample.EndsWith("glb", StringComparison.Ordinal) && !sample.EndsWith("usdz", StringComparison.Ordinal);
        var bytes = whole.Length > 60_000 && isText ? (byte[])[.. whole[..30_000], .. whole[^30_000..]] : whole;
        var isLibrary = sample.EndsWith("mtl", StringComparison.Ordinal);
        var target = place.At("s/" + (sample == "crate" ? "crate.usdc" : Path.GetFileName(sample)));
        Directory.CreateDirectory(Path.GetDirectoryName(target)!);
        var scene = isLibrary ? place.Put("s/s.obj", "mtllib enamel_sign.mtl\nv 0 0 0\nf 1 1 1\n") : target;
        var read = 0;
        for (var n = 0; n < Variants; n++)
        {
            File.WriteAllBytes(target, Mutation.Of(bytes, random));
            var (allocated, clock) = (GC.GetAllocatedBytesForCurrentThread(), Stopwatch.StartNew());
            try
            {
                var report = Look.Muster(scene);
                PackagePlan.Make(report, new());
                RelocationMap.Of(report);
                Shapes(report.Scene);
                using var copy = new MemoryStream();
                if (SceneFormats.Of(scene).Capabilities.ReadOnlyBecause is null)
                    new SceneWriter(
                        report.Scene,
                        place.Folder,
                        report.References.ToDictionary(r => r.Reference.Key, _ => place.At("x.png"))
                    ).Write(report.Scene.Files.Length - 1, copy);
                var (memory, time) = (GC.GetAllocatedBytesForCurrentThread() - allocated, clock.Elapsed);
                Assert.True(memory < MostMemory, $"variant {n} took {memory:N0} bytes");
                Assert.True(time < Longest, $"variant {n} took {time.TotalSeconds:0.0} s");
                read++;
            }
            catch (CannotUseException e)
            {
                Assert.DoesNotContain('\n', e.Message);
            }
        }

        Assert.True(read > Variants / 10, $"only {read} of {Variants} variants were read");
    }

    [Fact]
    public void A_relink_in_a_broken_scene_still_changes_only_its_own_bytes()
    {
        var random = new Random(5);
        var bytes = Encoding.UTF8.GetBytes(Look.Gltf("old.png", "other.png"));
        for (var n = 0; n < Variants; n++)
        {
            var path = place.Put("s.gltf", Mutation.Of(bytes, random));
            try
            {
                if (Look.Read(path).References.FirstOrDefault(r => r.Written == "old.png") is not { Sites.Length: 1 })
                    continue;
            }
            catch (CannotUseException)
            {
                continue;
            }

            var before = File.ReadAllBytes(path);
            var (gone, came) = ByteDiff.Middle(before, GltfSurgeryTests.Rewrite(path, new() { ["old.png"] = "NEW.jpg" }));
            Assert.Equal(("old.pn", "NEW.jp"), (gone, came));
        }
    }

    /// <summary>The geometry of every mesh: given with all its corners in place, or refused.</summary>
    private static void Shapes(Scene scene)
    {
        var scope = CurrentScene.Scope(scene.Path, []);
        if (scene.Meshes.IsEmpty || scene.Format.Id == "mtlx")
            return;
        using var source = SceneFormats.Of(scene.Path).Geometry(scene, new(scope, Bounds.Default), decoder: null);
        for (var mesh = 0; mesh < Math.Min(scene.Meshes.Length, 8); mesh++)
        {
            try
            {
                var geometry = source.Read(mesh);
                foreach (var corner in geometry.Triangles())
                    Assert.InRange(geometry.Corners.Span[corner], 0, geometry.PointCount - 1);
            }
            catch (CannotUseException e)
            {
                Assert.DoesNotContain('\n', e.Message);
            }
        }
    }

    public void Dispose() => place.Dispose();
}
