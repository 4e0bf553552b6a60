using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Testing;

namespace RootCall.Core.Tests.SendOff;

/// <summary>Whatever the names are: a scene that is relinked or packed calls the very files it called before.</summary>
public sealed class RoundTripTests : IDisposable
{
    private const string Letters = "abcXYZ019 _-.#'%&+,;=@()[]{}~^$!éñß木кот";
    private readonly Place place = new();

    [Theory]
    [InlineData("gltf", 11)]
    [InlineData("obj", 12)]
    [InlineData("usda", 13)]
    [InlineData("mtlx", 14)]
    [InlineData("dae", 15)]
    public void Random_names_in_random_folders_survive_a_relink_and_a_package(string format, int seed)
    {
        var random = new Random(seed);
        var files = new Dictionary<string, byte>();
        for (byte i = 0; i < 60; i++)
        {
            var name = $"{Name(random, i)}/{Name(random, i)}.png";
            if (!files.TryAdd(name, i))
                continue;
            place.PutPng("lib/" + name, i);
        }

        // Half are called where they lie, half from a drive that is not here.
        var calls = files.Keys.Select((f, i) => i % 2 == 0 ? "../lib/" + f : "D:/jobs/" + f).ToList();
        var scene = format switch
        {
            "gltf" => Gltf(calls),
            "obj" => Obj(calls),
            "usda" => Usda(calls),
            "mtlx" => Mtlx(calls),
            _ => Dae(calls),
        };
        var report = Look.TakeClear(scene, place.At("lib"));
        var answers = report
            .References.Where(r => r.Reference.Kind == ReferenceKind.Image)
            .ToDictionary(r => Path.GetFileName(r.Reference.Written), r => r);
        Assert.Equal(files.Count, answers.Count);
        Assert.All(answers.Values, r => Assert.Equal(ReferenceState.Present, r.State));

        var copy = RelinkedCopy.Write(report, place.At("copy/deep/er"));
        Assert.Empty(copy.Left);
        var again = Look.Muster(copy.Written[0], place.At("lib"));
        Assert.Equal(
            answers.Values.Select(r => r.Resolved).Order(StringComparer.Ordinal),
            again.References.Where(r => r.Reference.Kind == ReferenceKind.Image).Select(r => r.Resolved).Order(StringComparer.Ordinal)
        );
        // From its new place nothing is left to change.
        Assert.Empty(
            new SceneWriter(
                again.Scene,
                place.At("copy/deep/er"),
                again.References.Where(r => r.Resolved is not null).ToDictionary(r => r.Reference.Key, r => r.Resolved!)
            ).Changes
        );

        var built = PackageBuilder.Build(PackagePlan.Make(report, new()), place.At("p.zip"), DateTimeOffset.Now);
        var proof = PackageProof.Prove(built.Written, Bounds.Default);
        Assert.True(proof.Holds, string.Join(", ", proof.Unresolved.Select(u => u.Reference.Written)));
        Assert.Equal(report.References.Length, proof.Resolved);
    }

    [Fact]
    public void An_empty_ledger_gives_back_every_byte_of_every_written_format()
    {
        var demo = new DemoPlace();
        foreach (var answer in demo.Answers())
        {
            foreach (var scene in new[] { answer.Arrived, answer.Clean })
            {
                var read = Look.Read(scene);
                var writer = new SceneWriter(read, place.Folder, new Dictionary<ReferenceKey, string>());
                for (var i = 0; i < read.Files.Length; i++)
                {
                    using var copy = new MemoryStream();
                    writer.Write(i, copy);
                    Assert.Equal(File.ReadAllBytes(read.Files[i].Path), copy.ToArray());
                }
            }
        }
    }

    [Fact]
    public void All_tiles_of_a_tiled_image_go_along()
    {
        foreach (var tile in new[] { 1001, 1002, 1011 })
            place.PutPng($"lib/wood.{tile}.png", (byte)tile);
        var scene = place.Put(
            "s/s.usda",
            "#usda 1.0\ndef Material \"m\" { token outputs:surface.connect = </m/s.outputs:surface> def Shader \"s\" { "
                + "uniform token info:id = \"ND_x\" asset inputs:file = @../lib/wood.<UDIM>.png@ } }"
        );
        var report = Look.Muster(scene, place.At("lib"));
        var built = PackageBuilder.Build(PackagePlan.Make(report, new()), place.At("p"), DateTimeOffset.Now);
        Assert.Equal(["s.usda", "textures/wood.1001.png", "textures/wood.1002.png", "textures/wood.1011.png"], place.Files("p/data"));
        Assert.Contains("@./textures/wood.<UDIM>.png@", File.ReadAllText(place.At("p/data/s.usda")), StringComparison.Ordinal);
        Assert.True(PackageProof.Prove(built.Written, Bounds.Default).Holds);
    }

