using RootCall.Cli.Output;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Viewing;

namespace RootCall.Cli.Verbs;

/// <summary>A copy of a scene with crossed materials beside those that arrived, worn by all that wore them.</summary>
internal sealed class CrossedCopy(OpenedScene opened, TextureCache textures, string moment, string folder)
{
    private readonly LookMeasure measure = new(opened, textures, moment);

    public (string Path, IReadOnlyList<ConvertedJson> Rows) Write(IEnumerable<Material> picked, string to, CrossingRoute route)
    {
        var scene = opened.Report.Scene;
        var path = Path.Combine(folder, Path.GetFileName(scene.Path));
        if (File.Exists(path))
            throw new CannotUseException($"“{path}” is already there; nothing that exists is written over.");
        var baking = new LookBaking(
            opened.Report,
            new(opened.Decoder, FrameWorks.TextureBytes, LookBaking.LargestSide),
            opened.Decoder,
            moment,
            Path.Combine(folder, "textures")
        );
        try
        {
            var rows = new List<ConvertedJson>();
            var changes = new Dictionary<string, CrossChange>(StringComparer.Ordinal);
            foreach (var material in picked)
            {
                var crossed = Crossings.Of(material.Graph, to, route);
                var isThere = crossed?.From == to;
                var baked = crossed is null || isThere ? null : baking.Bake(material, crossed, CancellationToken.None);
                if (baked is { WhyNot: null })
                    changes[material.Name] = new([], baked.Inputs, baked.Files) { Route = route };
                rows.Add(measure.Row(material, to, crossed, baked?.WhyNot));
            }

            opened.Widen(folder);
            if (changes.Count > 0)
                opened.Apply([
                    CrossingEntries.TakeOver(
                        scene,
                        [.. changes.Keys.Select(scene.Called).OfType<Material>()],
                        to,
                        changes,
                        DateTimeOffset.Now
                    ) with
                    {
                        State = EntryState.Applied,
                    },
                ]);
            var written = RelinkedCopy.Write(opened.Writable(), folder).Written;
            opened.WriteLedger(folder);
            return (written.FirstOrDefault(w => Path.GetFileName(w) == Path.GetFileName(path)) ?? path, rows);
        }
        catch
        {
            foreach (var name in baking.Names)
                File.Delete(Path.Combine(folder, "textures", name));
            throw;
        }
    }
}
