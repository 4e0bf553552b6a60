using RootCall.Core.Crossing;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Scenes of other formats as GLBs: those of Debian's package assimp-testmodels, and the demo's. Judged by the Assimp library, which counts
/// both files, by the Khronos validator, and by SharpGLTF.
/// </summary>
public sealed class GlbOfOthersTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private static readonly string[] Made =
    [
        "tool_wall/tool_wall.obj",
        "moth_jar/moth_jar.dae",
        "garden_gate/garden_gate.fbx",
        "watering_can/watering_can.usda",
        "tin_lantern/tin_lantern.usdc",
    ];

    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    [Fact]
    public void Geometry_hierarchy_and_UV_sets_go_along()
    {
        var (written, apart) = (new List<string>(), new List<string>());
        foreach (var path in AssimpTests.All.Select(f => $"{AssimpTests.Models}/{f}").Concat(Made.Select(m => demo.At($"clean/{m}"))))
        {
            var scene = Look.Read(path);
            var glb = place.At($"{written.Count}/{Path.GetFileNameWithoutExtension(path)}.glb");
            Write(scene, glb);
            written.Add(glb);
            var read = Look.Read(glb);
            void Same<T>(string what, T theirs, T ours)
            {
                if (!EqualityComparer<T>.Default.Equals(theirs, ours))
                    apart.Add($"{path}: {what} {theirs} is {ours}");
            }

            Same("triangles", Placed(scene), Placed(read));
            // One node stands above all; the others keep their names and what they hold.
            Same("places", Join(Shown(scene).Select(n => n.Name)), Join(Shown(read).Select(n => n.Name)));
            Same("materials", Join(scene.Materials.Select(m => m.Name)), Join(read.Materials.Select(m => m.Name)));
            Same("UV sets", Join(Sets(scene)), Join(Sets(read)));
            // It reads no USD.
            if (!Path.GetExtension(path).StartsWith(".usd", StringComparison.Ordinal))
                Same("triangles that Assimp counts", Assimp(path), Assimp(glb));
            if (!read.References.Any(r => r.Kind == ReferenceKind.Image))
                Same("triangles that SharpGLTF counts", Triangles(read), Triangles(SharpGLTF.Schema2.ModelRoot.Load(glb)));
        }

        Assert.True(apart.Count == 0, string.Join("\n", apart));
        Assert.Equal(string.Empty, string.Join("\n", Errors(written)));
    }

    private static void Write(Scene scene, string glb)
    {
        using var source = Geometry(scene);
        var looks = scene
            .Materials.Select((m, place) => (Place: place, Crossed: Crossings.Of(m.Graph, CrossedGlb.Model)))
            .Where(m => m.Crossed is not null)
            .ToDictionary(m => m.Place, m => new GivenLook(m.Crossed!.Graph, new Dictionary<ReferenceKey, string>()));
        CrossedGlb.Write(scene, source, looks, glb, Bounds.Default, CancellationToken.None);
    }

    private static long Placed(Scene scene) => scene.Nodes.Where(n => n.Mesh >= 0).Sum(n => scene.Meshes[n.Mesh].Triangles);

    private static IEnumerable<SceneNode> Shown(Scene scene) =>
        scene.Nodes.Where(n => n.Mesh >= 0 && scene.Meshes[n.Mesh].Triangles > 0).OrderBy(n => n.Name, StringComparer.Ordinal);

    private static string Join(IEnumerable<string> words) => string.Join(", ", words);

    /// <summary>UV sets that hold anything.</summary>
    private static IEnumerable<string> Sets(Scene scene)
    {
        using var source = Geometry(scene);
        return
        [
            .. Shown(scene)
                .Select(n => (n.Name, Sets: source.Read(n.Mesh).Streams.Count(s => s.Use == GeometryUse.Uv)))
                .Select(n => $"{n.Name} {n.Sets}"),
        ];
    }

    private static IGeometrySource Geometry(Scene scene) =>
        SceneFormats.Of(scene.Path).Geometry(scene, new ReadContext(new RootScope([scene.Folder]), Bounds.Default), null);

    private static long Triangles(Scene scene) => scene.Meshes.Sum(m => m.Triangles);

    private static long Triangles(SharpGLTF.Schema2.ModelRoot model) =>
        model.LogicalMeshes.SelectMany(m => m.Primitives).Sum(p => p.IndexAccessor.Count / 3);

    private static long Assimp(string path) => AssimpTests.Placed(Tool.Run("assimp", ["info", path, "-tri"]).Output);

    /// <summary>Errors but those of images that are not there.</summary>
    private static List<string> Errors(IEnumerable<string> files)
    {
        const string Script = """
            const { readFileSync } = require('fs');
            (async () => {
              for (const file of process.argv.slice(1)) {
                const r = await require('gltf-validator').validateBytes(new Uint8Array(readFileSync(file)), {
                  maxIssues: 0, externalResourceFunction: () => Promise.reject('not there') });
                for (const m of r.issues.messages)
                  if (m.severity === 0 && m.code !== 'IO_ERROR') console.log(`${file} ${m.code} ${m.pointer} ${m.message}`);
              }
            })();
            """;
        var result = Tool.Run("node", ["-e", Script, .. files], Path.Combine(Tool.Home, "web"));
        Assert.True(result.Status == 0, result.Error);
        return [.. result.Output.Split('\n', StringSplitOptions.RemoveEmptyEntries).Where(l => l.Length > 0)];
    }
}
