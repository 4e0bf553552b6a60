using System.Text.Json;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Testing;

namespace RootCall.Core.Tests.SendOff;

/// <summary>Packages beside RFC 8493 and the tools that people check them with.</summary>
public sealed class PackageTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    [Theory]
    [InlineData("brass_lamp/brass_lamp.glb")]
    [InlineData("enamel_sign/enamel_sign.obj")]
    public void A_zip_passes_unzip_and_its_bag_passes_sha256sum(string scene)
    {
        var built = Build(demo.At("arrived/" + scene), "p.zip", demo.Library);
        var tested = Tool.Run("unzip", ["-tq", built.Written]);
        Assert.True(tested.Status == 0, tested.Output);
        Tool.Run("unzip", ["-q", built.Written, "-d", place.At("alone")]);
        foreach (var manifest in new[] { "manifest-sha256.txt", "tagmanifest-sha256.txt" })
        {
            var summed = Tool.Run("sha256sum", ["-c", "--strict", manifest], place.At("alone/p"));
            Assert.True(summed.Status == 0, summed.Output + summed.Error);
        }

        // RFC 8493, 2.1: every payload file stands in the manifest, and nothing else.
        var listed = File.ReadLines(place.At("alone/p/manifest-sha256.txt")).Select(l => l[66..]).Order(StringComparer.Ordinal);
        Assert.Equal(place.Files("alone/p").Where(f => f.StartsWith("data/", StringComparison.Ordinal)), listed);
        Assert.Equal("BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n", File.ReadAllText(place.At("alone/p/bagit.txt")));
        Assert.Contains(
            $"Payload-Oxum: {built.BytesAfter}.{built.Files}",
            File.ReadAllText(place.At("alone/p/bag-info.txt")),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_package_stands_alone_and_is_proven()
    {
        var built = Build(demo.At("arrived/brass_lamp/brass_lamp.glb"), "p", demo.Library);
        var proof = PackageProof.Prove(built.Written, Bounds.Default);
        Assert.True(proof.Holds);
        Assert.Equal(6, proof.Resolved);
        // Moved elsewhere with nothing around it, it still answers.
        Directory.CreateDirectory(place.At("far/away"));
        Directory.Move(built.Written, place.At("far/away/p"));
        Assert.All(Look.Muster(place.At("far/away/p/data/brass_lamp.glb")).References, r => Assert.True(r.State.Answers()));
    }

    [Fact]
    public void The_proof_fails_when_a_file_is_lost_or_changed()
    {
        var built = Build(demo.At("arrived/brass_lamp/brass_lamp.glb"), "p", demo.Library);
        var file = Directory.GetFiles(Path.Combine(built.Written, "data/textures"))[0];
        File.AppendAllText(file, "x");
        Assert.Equal(
            "data/textures/" + Path.GetFileName(file),
            Assert.Single(PackageProof.Prove(built.Written, Bounds.Default).BrokenFiles)
        );
        File.Delete(file);
        var proof = PackageProof.Prove(built.Written, Bounds.Default);
        Assert.Single(proof.Unresolved);
        Assert.False(proof.Holds);
    }

    [Fact]
    public void What_is_missing_is_named_in_the_report_and_left_as_written()
    {
        var arrived = demo.At("arrived/glasshouse_corner/glasshouse_corner.gltf");
        var built = Build(arrived, "p", demo.Library);
        using var report = JsonDocument.Parse(File.ReadAllBytes(Path.Combine(built.Written, "report.json")));
        var unresolved = report
            .RootElement.GetProperty("unresolved")
            .EnumerateArray()
            .Select(u => u.GetProperty("written").GetString())
            .ToList();
        Assert.Equal(6, unresolved.Count);
        Assert.Contains("E:/scans/glaze/glaze_normal.png", unresolved);
        Assert.Equal(6, PackageProof.Prove(built.Written, Bounds.Default).Unresolved.Length);
        Assert.Contains(
            "E:/scans/glaze/glaze_normal.png",
            File.ReadAllText(Path.Combine(built.Written, "data/glasshouse_corner.gltf")),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_scene_that_needs_no_other_paths_is_packed_unchanged()
    {
        var clean = demo.At("clean/glasshouse_corner/glasshouse_corner.gltf");
        var built = Build(clean, "p");
        foreach (var name in place.Files("p/data"))
            Assert.Equal(
                File.ReadAllBytes(Path.Combine(Path.GetDirectoryName(clean)!, name)),
                File.ReadAllBytes(Path.Combine(built.Written, "data", name))
            );
        Assert.Equal(built.BytesBefore, built.BytesAfter);
    }

    [Fact]
    public void Clashes_are_settled_by_contents_first_then_by_a_readable_suffix()
    {
        place.PutPng("lib/a/rib.png", 1);
        place.PutPng("lib/b/rib.png", 1);
        place.PutPng("lib/c/RIB.png", 2);
        place.PutPng("lib/d/what?.png", 3);
        var scene = place.Put("s/s.gltf", Look.Gltf("../lib/a/rib.png", "../lib/b/rib.png", "../lib/c/RIB.png", "../lib/d/what%3F.png"));
        var plan = PackagePlan.Make(Look.Muster(scene, place.At("lib")), new());
        Assert.Equal(["textures/rib.png", "textures/RIB-b.png", "textures/what_.png"], plan.Files.Select(f => f.Name));
        Assert.Equal([true, false], plan.Clashes.Select(c => c.SameContents));
        Assert.Equal([1, 2], plan.Files[0].References.ToArray());
        var built = PackageBuilder.Build(plan, place.At("p"), DateTimeOffset.Now);
        Assert.True(PackageProof.Prove(built.Written, Bounds.Default).Holds);
        Assert.True(built.BytesAfter < built.BytesBefore + 200);
    }

    [Fact]
    public void Nothing_that_exists_is_written_over()
    {
        place.Put("p/mine.txt", "mine");
        place.Put("q.zip", "mine");
        var clean = demo.At("clean/brass_lamp/brass_lamp.glb");
        Assert.Contains("already there", Assert.Throws<CannotUseException>(() => Build(clean, "p")).Message, StringComparison.Ordinal);
        Assert.Throws<CannotUseException>(() => Build(clean, "q.zip"));
        Assert.Equal("mine", File.ReadAllText(place.At("q.zip")));
        Directory.CreateDirectory(place.At("empty"));
        Assert.True(File.Exists(Path.Combine(Build(clean, "empty").Written, "bagit.txt")));
    }

    [Theory]
    [InlineData("p")]
    [InlineData("p.zip")]
    public void A_cancel_in_the_middle_leaves_nothing_half_written(string output)
    {
        var plan = PackagePlan.Make(Look.Muster(demo.At("clean/glasshouse_corner/glasshouse_corner.gltf")), new());
        using var stop = new CancellationTokenSource();
        Assert.Throws<OperationCanceledException>(() =>
            PackageBuilder.Build(
                plan,
                place.At(output),
                DateTimeOffset.Now,
                (done, _, _) =>
                {
                    if (done > 500_000)
                        stop.Cancel();
                },
                stop.Token
            )
        );
        Assert.Empty(Directory.EnumerateFileSystemEntries(place.Folder));
    }

    [Fact]
    public void A_relinked_copy_resolves_from_where_it_lies_and_copies_no_image()
    {
        var arrived = demo.At("arrived/enamel_sign/enamel_sign.obj");
        var result = RelinkedCopy.Write(Look.TakeClear(arrived, demo.Library), place.At("out/deep"));
        Assert.Equal(["enamel_sign.mtl", "enamel_sign.obj", "hanging_chain.mtl"], place.Files("out/deep"));
        Assert.Equal(ReferenceState.Contested, Assert.Single(result.Left).State);
        var again = Look.Muster(result.Written[0], demo.Library, Path.GetDirectoryName(arrived)!);
        Assert.Equal(again.References.Length - 1, again.Answering);
        Assert.Throws<CannotUseException>(() => RelinkedCopy.Write(Look.TakeClear(arrived, demo.Library), Path.GetDirectoryName(arrived)!));
    }

    public void Dispose() => place.Dispose();

    private BuiltPackage Build(string scene, string output, params string[] roots) =>
        PackageBuilder.Build(PackagePlan.Make(Look.TakeClear(scene, roots), new()), place.At(output), DateTimeOffset.Now);
}
