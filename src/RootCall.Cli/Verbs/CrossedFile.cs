using System.Collections.Immutable;
using RootCall.Cli.Output;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Viewing;
using RootCall.Native;

namespace RootCall.Cli.Verbs;

/// <summary>
/// A scene as a file of another format: geometry and hierarchy go along, every look is carried, images are called from where they lie.
/// </summary>
internal sealed class CrossedFile(OpenedScene opened, Carrying carrying, CrossedForm form, string folder)
{
    private readonly ReferencesByKey references = new(opened.Report);
    private readonly string textures = Path.Combine(folder, "textures");

    public (string Path, IReadOnlyList<ConvertedJson> Rows, ImmutableArray<string> Told) Write(IEnumerable<Material> picked)
    {
        var scene = opened.Report.Scene;
        if (form.WhyNot(scene, carrying.To) is { } why)
            throw new CannotUseException(why);
        var path = Path.Combine(folder, $"{Path.GetFileNameWithoutExtension(scene.Path)}.{form.Ending}");
        if (File.Exists(path))
            throw new CannotUseException($"“{path}” is already there; nothing that exists is written over.");
        var baking = carrying.Baking(textures, form.Maker);
        List<string> taken = [];
        try
        {
            var (rows, looks) = (new List<ConvertedJson>(), new Dictionary<int, (ShaderGraph Graph, BakedCrossing Baked)>());
            foreach (var material in picked)
            {
                var carried = carrying.Of(material);
                var baked = carried.Crossed is { } c ? baking.Bake(material, c, CancellationToken.None) : null;
                rows.Add(carried.Row(baked?.WhyNot));
                if (carried.Crossed is { } crossed && baked is { WhyNot: null })
                    looks[scene.Materials.IndexOf(material)] = (BakedLook.Of(crossed.Graph, baked.Inputs), baked);
            }

            // What the scene carries inside becomes a file beside the others.
            var used = looks.Values.SelectMany(l => ImagesOf(l.Graph)).Select(references.Find).OfType<MusteredReference>();
            var plan = CarriedImages.Plan(opened.Report, used.Select(r => r.Number), folder);
            taken = [.. plan.Select(p => p.File).Where(f => !File.Exists(f))];
            CarriedImages.WriteFiles(opened.Report, plan);
            var reading = opened.Session.Edited.Reading;
            using var decoder = new MeshDecoder(reading.Bounds);
            using var geometry = SceneFormats.Of(scene.Path).Geometry(opened.Session.Edited.Basis, reading, decoder);
            var given = looks.ToDictionary(l => l.Key, l => Given(l.Value.Graph, l.Value.Baked, plan));
            return (path, rows, form.Write(scene, geometry, given, path, reading.Bounds, CancellationToken.None));
        }
        catch
        {
            foreach (var file in baking.Names.Select(n => Path.Combine(textures, n)).Concat(taken))
                File.Delete(file);
            throw;
        }
    }

    private static IEnumerable<ReferenceKey> ImagesOf(ShaderGraph look) =>
        look.Nodes.Select(n => n.Image?.Reference).OfType<ReferenceKey>();

    private GivenLook Given(ShaderGraph look, BakedCrossing baked, ImmutableArray<PlannedExtraction> plan)
    {
        var files = baked.Files.ToDictionary(f => f.Key, f => f.File);
        foreach (var key in ImagesOf(look).Distinct().Except([.. files.Keys]))
            if (references.Find(key) is { } found && FileOf(found, plan) is { } file)
                files[key] = file;
        return new(look, files);
    }

    private string? FileOf(MusteredReference reference, ImmutableArray<PlannedExtraction> plan) =>
        plan.FirstOrDefault(p => p.Number == reference.Number)?.File ?? OrderedImage.Of(reference, opened.Report.Scene.Path).File?.Path;
}
