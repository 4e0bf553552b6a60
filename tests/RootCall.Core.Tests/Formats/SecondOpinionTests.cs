using System.Text.Json;
using RootCall.Core.SendOff;
using RootCall.Testing;
using SharpGLTF.Schema2;

namespace RootCall.Core.Tests.Formats;

/// <summary>What Root Call writes, judged by others: the Khronos glTF validator and SharpGLTF.</summary>
public sealed class SecondOpinionTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    [Theory]
    [InlineData("glasshouse_corner/glasshouse_corner.gltf")]
    [InlineData("brass_lamp/brass_lamp.glb")]
    public void A_relinked_scene_has_no_error_that_it_did_not_have_before(string scene)
    {
        var arrived = demo.At("arrived/" + scene);
        var result = RelinkedCopy.Write(Look.TakeClear(arrived, demo.Library), place.At("out"));
        var before = Errors(arrived);
        var after = Errors(result.Written[0]);
        Assert.NotEmpty(result.Changed);
        Assert.Empty(after.Except(before));
        // The clean twins were made to be free of errors, which shows that the validator really looked.
        Assert.Empty(Errors(demo.At("clean/" + scene)));
        Assert.NotEmpty(before);
    }

    [Theory]
    [InlineData("glasshouse_corner/glasshouse_corner.gltf")]
    [InlineData("brass_lamp/brass_lamp.glb")]
    public void SharpGLTF_opens_a_package_and_counts_the_same(string scene)
    {
        var arrived = demo.At((scene.StartsWith("brass", StringComparison.Ordinal) ? "arrived/" : "clean/") + scene);
        var report = Look.TakeClear(arrived, demo.Library);
        var built = PackageBuilder.Build(PackagePlan.Make(report, new()), place.At("package"), DateTimeOffset.Now);
        var model = ModelRoot.Load(Path.Combine(built.Written, "data", Path.GetFileName(scene)));
        var counts = report.Scene.Counts;
        Assert.Equal(
            (counts.Nodes, counts.Meshes, counts.Materials, counts.Images),
            (model.LogicalNodes.Count, model.LogicalMeshes.Count, model.LogicalMaterials.Count, model.LogicalImages.Count)
        );
        Assert.Equal(counts.Triangles, model.LogicalMeshes.SelectMany(m => m.Primitives).Sum(p => p.GetTriangleIndices().Count()));
        Assert.All(model.LogicalImages, i => Assert.False(i.Content.IsEmpty));
    }

    public void Dispose() => place.Dispose();

    /// <summary>Code and pointer of each error, from the npm package gltf-validator.</summary>
    private static HashSet<string> Errors(string path)
    {
        const string Script = """
            const { readFileSync, existsSync } = require('fs');
            const { dirname, join } = require('path');
            const [file] = process.argv.slice(1);
            require('gltf-validator').validateBytes(new Uint8Array(readFileSync(file)), {
              uri: file,
              maxIssues: 0,
              externalResourceFunction: (uri) => new Promise((done, fail) => {
                const path = join(dirname(file), decodeURIComponent(uri));
                existsSync(path) ? done(new Uint8Array(readFileSync(path))) : fail('not there: ' + uri);
              }),
            }).then((r) => console.log(JSON.stringify(r.issues.messages.filter((m) => m.severity === 0))));
            """;
        var result = Tool.Run("node", ["-e", Script, path], Path.Combine(Tool.Home, "web"));
        Assert.True(result.Status == 0, result.Error);
        using var messages = JsonDocument.Parse(result.Output);
        return [.. messages.RootElement.EnumerateArray().Select(m => $"{m.GetProperty("code")} {m.GetProperty("pointer")}")];
    }
}
