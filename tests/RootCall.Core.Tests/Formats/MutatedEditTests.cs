using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Edits on broken scenes, with a fixed seed: whatever the reader could make of a file, an edit of it is made or refused in
/// one sentence, and the copy that is made can be read again.
/// </summary>
public sealed class MutatedEditTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private const int Variants = 120;
    private readonly Place place = new();

    [Theory]
    [InlineData("clean/brass_lamp/brass_lamp.glb", 31)]
    [InlineData("clean/watering_can/watering_can.usda", 32)]
    [InlineData("clean/seed_drawer/seed_drawer.mtlx", 33)]
    [InlineData("clean/moth_jar/moth_jar.dae", 34)]
    public void Edits_of_a_broken_scene_are_made_or_refused(string sample, int seed)
    {
        var random = new Random(seed);
        var whole = File.ReadAllBytes(demo.At(sample));
        var target = place.At("s/" + Path.GetFileName(sample));
        Directory.CreateDirectory(Path.GetDirectoryName(target)!);
        foreach (var layer in Directory.GetFiles(Path.GetDirectoryName(demo.At(sample))!, "*_looks.usda"))
            File.Copy(layer, place.At("s/" + Path.GetFileName(layer)));
        var context = new ReadContext(new([place.At("s")]), Bounds.Default);
        var made = 0;
        for (var n = 0; n < Variants; n++)
        {
            File.WriteAllBytes(target, Broken(whole, random));
            Scene scene;
            try
            {
                scene = SceneFormats.Read(target, context);
            }
            catch (CannotUseException)
            {
                continue;
            }

            var edits = Everything(scene).Take(12).ToList();
            var folder = place.At($"edited/{n}");
            Directory.CreateDirectory(folder);
            var result = EditedFiles.Make(
                target,
                [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)],
                folder,
                context
            );
            Assert.All(result.Refused, r =>
                Assert.False(string.IsNullOrWhiteSpace(r.Reason) || r.Reason.Contains('\n', StringComparison.Ordinal))
            );
            if (result.Copies.Count == 0)
                continue;
            SceneFormats.Read(target, context with { Edited = result.Copies });
            made++;
            Directory.Delete(folder, recursive: true);
        }

        Assert.True(made > Variants / 8, $"only {made} of {Variants} variants took an edit");
    }

    public void Dispose() => place.Dispose();

    /// <summary>For each input of each material a value, a disconnect, another tiling and another image.</summary>
    private static IEnumerable<Edit> Everything(Scene scene)
    {
        foreach (var material in scene.Materials.Take(3))
        {
            foreach (var input in (material.Graph.SurfaceNode?.Inputs ?? []).Take(4))
            {
                var use = material.Graph.ImagesOf(input).FirstOrDefault();
                if (use is null)
                    yield return new SetValue(
                        material.Name,
                        input.Name,
                        input.Value,
                        input.Type == InputType.Color3 ? ShaderValue.Of(0.1, 0.2, 0.3) : ShaderValue.Of(0.5)
                    );
                else
                    yield return new SetImage(material.Name, input.Name, use, use with { Transform = use.Transform with { ScaleU = 7 } });
                if (use is not null && input.Name.Length % 2 == 0)
                    yield return new SetImage(material.Name, input.Name, use, null);
            }
        }

        foreach (var mesh in scene.Meshes.Take(2))
            yield return new AssignMaterial(
                mesh.Id,
                string.Empty,
                mesh.Parts[0].Material,
                scene.Materials.Length > 0 ? scene.Materials[^1].Name : "gone"
            );
    }

    private static byte[] Broken(byte[] whole, Random random)
    {
        var bytes = whole.ToList();
        for (var n = random.Next(0, 3); n > 0; n--)
        {
            // Hits near the ends, where the structure is.
            var at =
                random.Next(2) == 0 ? random.Next(Math.Min(4000, bytes.Count)) : bytes.Count - 1 - random.Next(Math.Min(4000, bytes.Count));
            switch (random.Next(3))
            {
                case 0:
                    bytes[at] = (byte)random.Next(32, 127);
                    break;
                case 1:
                    bytes.RemoveRange(at, Math.Min(random.Next(1, 12), bytes.Count - at));
                    break;
                default:
                    bytes.Insert(at, (byte)"<>\"{}()@/,"[random.Next(10)]);
                    break;
            }
        }

        return [.. bytes];
    }
}
