using System.Text.Json;
using RootCall.Core.Audit;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Demo.Examples;
using RootCall.Testing;
using Scene = RootCall.Core.Scenes.Scene;

namespace RootCall.Core.Tests.Law;

/// <summary>
/// What edits write, judged by others: glTF by the Khronos validator and SharpGLTF, USD by tinyusdz, MaterialX by the MaterialX
/// library itself (1.39.4, as WebAssembly). Each judges a few hundred written scenes in one run.
/// </summary>
public sealed class JudgedByOthersTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void GlTF_has_no_error_that_it_did_not_have_before()
    {
        var pairs = Pairs(
                [
                    .. Demo(".gltf", ".glb"),
                    .. OwnScenes.All(place).Where(s => s.EndsWith(".gltf", StringComparison.Ordinal)),
                    .. Examples("gltf"),
                ],
                10
            )
            .ToList();
        const string Script = """
            const { readFileSync, existsSync } = require('fs');
            const { dirname, join } = require('path');
            const validator = require('gltf-validator');
            const files = readFileSync(process.argv[1], 'utf8').split('\n');
            (async () => {
              for (const file of files) {
                const report = await validator.validateBytes(new Uint8Array(readFileSync(file)), {
                  uri: file, maxIssues: 0,
                  externalResourceFunction: (uri) => new Promise((done, fail) => {
                    const path = join(dirname(file), decodeURIComponent(uri));
                    existsSync(path) ? done(new Uint8Array(readFileSync(path))) : fail('not there');
                  }),
                });
                // A file that is not there is the muster's matter; a mesh without tangents or UVs, the audit's.
                const others = ['IO_ERROR', 'MESH_PRIMITIVE_NO_TANGENT_SPACE', 'MESH_PRIMITIVE_TOO_FEW_TEXCOORDS'];
                const faults = report.issues.messages.filter((m) => m.severity === 0 && !others.includes(m.code));
                console.log(JSON.stringify([...new Set(faults.map((m) => m.code))]));
              }
            })();
            """;
        foreach (var (pair, before, after) in Judged(pairs, Script))
            Assert.True(
                !after.Except(before).Any(),
                $"{pair.Told}: {string.Join(", ", after.Except(before))}\n{string.Concat(File.ReadAllText(pair.Written).Take(4000))}"
            );
        // Images that edits only name are not on the disk, and this library opens every one.
        var whole = pairs.Where(p =>
            p.Written.EndsWith(".glb", StringComparison.Ordinal)
            && !p.Told.Contains("/new & ", StringComparison.Ordinal)
            && !p.Told.Contains("/taken_", StringComparison.Ordinal)
        );
        foreach (var pair in whole.Take(20))
            Assert.Equal(
                pair.Now.Materials.Length,
                SharpGLTF
                    .Schema2.ModelRoot.Load(
                        pair.Written,
                        new SharpGLTF.Schema2.ReadSettings { Validation = SharpGLTF.Validation.ValidationMode.Skip }
                    )
                    .LogicalMaterials.Count
            );
        Assert.True(pairs.Count > 150, $"only {pairs.Count} were written");
    }

    [Fact]
    public void USD_is_read_by_tinyusdz()
    {
        var pairs = Pairs([.. Examples("usda")], 12).ToList();
        const string Script = """
            for (const file of readFileSync(args[0], 'utf8').split('\n')) {
              const loader = new usd.TinyUSDZLoaderNative();
              const read = loader.loadFromBinary(new Uint8Array(readFileSync(file)), file);
              said(JSON.stringify(read ? [] : [loader.error().split('\n')[0].slice(0, 200)]));
              loader.delete();
            }
            """;
        foreach (var (pair, before, after) in Judged(pairs, TinyUsdz.Script(Script)))
            Assert.True(before.Count > 0 || after.Count == 0, $"{pair.Told}: {string.Join(", ", after)}\n{File.ReadAllText(pair.Written)}");
        Assert.True(pairs.Count > 60, $"only {pairs.Count} were written");
    }

    [Fact]
    public void MaterialX_is_valid_by_its_own_library()
    {
        var pairs = Pairs(
                [.. Demo(".mtlx"), .. OwnScenes.All(place).Where(s => s.EndsWith(".mtlx", StringComparison.Ordinal)), .. Examples("mtlx")],
                12
            )
            .ToList();
        const string Script = """
            for (const file of readFileSync(args[0], 'utf8').split('\n')) {
              const message = {};
              let faults = [];
              try {
                const document = mx.createDocument();
                document.setDataLibrary(library);
                await mx.readFromXmlString(document, readFileSync(file, 'utf8').replace(/<xi:include[^>]*>/g, ''));
                if (!document.validate(message))
                  faults = (message.message ?? 'invalid').split('\n').map((l) => l.split(':')[0].trim()).filter((l) => l);
              } catch (e) { faults = ['unread ' + String(e).slice(0, 120)]; }
              console.log(JSON.stringify([...new Set(faults)]));
            }
            """;
        foreach (var (pair, before, after) in Judged(pairs, MaterialXReference.Script(Script)))
            Assert.True(
                !after.Except(before).Any(),
                $"{pair.Told}: {string.Join(", ", after.Except(before))}\n{File.ReadAllText(pair.Written)}"
            );
        Assert.True(pairs.Count > 60, $"only {pairs.Count} were written");
    }

    private sealed record Pair(string Told, string Arrived, string Written, Scene Now);

    /// <summary>Copies: what is written lies beside its scene, and nobody writes into the demo.</summary>
    private IEnumerable<string> Demo(params string[] endings) =>
        demo.Answers()
            .Where(a => endings.Contains(Path.GetExtension(a.Clean)))
            .Select(a =>
            {
                var folder = Path.GetDirectoryName(a.Clean)!;
                foreach (var file in Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories))
                    place.Put($"clean/{a.Name}/{Path.GetRelativePath(folder, file)}", File.ReadAllBytes(file));
                return place.At($"clean/{a.Name}/{Path.GetFileName(a.Clean)}");
            });

    private IEnumerable<string> Examples(string format) =>
        RuleCatalog
            .All.Where(r =>
                r.Descriptor.Example.Format == format && !r.Descriptor.Example.Text.Contains("<UDIM>", StringComparison.Ordinal)
            )
            .Select(r => ExampleScene.Write(place.At($"examples/{r.Id}"), r.Descriptor.Example));

    /// <summary>Scenes before and after a few edits, the written one beside the arrived one.</summary>
    private IEnumerable<Pair> Pairs(IReadOnlyList<string> scenes, int each)
    {
        var picture = place.PutPng("picture.png", 9);
        foreach (var (source, at) in scenes.Select((s, i) => (s, i)))
        {
            var reading = new ReadContext(new([Path.GetDirectoryName(source)!]), Bounds.Default);
            var arrived = SceneFormats.Read(source, reading);
            for (var n = 0; n < each; n++)
            {
                var random = new Random((at * 1000) + n);
                var maker = new EditMaker(random, picture);
                var scene = EditedScene.Of(arrived, reading, () =>
                    Directory.CreateDirectory(place.At($"work/{Guid.NewGuid():N}")).FullName
                );
                for (var e = 0; e < 3; e++)
                    if (maker.Next(scene.Current) is { } edit && Sayable(edit))
                        scene = scene.And(TestSession.Entry(edit));
                var copies = scene.Write(Directory.CreateDirectory(place.At($"work/{Guid.NewGuid():N}")).FullName);
                if (!copies.TryGetValue(source, out var copy))
                    continue;
                var beside = Path.Combine(Path.GetDirectoryName(source)!, $"written_{n}{Path.GetExtension(source)}");
                File.Copy(copy, beside, overwrite: true);
                yield return new(
                    $"{Path.GetFileName(source)} {n}: "
                        + $"{string.Join("; ", scene.Entries.SelectMany(x => x.Edits).Select(x => x.Describe()))}",
                    source,
                    beside,
                    scene.Current
                );
            }
        }
    }

    /// <summary>Numbers beyond what a model allows are the artist's to give; a validator counts them as errors of the scene.</summary>
    private static bool Sayable(Edit edit) =>
        edit is not SetValue { To: not null } value
        || (
            value.To!.Numbers.All(n => n is >= 0 and <= 1)
            && value.Input is not ("ior" or "iridescenceIor" or "attenuationDistance" or "alphaMode")
        );

    private List<(Pair Pair, HashSet<string> Before, HashSet<string> After)> Judged(List<Pair> pairs, string script)
    {
        var list = place.Put("files.txt", string.Join('\n', pairs.SelectMany(p => new[] { p.Arrived, p.Written })));
        var result = Tool.Run("node", ["-e", script, list], Path.Combine(Tool.Home, "web"));
        Assert.True(result.Status == 0, result.Error);
        var said = result
            .Output.Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => JsonSerializer.Deserialize<HashSet<string>>(l)!)
            .ToList();
        Assert.Equal(2 * pairs.Count, said.Count);
        return [.. pairs.Select((p, i) => (p, said[2 * i], said[(2 * i) + 1]))];
    }

    public void Dispose() => place.Dispose();
}
