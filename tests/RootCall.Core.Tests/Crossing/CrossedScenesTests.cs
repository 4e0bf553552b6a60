using System.Numerics;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Scenes;
using RootCall.Core.Tests.Law;
using RootCall.Testing;

namespace RootCall.Core.Tests.Crossing;

/// <summary>Materials that are crossed as an entry of the ledger, in the formats that are written.</summary>
public sealed class CrossedScenesTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    /// <summary>A picture of which every channel differs, and that is told from itself when its coordinates move.</summary>
    private sealed class Slopes : ITextureSource, ITexture
    {
        public ITexture? Find(ImageUse use) => this;

        public Vector4 Sample(Vector2 uv, float footprint) =>
            new(0.2f + (0.6f * (uv.X - MathF.Floor(uv.X))), 0.7f - (0.5f * (uv.Y - MathF.Floor(uv.Y))), 0.9f, 0.8f);
    }

    private EditedScene Opened(string file)
    {
        var reading = new ReadContext(new([Path.GetDirectoryName(file)!]), Bounds.Default);
        return EditedScene.Of(SceneFormats.Read(file, reading), reading, () =>
            Directory.CreateDirectory(place.At($"work/{Guid.NewGuid():N}")).FullName
        );
    }

    /// <summary>Looks as they are read from what was written, beside those that the crossing made: the writers lose nothing.</summary>
    [Fact]
    public void What_is_written_of_a_crossed_material_reads_back_as_the_same_look()
    {
        var made = new Dictionary<string, int>(StringComparer.Ordinal);
        var fidelity = new Fidelity(Studio.Light(), 12, 2);
        var scenes = demo.Answers()
            .Select(a => a.Clean)
            .Concat(OwnScenes.All(place))
            .Append("/usr/share/assimp/models/glTF2/BoxTextured-glTF-pbrSpecularGlossiness/BoxTextured.gltf")
            .Concat(
                Directory.EnumerateFiles("/usr/share/assimp/models/OBJ", "*.obj").Where(f => !f.Contains("UTF16", StringComparison.Ordinal))
            )
            .Where(s => SceneFormats.Of(s).Capabilities.Maker is not null);
        foreach (var file in scenes)
        {
            var scene = Opened(file);
            foreach (var material in scene.Arrived.Materials.Where(m => !m.IsTemplate))
            foreach (var model in SceneFormats.Of(file).Capabilities.Maker!.Models)
            {
                var after = scene.And(TestSession.Entry(new CrossMaterial(material.Name, model, "crossed_one", [])));
                if (!after.Refused.IsEmpty)
                    continue;
                var wanted = Crossings.Of(material.Graph, model)!.Graph;
                var faceByFace = after.Arrived.Format.Id == "obj";
                var read = after.Current.Materials.Single(m => m.Name == (faceByFace ? material.Name : "crossed_one"));
                var moved = fidelity.Between(wanted, read.Graph, new Slopes(), default);
                Assert.True(moved is { Mean: < 0.02 }, $"{file}, {material.Name} to {model}: {moved?.Mean}");
                made[after.Arrived.Format.Id] = made.GetValueOrDefault(after.Arrived.Format.Id) + 1;
            }
        }

        foreach (var (format, least) in new[] { ("gltf", 1), ("usda", 20), ("mtlx", 20), ("obj", 5) })
            Assert.True(
                made.GetValueOrDefault(format) >= least,
                $"{format}: {made.GetValueOrDefault(format)} of {string.Join(", ", made)}"
            );
    }

    public void Dispose() => place.Dispose();
}
