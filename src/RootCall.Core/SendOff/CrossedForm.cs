using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Gltf.Authoring;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.Usd.Authoring;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.SendOff;

/// <summary>A look for a material, with the file of each image that it reads.</summary>
public sealed record GivenLook(ShaderGraph Graph, IReadOnlyDictionary<ReferenceKey, string> Files);

/// <summary>
/// A format that scenes of other formats are written in: geometry and hierarchy first, then the looks, as in any scene of that format.
/// </summary>
public sealed class CrossedForm
{
    private delegate BareScene Bare(Scene scene, IGeometrySource source, Func<int, bool> isCarried, Stream output, CancellationToken stop);

    private readonly Bare bare;
    private readonly ImmutableArray<string> formats;

    private CrossedForm(string ending, string name, ImmutableArray<string> formats, ImmutableArray<string> models, Bare bare)
    {
        (Ending, Name, this.formats, Models, this.bare) = (ending, name, formats, models, bare);
        Maker = SceneFormats.Of($"scene.{ending}").Capabilities.Maker!;
    }

    public static CrossedForm Glb { get; } =
        new("glb", "GLB", ["gltf", "glb"], ["gltf-metallic-roughness"], (scene, source, _, output, stop) =>
            SceneToGlb.Write(scene, source, output, stop)
        );

    public static CrossedForm Usda { get; } =
        new(
            "usda",
            "USD layer",
            ["usda", "usdc", "usdz"],
            ["usd-preview-surface", "standard-surface", "open-pbr", "materialx-gltf-pbr"],
            (scene, source, isCarried, output, stop) =>
                SceneToUsda.Write(scene, source, isCarried, scene.Format.Id is "gltf" or "glb", output, stop)
        );

    public static ImmutableArray<CrossedForm> All { get; } = [Glb, Usda];

    /// <summary>By the ending of its files; null for none.</summary>
    public static CrossedForm? Find(string ending) => All.FirstOrDefault(f => f.Ending == ending);

    public string Ending { get; }

    /// <summary>“GLB”, “USD layer”.</summary>
    public string Name { get; }

    /// <summary>Ids of the shading models that it says.</summary>
    public ImmutableArray<string> Models { get; }

    /// <summary>How a scene of that format says a look.</summary>
    public ILookMaker Maker { get; }

    /// <summary>Why a scene is not written so with looks of a model, in one sentence; null when it is.</summary>
    public string? WhyNot(Scene scene, string model) =>
        formats.Contains(scene.Format.Id) ? $"The scene is {scene.Format.Name} already."
        : Models.Contains(model) ? null
        : $"A {Name} says {string.Join(", ", Models)} and no other model.";

    /// <summary>What of a scene stays behind, whatever its looks, in sentences: known before anything is written.</summary>
    public ImmutableArray<string> Leaves(Scene scene)
    {
        static string? Some(int n, string what) => n == 0 ? null : FormattableString.Invariant($"{what} ({n:N0}).");
        return
        [
            .. new[]
            {
                Some(scene.Lamps.Length, "Lights stay behind"),
                Some(Ending == "glb" ? scene.Cameras.Length : 0, "Cameras stay behind"),
                Some(scene.Nodes.Count(n => n.Copies > 1), "What an instancer repeats stands once"),
            }.OfType<string>(),
        ];
    }

    /// <param name="looks">By the place of the material; the others keep their names alone.</param>
    /// <param name="path">The file to write, which is not there yet.</param>
    /// <returns>What could not be taken along, in sentences.</returns>
    /// <exception cref="CannotUseException">The scene carries no geometry, or is more than the format holds.</exception>
    public ImmutableArray<string> Write(
        Scene scene,
        IGeometrySource source,
        IReadOnlyDictionary<int, GivenLook> looks,
        string path,
        Bounds bounds,
        CancellationToken stop
    )
    {
        using var work = Folders.Temporary();
        var file = Path.Combine(work.Path, Path.GetFileName(path));
        BareScene made = null!;
        WholeOrNothing.File(file, to => made = bare(scene, source, looks.ContainsKey, to, stop));
        var before = SceneFormats.Read(file, new ReadContext(new RootScope([work.Path]), bounds));
        var draft = new SceneDraft(before);
        foreach (var (at, given) in looks)
        {
            var look = Called(given, path, name => made.Sets.GetValueOrDefault((at, name)) ?? made.FirstSet);
            if (made.Ids.IsEmpty)
            {
                var there = draft.Materials[at];
                var said = Maker.Make(draft, scene.Materials[at], there.Name, look).Material;
                draft.Put(at, said with { Name = there.Name, Id = there.Id });
            }
            else
            {
                var name = made.Ids[at][(made.Ids[at].LastIndexOf('/') + 1)..];
                draft.Add(Maker.Make(draft, new(name) { Id = made.Ids[at] }, name, look).Material);
            }
        }

        var can = SceneFormats.Of(file).Capabilities;
        var now = draft.Build(can.References);
        var changes = SceneFormats.Of(file).Changes(before, now).Edits[0];
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        WholeOrNothing.File(path, to =>
        {
            using var from = File.OpenRead(file);
            SplicedCopy.Write(from, to, changes, stop);
        });
        return [.. Leaves(scene), .. made.Told, .. Ending == "glb" ? Unheld(now) : []];
    }

    /// <summary>glTF's core holds PNG and JPEG (2.0, 3.8.2).</summary>
    private static IEnumerable<string> Unheld(Scene scene) =>
        scene
            .References.Where(r => r.Kind == ReferenceKind.Image)
            .GroupBy(r => Path.GetExtension(r.Written).ToLowerInvariant())
            .Where(g => g.Key is not (".png" or ".jpg" or ".jpeg"))
            .Select(g => $"Images that are {g.Key} stay so ({g.Count()}); glTF's core holds PNG and JPEG. Packing the GLB converts them.");

    /// <summary>The same look, its images called from where the file lies, and their UV sets as they are called there.</summary>
    private static ShaderGraph Called(GivenLook look, string path, Func<string, string> set)
    {
        ImageUse Use(ImageUse use)
        {
            var written = look.Files.GetValueOrDefault(use.Reference) is { } file
                ? Path.GetRelativePath(Path.GetDirectoryName(path)!, file).Replace('\\', '/')
                : use.Reference.Written;
            return use with { Reference = new(ReferenceKind.Image, Path.GetFileName(path), written), UvSet = set(use.UvSet) };
        }

        return look.Graph with
        {
            Nodes = [.. look.Graph.Nodes.Select(n => n.Image is { } use ? n with { Image = Use(use) } : n)],
        };
    }
}
