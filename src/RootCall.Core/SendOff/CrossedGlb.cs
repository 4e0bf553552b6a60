using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Gltf.Authoring;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.SendOff;

/// <summary>A look for a material, with the file of each image that it reads.</summary>
public sealed record GivenLook(ShaderGraph Graph, IReadOnlyDictionary<ReferenceKey, string> Files);

/// <summary>A scene of another format as a GLB, with looks in glTF's shading model.</summary>
public static class CrossedGlb
{
    public const string Model = "gltf-metallic-roughness";

    /// <summary>How a scene of glTF's says a look.</summary>
    public static ILookMaker Maker => SceneFormats.Of("scene.glb").Capabilities.Maker!;

    /// <param name="looks">By the place of the material; the others keep their names alone.</param>
    /// <param name="path">The GLB to write, which is not there yet.</param>
    /// <returns>What could not be taken along, in sentences.</returns>
    /// <exception cref="CannotUseException">The scene carries no geometry, or is more than a GLB holds.</exception>
    public static ImmutableArray<string> Write(
        Scene scene,
        IGeometrySource source,
        IReadOnlyDictionary<int, GivenLook> looks,
        string path,
        Bounds bounds,
        CancellationToken stop
    )
    {
        using var work = Folders.Temporary();
        var bare = Path.Combine(work.Path, Path.GetFileName(path));
        BareGlb made = null!;
        WholeOrNothing.File(bare, file => made = SceneToGlb.Write(scene, source, file, stop));
        var before = SceneFormats.Read(bare, new ReadContext(new RootScope([work.Path]), bounds));
        var draft = new SceneDraft(before);
        foreach (var (at, given) in looks)
        {
            var (material, there) = (scene.Materials[at], draft.Materials[at]);
            var look = Called(given, path, name => made.Sets.GetValueOrDefault((at, name)));
            var said = Maker.Make(draft, material, material.Name, look).Material;
            draft.Put(at, said with { Name = there.Name, Id = there.Id });
        }

        var can = SceneFormats.Of(bare).Capabilities;
        var now = draft.Build(can.References);
        var changes = SceneFormats.Of(bare).Changes(before, now).Edits[0];
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        WholeOrNothing.File(path, to =>
        {
            using var from = File.OpenRead(bare);
            SplicedCopy.Write(from, to, changes, stop);
        });
        return [.. made.Told, .. Unheld(now)];
    }

    /// <summary>glTF's core holds PNG and JPEG (2.0, 3.8.2).</summary>
    private static IEnumerable<string> Unheld(Scene scene) =>
        scene
            .References.Where(r => r.Kind == ReferenceKind.Image)
            .GroupBy(r => Path.GetExtension(r.Written).ToLowerInvariant())
            .Where(g => g.Key is not (".png" or ".jpg" or ".jpeg"))
            .Select(g => $"Images that are {g.Key} stay so ({g.Count()}); glTF's core holds PNG and JPEG. Packing the GLB converts them.");

    /// <summary>The same look, its images called from where the GLB lies, and their UV sets by number.</summary>
    private static ShaderGraph Called(GivenLook look, string path, Func<string, int> set)
    {
        ImageUse Use(ImageUse use)
        {
            var written = look.Files.GetValueOrDefault(use.Reference) is { } file
                ? Path.GetRelativePath(Path.GetDirectoryName(path)!, file).Replace('\\', '/')
                : use.Reference.Written;
            return use with
            {
                Reference = new(ReferenceKind.Image, Path.GetFileName(path), written),
                UvSet = FormattableString.Invariant($"TEXCOORD_{set(use.UvSet)}"),
            };
        }

        return look.Graph with
        {
            Nodes = [.. look.Graph.Nodes.Select(n => n.Image is { } use ? n with { Image = Use(use) } : n)],
        };
    }
}
