using System.Collections.Immutable;
using RootCall.Cli.Output;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;

namespace RootCall.Cli.Verbs;

/// <summary>A copy of a scene with crossed materials beside those that arrived, worn by all that wore them.</summary>
internal sealed class CrossedCopy(OpenedScene opened, Carrying carrying, string folder)
{
    public (string Path, IReadOnlyList<ConvertedJson> Rows, ImmutableArray<string> Told) Write(IEnumerable<Material> picked)
    {
        var scene = opened.Report.Scene;
        var path = Path.Combine(folder, Path.GetFileName(scene.Path));
        if (File.Exists(path))
            throw new CannotUseException($"“{path}” is already there; nothing that exists is written over.");
        var baking = carrying.Baking(Path.Combine(folder, "textures"));
        try
        {
            var rows = new List<ConvertedJson>();
            var changes = new Dictionary<string, CrossChange>(StringComparer.Ordinal);
            foreach (var material in picked)
            {
                var carried = carrying.Of(material);
                var baked = carried.Crossed is { } c && c.From != carrying.To ? baking.Bake(material, c, CancellationToken.None) : null;
                if (baked is { WhyNot: null })
                    changes[material.Name] = new(carried.Set, baked.Inputs, baked.Files) { Route = carrying.Route };
                rows.Add(carried.Row(baked?.WhyNot));
            }

            opened.Widen(folder);
            if (changes.Count > 0)
                opened.Apply([
                    CrossingEntries.TakeOver(
                        scene,
                        [.. changes.Keys.Select(scene.Called).OfType<Material>()],
                        carrying.To,
                        changes,
                        DateTimeOffset.Now
                    ) with
                    {
                        State = EntryState.Applied,
                    },
                ]);
            var written = RelinkedCopy.Write(opened.Writable(), folder).Written;
            opened.WriteLedger(folder);
            return (written.FirstOrDefault(w => Path.GetFileName(w) == Path.GetFileName(path)) ?? path, rows, []);
        }
        catch
        {
            foreach (var name in baking.Names)
                File.Delete(Path.Combine(folder, "textures", name));
            throw;
        }
    }
}
