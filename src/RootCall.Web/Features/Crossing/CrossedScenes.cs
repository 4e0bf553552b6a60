using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Crossing;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Web.Features.Audit;

namespace RootCall.Web.Features.Crossing;

/// <summary>A material that crosses.</summary>
/// <param name="Print">A hash of all that its measure is made of.</param>
/// <param name="Bakes">What images are called that have to be baked for it.</param>
/// <param name="WhyNot">Why the scene's format cannot hold it, whatever is baked; null when it can.</param>
internal sealed record CrossedRow(CrossedLook Look, string Print, IReadOnlyList<string> Bakes, string? WhyNot);

/// <summary>Which crossing of a scene is asked for.</summary>
/// <param name="Fit">With the best fit wherever it wins.</param>
internal sealed record AskedCrossing(string Model, CrossingRoute Route, bool Fit);

/// <summary>Materials of scenes as they would be in other shading models; what was worked out of a scene as it stands is kept.</summary>
internal sealed class CrossedScenes(CurrentScenes current, SceneMemory memory, DiskStore disk)
{
    private sealed class Kept
    {
        public required CurrentState State { get; init; }

        public Dictionary<(string, CrossingRoute), ImmutableArray<CrossedRow>> ByModel { get; } = [];
    }

    /// <summary>All materials of other models that can be carried.</summary>
    public async Task<(CurrentState State, ImmutableArray<CrossedRow> Looks)> Get(
        Guid id,
        string model,
        CrossingRoute route,
        CancellationToken stop
    )
    {
        if (!Crossings.Carries(model))
            throw new Core.Files.CannotUseException($"Nothing is carried to “{model}”.");
        var state = await current.Get(id, stop);
        using var turn = await memory.Turn<Kept>(id, stop);
        var kept = memory.Get<Kept>(id) is { } known && ReferenceEquals(known.State, state) ? known : new() { State = state };
        if (!kept.ByModel.TryGetValue((model, route), out var looks))
        {
            kept.ByModel[(model, route)] = looks = [.. Looks(state, model, route)];
            memory.Put(id, kept, SceneMemory.Weight(state.Report) * kept.ByModel.Count);
        }

        return (state, looks);
    }

    private static IEnumerable<CrossedRow> Looks(CurrentState state, string model, CrossingRoute route)
    {
        var scene = state.Report.Scene;
        var references = new ReferencesByKey(state.Report);
        var maker = SceneFormats.Of(scene.Path).Capabilities.Maker;
        var draft = new SceneDraft(scene);
        foreach (var material in scene.Materials.Where(m => !m.IsTemplate))
            if (CrossedLook.Of(material, references, model, route, []) is { } look)
            {
                var needs = CrossedNeeds.Of(maker, draft, material, look.Crossed);
                yield return new(look, look.Print, [.. needs.Images.Select(i => i.Bake.Token)], needs.WhyNot);
            }
    }

    public CrossingView View(AuditState audit, ImmutableArray<CrossedRow> looks, AskedCrossing asked, string? config)
    {
        var (state, scene, destination) = (audit.Current, audit.Current.Report.Scene, audit.Scene.Destination);
        var model = asked.Model;
        var rows = Rows(state, looks, asked)
            .OrderByDescending(r => r.Moved?.Mean ?? -1)
            .ThenBy(r => r.Material, StringComparer.Ordinal)
            .ToList();
        var crossing = looks.Select(l => l.Look.Material.Name).ToHashSet(StringComparer.Ordinal);
        var pairs = CrossingEntries.Pairs(scene, state.Ledger);
        bool Wears(string name) => scene.Meshes.Any(m => m.Parts.Any(p => p.Material == name));
        var can = SceneFormats.Of(scene.Path).Capabilities;
        return new(
            model,
            ShadingModels.Find(model)!.Name,
            CrossingGoals.Of(scene, destination).Select(g => new ModelChoice(g.Model.Id, g.Model.Name, g.WhyNot, g.IsWanted)),
            asked.Route,
            asked.Fit,
            looks.Any(l => l.Look.Crossed.HasRoutes),
            CrossingGoals.Limit(destination),
            rows,
            scene.Materials.Count(m => !m.IsTemplate && CrossingGoals.ModelOf(m) == model),
            scene
                .Materials.Where(m => !m.IsTemplate && !crossing.Contains(m.Name) && CrossingGoals.ModelOf(m) != model)
                .Select(m => m.Name),
            audit.Report.Findings.Count(f =>
                f.Severity == Severity.Blocker
                && !audit.Waivers.ContainsKey(f.Cause.Key)
                && f.Target.Material is { } material
                && crossing.Contains(material)
            ),
            new(CrossingGoals.Spaces(scene, destination), destination.ColourManagement, config),
            pairs.Length,
            new(pairs.Any(p => Wears(p.Arrived)), pairs.Any(p => Wears(p.Crossed))),
            pairs.Count(p => !Wears(p.Arrived)),
            can.WhyNot(SceneAct.RemoveMaterial)
        );
    }

    /// <summary>What was measured of a material; null before.</summary>
    public MovedLook? Moved(CrossedRow row) => MovedLook.Read(disk.Crossing(row.Print));

    /// <summary>The look with the numbers that are asked for.</summary>
    public CrossedLook Numbers(CrossedRow row, bool fit) =>
        fit && Moved(row)?.Better is { } best ? row.Look with { Crossed = row.Look.Crossed.With(best.Set) } : row.Look;

    public IEnumerable<CrossRow> Rows(CurrentState state, IEnumerable<CrossedRow> looks, AskedCrossing asked)
    {
        var entries = new Dictionary<string, (int Place, bool IsPending, string Crossed)>(StringComparer.Ordinal);
        foreach (var (entry, place) in state.Ledger.Entries.Select((e, i) => (e, i + 1)))
        foreach (var edit in entry.Edits.OfType<CrossMaterial>().Where(c => c.Model == asked.Model))
            entries[edit.Material] = (place, entry.State == EntryState.Pending, edit.Beside);
        foreach (var row in looks)
        {
            var (look, print, bakes, why) = row;
            var moved = Moved(row);
            var there = entries.TryGetValue(look.Material.Name, out var entry);
            int Count(MappingKind kind) => look.Crossed.Mappings.Count(m => m.Kind == kind);
            yield return new(
                look.Material.Name,
                look.Crossed.From,
                Count(MappingKind.Exact),
                Count(MappingKind.Approximate),
                Count(MappingKind.Lost),
                moved is null ? null : MovedItem.Of(moved, asked.Fit),
                moved is not null || File.Exists(disk.Crossing(print)),
                why,
                bakes,
                there ? entry.Place : null,
                there && entry.IsPending,
                there ? entry.Crossed : null
            );
        }
    }
}
