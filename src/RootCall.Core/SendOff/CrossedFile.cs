using System.Collections.Immutable;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Geometry;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Sessions;
using RootCall.Core.Viewing;

namespace RootCall.Core.SendOff;

/// <summary>A scene as it was written in another format.</summary>
/// <param name="Left">Materials whose look was left behind, each with why.</param>
/// <param name="Told">What else could not be taken along, in sentences.</param>
public sealed record CrossedFileResult(string Path, ImmutableArray<(string Material, string Why)> Left, ImmutableArray<string> Told)
{
    /// <summary>All that stayed behind, in sentences.</summary>
    public IEnumerable<string> Behind => [.. Left.Select(l => $"{l.Material} came without its look. {l.Why}"), .. Told];
}

/// <summary>
/// Writes a scene as a file of another format: geometry and hierarchy go along, every look is carried, images are called from where
/// they lie; those that the scene carries inside, and those that are baked, become files beside it.
/// </summary>
/// <param name="baking">Makes images in <see cref="TexturesOf"/>, for the form's own maker.</param>
public sealed class CrossedFile(Session session, CrossedForm form, LookBaking baking, IMeshDecoder? meshes, string folder)
{
    private readonly MusterReport report = session.Report;
    private readonly ReferencesByKey references = new(session.Report);
    private readonly string textures = TexturesOf(folder);

    /// <summary>Where the images lie that are made for a scene in that folder.</summary>
    public static string TexturesOf(string folder) => Path.Combine(folder, "textures");

    /// <exception cref="CannotUseException">The form cannot say it, or a file of that name is there. Nothing was kept.</exception>
    public CrossedFileResult Write(IEnumerable<LookToCarry> picked, string model, CancellationToken stop)
    {
        var scene = report.Scene;
        if (form.WhyNot(scene, model) is { } why)
            throw new CannotUseException(why);
        var path = Path.Combine(folder, $"{Path.GetFileNameWithoutExtension(scene.Path)}.{form.Ending}");
        if (File.Exists(path))
            throw new CannotUseException($"“{path}” is already there; nothing that exists is written over.");
        List<string> taken = [];
        try
        {
            var left = ImmutableArray.CreateBuilder<(string, string)>();
            var looks = new Dictionary<int, (ShaderGraph Graph, BakedCrossing Baked)>();
            foreach (var (material, crossed) in picked)
            {
                stop.ThrowIfCancellationRequested();
                var baked = crossed is null ? null : baking.Bake(material, crossed, stop);
                if (crossed is null || baked is not { WhyNot: null })
                    left.Add((material.Name, baked?.WhyNot ?? "Its shading model cannot be carried."));
                else
                    looks[scene.Materials.IndexOf(material)] = (BakedLook.Of(crossed.Graph, baked.Inputs), baked);
            }

            // What the scene carries inside becomes a file beside the others.
            var used = looks.Values.SelectMany(l => ImagesOf(l.Graph)).Select(references.Find).OfType<MusteredReference>();
            var plan = CarriedImages.Plan(report, used.Select(r => r.Number), folder);
            taken = [.. plan.Select(p => p.File).Where(f => !File.Exists(f))];
            CarriedImages.WriteFiles(report, plan);
            var reading = session.Edited.Reading;
            using var geometry = SceneFormats.Of(scene.Path).Geometry(session.Edited.Basis, reading, meshes);
            var given = looks.ToDictionary(l => l.Key, l => Given(l.Value.Graph, l.Value.Baked, plan));
            return new(path, left.ToImmutable(), form.Write(scene, geometry, given, path, reading.Bounds, stop));
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
        plan.FirstOrDefault(p => p.Number == reference.Number)?.File ?? OrderedImage.Of(reference, report.Scene.Path).File?.Path;
}
