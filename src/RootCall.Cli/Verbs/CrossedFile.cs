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
/// A scene of another format as a GLB: geometry and hierarchy go along, every look is carried, images are called from where they lie.
/// </summary>
internal sealed class CrossedFile(OpenedScene opened, Carrying carrying, string moment, string folder)
{
    private readonly ReferencesByKey references = new(opened.Report);
    private readonly string textures = Path.Combine(folder, "textures");
    private readonly Dictionary<ReferenceKey, string> taken = [];

    public (string Path, IReadOnlyList<ConvertedJson> Rows, ImmutableArray<string> Told) Write(IEnumerable<Material> picked)
    {
        var scene = opened.Report.Scene;
        if (carrying.To != CrossedGlb.Model)
            throw new CannotUseException($"A GLB says {CrossedGlb.Model} and no other model.");
        if (scene.Format.Id is "gltf" or "glb")
            throw new CannotUseException("The scene is glTF already.");
        var path = Path.Combine(folder, $"{Path.GetFileNameWithoutExtension(scene.Path)}.glb");
        if (File.Exists(path))
            throw new CannotUseException($"“{path}” is already there; nothing that exists is written over.");
        var baking = new LookBaking(
            opened.Report,
            new(opened.Decoder, FrameWorks.TextureBytes, LookBaking.LargestSide),
            opened.Decoder,
            moment,
            textures,
            CrossedGlb.Maker
        );
        try
        {
            var (rows, looks) = (new List<ConvertedJson>(), new Dictionary<string, GivenLook>(StringComparer.Ordinal));
            foreach (var material in picked)
            {
                var carried = carrying.Of(material);
                var baked = carried.Crossed is { } c ? baking.Bake(material, c, CancellationToken.None) : null;
                rows.Add(carried.Row(baked?.WhyNot));
                if (carried.Crossed is { } crossed && baked is { WhyNot: null })
                    looks[material.Name] = Given(BakedLook.Of(crossed.Graph, baked.Inputs), baked);
            }

            var reading = opened.Session.Edited.Reading;
            using var decoder = new MeshDecoder(reading.Bounds);
            using var geometry = SceneFormats.Of(scene.Path).Geometry(opened.Session.Edited.Basis, reading, decoder);
            var told = CrossedGlb.Write(scene, geometry, looks, path, reading.Bounds, CancellationToken.None);
            return (path, rows, told);
        }
        catch
        {
            foreach (var file in baking.Names.Select(n => Path.Combine(textures, n)).Concat(taken.Values))
                File.Delete(file);
            throw;
        }
    }

    private GivenLook Given(ShaderGraph look, BakedCrossing baked)
    {
        var files = baked.Files.ToDictionary(f => f.Key, f => f.File);
        foreach (var key in look.Nodes.Select(n => n.Image?.Reference).OfType<ReferenceKey>().Distinct())
            if (!files.ContainsKey(key) && references.Find(key) is { } found && FileOf(found) is { } file)
                files[key] = file;
        return new(look, files);
    }

    /// <summary>An image that the scene carries becomes a file beside the others.</summary>
    private string? FileOf(MusteredReference reference)
    {
        var image = OrderedImage.Of(reference, opened.Report.Scene.Path);
        if (image.Carried is not { } carried)
            return image.File?.Path;
        if (taken.TryGetValue(reference.Reference.Key, out var there))
            return there;
        var name = PortableName.Make(Path.GetFileName(reference.Reference.Written));
        var path = Path.Combine(Directory.CreateDirectory(textures).FullName, name);
        for (var n = 2; File.Exists(path); n++)
            path = Path.Combine(
                textures,
                FormattableString.Invariant($"{Path.GetFileNameWithoutExtension(name)}_{n}{Path.GetExtension(name)}")
            );
        WholeOrNothing.File(path, to =>
        {
            using var from = SceneFormats.Of(image.ScenePath!).OpenCarried(carried);
            from.CopyTo(to);
        });
        return taken[reference.Reference.Key] = path;
    }
}
