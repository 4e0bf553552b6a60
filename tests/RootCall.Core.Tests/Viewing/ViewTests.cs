using System.Collections.Immutable;
using System.Globalization;
using System.Numerics;
using System.Runtime.InteropServices;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Tests.Formats;
using RootCall.Core.Viewing;
using RootCall.Testing;

namespace RootCall.Core.Tests.Viewing;

/// <summary>
/// Scenes in space: files of geometry judged by the Khronos validator and by SharpGLTF, and held against what frames are drawn of; and
/// moments of scenes.
/// </summary>
public sealed class ViewTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    /// <summary>The models of Debian's package assimp-testmodels, and the demo's.</summary>
    [Fact]
    public void Scenes_of_any_format_are_shown_whole_where_they_are_drawn()
    {
        string[] made = ["brass_lamp/brass_lamp.glb", "watering_can/watering_can.usda", "tool_wall/tool_wall.obj", "moth_jar/moth_jar.dae"];
        var (files, apart) = (new List<string>(), new List<string>());
        foreach (var path in AssimpTests.All.Select(f => $"{AssimpTests.Models}/{f}").Concat(made.Select(m => demo.At($"clean/{m}"))))
        {
            var scene = Look.Read(path);
            var (view, folder) = Written(scene);
            DrawnGeometry drawn;
            using (var source = CrossedFormTests.Geometry(scene))
                drawn = DrawnGeometry.Of(scene, source, _ => -1, _ => string.Empty, Bounds.Default, CancellationToken.None);
            var written = view.Files.Select(f => ViewedScene.Place(folder, f.Number)).ToList();
            files.AddRange(written);
            var sizes = (Size(drawn.Box.Min, drawn.Box.Max), Size(Least(view), Most(view)));
            if (drawn.Geometry.Count != view.Pieces.Sum(p => p.Triangles))
                apart.Add($"{path}: {drawn.Geometry.Count} triangles are {view.Pieces.Sum(p => p.Triangles)}");
            if ((sizes.Item1 - sizes.Item2).Length() > sizes.Item1.Length() * 1e-4)
                apart.Add($"{path}: {sizes.Item1} is {sizes.Item2}");
            // A mesh that stands often is written once in a file.
            if (view.Pieces.Sum(p => p.Triangles) < written.Sum(f => CrossedFormTests.Triangles(SharpGLTF.Schema2.ModelRoot.Load(f))))
                apart.Add($"{path}: more is written than stands");
        }

        Assert.True(apart.Count == 0, string.Join("\n", apart));
        Assert.Equal(string.Empty, string.Join("\n", CrossedFormTests.Errors(files)));
    }

    [Fact]
    public void A_large_scene_comes_in_parts_of_a_bounded_size_in_steps_that_are_told()
    {
        // A sheet of 2 m with one step of UV on it, standing sixteen times, each larger.
        var scene = Look.Read(Sheets(side: 250, times: 16));
        var (view, folder) = Written(scene);
        Assert.True(view.IsQuantised);
        Assert.Equal(16 * 250 * 250 * 2, view.Pieces.Sum(p => p.Triangles));
        Assert.InRange(view.Files.Length, 7, 40);
        Assert.All(view.Files, f => Assert.InRange(f.Triangles, 1, 300_000));
        // In metres for a step of UV: the n-th stands n times as large.
        Assert.All(view.Pieces, p => Assert.Equal(2 * (p.Node + 1), p.PerUv, 2));
        Assert.Equal(new Vector3(16 * 2, 0, (15 * 40) + 16 + 1), Size(Least(view), Most(view)), new Near(0.01f));
        // Edges of the squares and across them, each once; half a picture aside they come in again from the other side.
        // Opposite rims read the same pixels.
        var all = 3 * 250 * 250;
        var layout = UvLayout.Of(folder, view, _ => 0, [1, 0, 0.5, 0, 1, 0], Bounds.Default, CancellationToken.None);
        Assert.Equal(all, (layout.Edges.Length / 4) + layout.Left);
        Assert.Equal(150_000, layout.Edges.Length / 4);
        Assert.All(layout.Edges, at => Assert.InRange(at, -0.01f, 1.01f));
        Assert.Empty(UvLayout.Of(folder, view, _ => null, [1, 0, 0, 0, 1, 0], Bounds.Default, CancellationToken.None).Edges);
        Assert.Equal(string.Empty, string.Join("\n", CrossedFormTests.Errors(view.Files.Select(f => ViewedScene.Place(folder, f.Number)))));
    }

    [Fact]
    public void A_material_is_shown_on_what_wears_it_or_on_one_object_for_all()
    {
        var scene = Look.Read(demo.At("clean/brass_lamp/brass_lamp.glb"));
        var (view, folder) = Written(scene);
        foreach (var material in scene.Materials)
        {
            var worn = scene
                .Nodes.Where(n => n.Mesh >= 0)
                .Select(n => scene.Meshes[n.Mesh].Parts.Where(p => p.Material == material.Name).Sum(p => p.Triangles))
                .Max();
            var on = OrderedMesh.Of(scene, view, folder, material, node: null)!;
            Assert.Equal(worn, on.Made(default).Geometry.Count);
            // Another one that stands in shows all of itself.
            var node = scene.Nodes.ToList().FindIndex(n => n.Mesh >= 0);
            var chosen = OrderedMesh.Of(scene, view, folder, material, node)!;
            Assert.Equal(scene.Meshes[scene.Nodes[node].Mesh].Triangles, chosen.Made(default).Geometry.Count);
        }

        Assert.Null(OrderedMesh.Of(scene, view, folder, new("nobody_wears_it"), node: null));
    }

    [Fact]
    public void A_moment_says_what_of_the_ledger_counts_and_knows_a_material_that_was_renamed()
    {
        var (here, other) = (Guid.NewGuid(), Guid.NewGuid());
        var first = LedgerEntry.ByHand("one", [], DateTimeOffset.UnixEpoch);
        var ledger = Ledger.Empty.Put(first).ApplyPending().Put(LedgerEntry.ByHand("two", [], DateTimeOffset.UnixEpoch));
        string Made(string word) => string.Join(' ', SceneMoment.Of(word, here).Of(ledger).Applied.Select(e => e.Sentence));
        Assert.Equal("one", Made("now"));
        Assert.Equal(string.Empty, Made("arrived"));
        Assert.Equal("one", Made($"entry-{first.Id}"));
        Assert.Equal("one two", Made($"entry-{ledger.Entries[1].Id}"));
        Assert.Equal(string.Empty, Made("version-1"));
        foreach (var word in new[] { "now", "arrived", $"entry-{first.Id}", "version-3", $"scene-{other}" })
            Assert.Equal(word, SceneMoment.Of(word, here).Word(here));
        foreach (var word in new[] { "", "then", "entry-7", "version-", "scene-tin", "now-1" })
            Assert.Contains("no moment of a scene", Assert.Throws<CannotUseException>(() => SceneMoment.Of(word, here)).Message, default);
        Assert.Contains(
            "taken back",
            Assert.Throws<CannotUseException>(() => SceneMoment.Of($"entry-{other}", here).Of(ledger)).Message,
            default
        );

        var arrived = Look.Read(place.Put("pot.gltf", """{"asset":{"version":"2.0"},"materials":[{"name":"tin"},{"name":"oak"}]}"""));
        var renamed = arrived.Materials[0] with { Name = "oak_lid", Arrived = "tin" };
        Assert.Equal("tin", SceneMoment.Of("arrived", here).Counterpart(renamed, arrived, here)?.Name);
        // In another scene only the name says which it is.
        Assert.Null(SceneMoment.Of($"scene-{other}", here).Counterpart(renamed, arrived, here));
        Assert.Equal("oak", SceneMoment.Of($"scene-{other}", here).Counterpart(new("oak"), arrived, here)?.Name);
    }

    private (ViewedScene View, string Folder) Written(Scene scene)
    {
        var folder = Directory.CreateDirectory(place.At(Guid.NewGuid().ToString("N"))).FullName;
        using var source = CrossedFormTests.Geometry(scene);
        using var writer = new ViewWriter(scene, source, folder);
        return (writer.Write("print", DateTimeOffset.UnixEpoch, (_, _, _) => { }, CancellationToken.None), folder);
    }

    /// <summary>A flat sheet of squares that stands at many places, 40 m apart.</summary>
    private string Sheets(int side, int times)
    {
        var points = new List<float>();
        var uvs = new List<float>();
        var corners = new List<int>();
        for (var y = 0; y <= side; y++)
        for (var x = 0; x <= side; x++)
        {
            points.AddRange([(2f * x / side) - 1, 0, (2f * y / side) - 1]);
            uvs.AddRange([(float)x / side, (float)y / side]);
            var at = (y * (side + 1)) + x;
            if (x < side && y < side)
                corners.AddRange([at, at + side + 1, at + 1, at + 1, at + side + 1, at + side + 2]);
        }

        byte[] bytes =
        [
            .. MemoryMarshal.AsBytes(CollectionsMarshal.AsSpan(points)),
            .. MemoryMarshal.AsBytes(CollectionsMarshal.AsSpan(uvs)),
            .. MemoryMarshal.AsBytes(CollectionsMarshal.AsSpan(corners)),
        ];
        File.WriteAllBytes(place.At("sheets.bin"), bytes);
        var nodes = string.Join(
            ',',
            Enumerable
                .Range(0, times)
                .Select(i =>
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $$"""{"mesh":0,"translation":[0,0,{{i * 40}}],"scale":[{{i + 1}},{{i + 1}},{{i + 1}}]}"""
                    )
                )
        );
        int count = points.Count / 3,
            pointBytes = points.Count * 4,
            uvBytes = uvs.Count * 4;
        return place.Put(
            "sheets.gltf",
            $$"""
            {
              "asset": { "version": "2.0" }, "scene": 0, "scenes": [{ "nodes": [{{string.Join(',', Enumerable.Range(0, times))}}] }],
              "nodes": [{{nodes}}],
              "meshes": [{ "primitives": [{ "attributes": { "POSITION": 0, "TEXCOORD_0": 1 }, "indices": 2 }] }],
              "buffers": [{ "uri": "sheets.bin", "byteLength": {{bytes.Length}} }],
              "bufferViews": [
                { "buffer": 0, "byteLength": {{pointBytes}} },
                { "buffer": 0, "byteOffset": {{pointBytes}}, "byteLength": {{uvBytes}} },
                { "buffer": 0, "byteOffset": {{pointBytes + uvBytes}}, "byteLength": {{corners.Count * 4}} }
              ],
              "accessors": [
                { "bufferView": 0, "componentType": 5126, "count": {{count}}, "type": "VEC3", "min": [-1, 0, -1], "max": [1, 0, 1] },
                { "bufferView": 1, "componentType": 5126, "count": {{count}}, "type": "VEC2" },
                { "bufferView": 2, "componentType": 5125, "count": {{corners.Count}}, "type": "SCALAR" }
              ]
            }
            """
        );
    }

    private static Vector3 Least(ViewedScene view) => view.Files.Select(f => Point(f.Min)).Aggregate(Vector3.Min);

    private static Vector3 Most(ViewedScene view) => view.Files.Select(f => Point(f.Max)).Aggregate(Vector3.Max);

    private static Vector3 Point(ImmutableArray<double> p) => new((float)p[0], (float)p[1], (float)p[2]);

    private static Vector3 Size(Vector3 min, Vector3 max) => max - min;

    private sealed class Near(float by) : IEqualityComparer<Vector3>
    {
        public bool Equals(Vector3 x, Vector3 y) => (x - y).Length() < by;

        public int GetHashCode(Vector3 obj) => 0;
    }
}