    [Fact]
    public void A_package_of_a_package_is_the_same_payload()
    {
        place.PutPng("s/tex/a.png", 1);
        var scene = place.Put("s/s.gltf", Look.Gltf("tex/a.png"));
        var first = PackageBuilder.Build(PackagePlan.Make(Look.Muster(scene), new()), place.At("one"), DateTimeOffset.Now);
        var second = PackageBuilder.Build(
            PackagePlan.Make(Look.Muster(Path.Combine(first.Written, "data/s.gltf")), new()),
            place.At("two"),
            DateTimeOffset.Now
        );
        Assert.Equal(
            File.ReadAllText(Path.Combine(first.Written, "manifest-sha256.txt")),
            File.ReadAllText(Path.Combine(second.Written, "manifest-sha256.txt"))
        );
    }

    [Fact]
    public void A_library_from_elsewhere_is_packed_beside_the_scene_with_its_own_maps()
    {
        place.Put("lib/mtl/iron.mtl", "newmtl iron\nmap_Kd ../tex/iron.png\n");
        place.Put("s/iron.mtl.txt", "not it");
        place.PutPng("lib/tex/iron.png");
        var scene = place.Put("s/s.obj", "mtllib D:\\old\\iron.mtl\nusemtl iron\nv 0 0 0\n");
        var report = Look.TakeClear(scene, place.At("lib"));
        var built = PackageBuilder.Build(PackagePlan.Make(report, new()), place.At("p"), DateTimeOffset.Now);
        Assert.Equal(["iron.mtl", "s.obj", "textures/iron.png"], place.Files("p/data"));
        Assert.Equal("mtllib iron.mtl\nusemtl iron\nv 0 0 0\n", File.ReadAllText(place.At("p/data/s.obj")));
        Assert.Equal("newmtl iron\nmap_Kd textures/iron.png\n", File.ReadAllText(place.At("p/data/iron.mtl")));
        Assert.True(PackageProof.Prove(built.Written, Bounds.Default).Holds);
    }

    [Fact]
    public void What_is_no_package_is_not_proven()
    {
        Directory.CreateDirectory(place.At("empty"));
        Assert.Throws<CannotUseException>(() => PackageProof.Prove(place.At("empty"), Bounds.Default));
        Assert.Throws<CannotUseException>(() => PackageProof.Prove(place.Put("x.zip", "no zip"), Bounds.Default));
    }

    public void Dispose() => place.Dispose();

    private static string Name(Random random, int number)
    {
        var text = new StringBuilder();
        for (var n = random.Next(1, 9); n > 0; n--)
            text.Append(Letters[random.Next(Letters.Length)]);
        // A name is not empty, begins and ends with something that stays, and tells itself from the others.
        return $"n{text}{number}";
    }

    private string Gltf(IEnumerable<string> calls) => place.Put("s/s.gltf", Look.Gltf([.. calls.Select(Encoded)]));

    private string Usda(IEnumerable<string> calls) =>
        place.Put(
            "s/s.usda",
            "#usda 1.0\n"
                + string.Concat(
                    calls.Select(
                        (c, i) =>
                            $"def Material \"m{i}\" {{ token outputs:surface.connect = </m{i}/s.outputs:surface> def Shader "
                            + $"\"s\" {{ uniform token info:id = \"ND_x\" asset inputs:file = "
                            + $"{(c.Contains('@', StringComparison.Ordinal) ? $"@@@{c}@@@" : $"@{c}@")} }} }}\n"
                    )
                )
        );

    private string Mtlx(IEnumerable<string> calls) =>
        place.Put(
            "s/s.mtlx",
            "<materialx version=\"1.38\">"
                + string.Concat(
                    calls.Select(
                        (c, i) =>
                            $"<image name=\"i{i}\" type=\"color3\"><input name=\"file\" type=\"filename\" "
                            + $"value=\"{System.Security.SecurityElement.Escape(c)}\"/></image>\n"
                    )
                )
                + "</materialx>"
        );

    private string Dae(IEnumerable<string> calls) =>
        place.Put(
            "s/s.dae",
            "<COLLADA version=\"1.4.1\"><library_images>"
                + string.Concat(calls.Select((c, i) => $"<image id=\"i{i}\"><init_from>{Encoded(c)}</init_from></image>\n"))
                + "</library_images></COLLADA>"
        );

    private static string Encoded(string path) =>
        path.StartsWith("D:", StringComparison.Ordinal)
            ? "D:" + Encoded(path[2..])
            : string.Join('/', path.Split('/').Select(Uri.EscapeDataString));

    private string Obj(IEnumerable<string> calls)
    {
        place.Put("s/m.mtl", string.Concat(calls.Select((c, i) => $"newmtl m{i}\nmap_Kd {c}\n")));
        return place.Put("s/s.obj", "mtllib m.mtl\nv 0 0 0\n");
    }
}
