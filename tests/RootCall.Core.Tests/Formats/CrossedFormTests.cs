using RootCall.Core.Crossing;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Scenes of other formats as GLBs and as layers of USD: those of Debian's package assimp-testmodels, and the demo's. Judged by the Assimp
/// library, which counts both files, by the Khronos validator, by SharpGLTF, and by tinyusdz.
/// </summary>
public sealed class CrossedFormTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
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
    public void Geometry_hierarchy_and_UV_sets_go_along_into_a_GLB()
    {
        var (written, apart) = (new List<string>(), new List<string>());
        foreach (var path in AssimpTests.All.Select(f => $"{AssimpTests.Models}/{f}").Concat(Made.Select(m => demo.At($"clean/{m}"))))
        {
            var scene = Look.Read(path);
            var glb = place.At($"{written.Count}/{Path.GetFileNameWithoutExtension(path)}.glb");
            Write(scene, CrossedForm.Glb, CrossedForm.Glb.Models[0], glb);
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

    [Fact]
    public void Geometry_hierarchy_instances_cameras_and_looks_go_along_into_USD()
    {
        string[] made = ["brass_lamp/brass_lamp.glb", "glasshouse_corner/glasshouse_corner.gltf", .. Made[..3]];
        var (written, apart) = (new List<string>(), new List<string>());
        foreach (var path in AssimpTests.All.Select(f => $"{AssimpTests.Models}/{f}").Concat(made.Select(m => demo.At($"clean/{m}"))))
        {
            var scene = Look.Read(path);
            var usda = place.At($"{written.Count}/{Path.GetFileNameWithoutExtension(path)}.usda");
            // Each of them is somebody's turn.
            var model = CrossedForm.Usda.Models[written.Count % CrossedForm.Usda.Models.Length];
            Write(scene, CrossedForm.Usda, model, usda);
            written.Add(usda);
            var read = Look.Read(usda);
            void Same<T>(string what, T theirs, T ours)
            {
                if (!EqualityComparer<T>.Default.Equals(theirs, ours))
                    apart.Add($"{path}: {what} {theirs} is {ours}");
            }

            Same("triangles", Placed(scene), Placed(read));
            Same("places", scene.Nodes.Count(n => n.Mesh >= 0), read.Nodes.Count(n => n.Mesh >= 0));
            Same("materials", scene.Materials.Length, read.Materials.Length);
            Same("cameras", Join(scene.Cameras.Select(Seen)), Join(read.Cameras.Select(Seen)));
            Same("unit", scene.MetresPerUnit ?? 1, read.MetresPerUnit);
            Same("notes", string.Empty, Join(read.Notes.Select(n => n.Message)));
            Same("worn", Join(Worn(scene).Order(StringComparer.Ordinal)), Join(Worn(read).Order(StringComparer.Ordinal)));
            Same("corners", Summed(scene), Summed(read));
            Same("looks", scene.Materials.Count(m => Crossings.Of(m.Graph, model) is not null), read.Materials.Count(m => IsOf(m, model)));
        }

        Assert.True(apart.Count == 0, string.Join("\n", apart));
        const string Script = """
            for (const file of readFileSync(args[0], 'utf8').split('\n')) {
              const loader = new usd.TinyUSDZLoaderNative();
              const read = loader.loadFromBinary(new Uint8Array(readFileSync(file)), file);
              // It takes no alpha of a texture, which UsdUVTexture has (UsdPreviewSurface 2.6).
              if (!read && !loader.error().includes("connection Path's property part must be")) said(`${file} ${loader.error()}`);
              loader.delete();
            }
            """;
        var judged = Tool.Run(
            "node",
            ["-e", TinyUsdz.Script(Script), place.Put("list.txt", string.Join('\n', written))],
            Path.Combine(Tool.Home, "web")
        );
        Assert.True(judged is { Status: 0, Output.Length: 0 }, judged.Output + judged.Error);
    }

    private static string Seen(SceneCamera camera) => FormattableString.Invariant($"{camera.Half:0.####} {camera.IsParallel}");

    private static string Plain(string name) => string.Concat(name.Select(c => char.IsAsciiLetterOrDigit(c) ? c : '_'));

    /// <summary>What each place wears, part by part.</summary>
    private static IEnumerable<string> Worn(Scene scene) =>
        Shown(scene)
            .SelectMany(n => scene.Meshes[n.Mesh].Parts)
            .Where(p => p.Triangles > 0)
            .Select(p => $"{Plain(p.Material)} {p.Triangles}");

    private static bool IsOf(Material material, string model) =>
        material.Graph.SurfaceNode is { } surface && ShadingModels.OfType(surface.Type)?.Id == model;

    /// <summary>Places, normals and coordinates of all corners, added up; V grows upwards.</summary>
    private static string Summed(Scene scene)
    {
        using var source = Geometry(scene);
        var sums = new double[3];
        foreach (var node in Shown(scene))
        {
            var mesh = source.Read(node.Mesh);
            for (var c = 0; c < mesh.Corners.Length; c++)
            {
                foreach (var x in mesh.Points.Span.Slice(mesh.Corners.Span[c] * 3, 3))
                    sums[0] += Math.Abs(x);
                foreach (var x in mesh.Stream(GeometryUse.Normal) is { } normals ? normals.At(mesh, c) : [])
                    sums[1] += Math.Abs(x);
                if (mesh.Stream(GeometryUse.Uv) is { } uvs && uvs.At(mesh, c) is { Length: > 1 } uv)
                    sums[2] += uv[0] + (2 * (scene.Format.Id is "gltf" or "glb" ? 1 - uv[1] : uv[1]));
            }
        }

        return string.Join(' ', sums.Select(s => s.ToString("G4", System.Globalization.CultureInfo.InvariantCulture)));
    }

    private static void Write(Scene scene, CrossedForm form, string model, string file)
    {
        using var source = Geometry(scene);
        var looks = scene
            .Materials.Select((m, place) => (Place: place, Crossed: Crossings.Of(m.Graph, model)))
            .Where(m => m.Crossed is not null)
            .ToDictionary(m => m.Place, m => new GivenLook(m.Crossed!.Graph, new Dictionary<ReferenceKey, string>()));
        form.Write(scene, source, looks, file, Bounds.Default, CancellationToken.None);
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

    internal static IGeometrySource Geometry(Scene scene) =>
        SceneFormats.Of(scene.Path).Geometry(scene, new ReadContext(new RootScope([scene.Folder]), Bounds.Default), null);

    private static long Triangles(Scene scene) => scene.Meshes.Sum(m => m.Triangles);

    internal static long Triangles(SharpGLTF.Schema2.ModelRoot model) =>
        model.LogicalMeshes.SelectMany(m => m.Primitives).Sum(p => p.IndexAccessor.Count / 3);

    private static long Assimp(string path) => AssimpTests.Placed(Tool.Run("assimp", ["info", path, "-tri"]).Output);

    /// <summary>Errors but those of images that are not there.</summary>
    internal static List<string> Errors(IEnumerable<string> files)
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
