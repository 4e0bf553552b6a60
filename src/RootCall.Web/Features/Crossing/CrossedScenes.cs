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
/// <param name="Unsaid">What images are called that have to be baked for it.</param>
/// <param name="WhyNot">Why the scene's format cannot hold it, whatever is baked; null when it can.</param>
internal sealed record CrossedRow(CrossedLook Look, string Print, IReadOnlyList<string> Unsaid, string? WhyNot);

/// <summary>Materials of scenes as they would be in other shading models; what was worked out of a scene as it stands is kept.</summary>
internal sealed class CrossedScenes(CurrentScenes current, SceneMemory memory, DiskStore disk)
{
    /// <summary>How far a look may move where a destination does not say (common practice: a difference seen only side by side).</summary>
    private const double Limit = 2;

    private sealed class Kept
    {
        public required CurrentState State { get; init; }

        public Dictionary<(string, CrossingRoute), ImmutableArray<CrossedRow>> ByModel { get; } = [];
    }

    /// <summary>
    /// The model that is crossed to when nobody chose one: the destination's, else the first that the format can hold, else one to look at.
    /// </summary>
    public static string Usual(Scene scene, Destination destination)
    {
        var sayable = Choices(scene, destination).Where(c => c.WhyNot is null).ToList();
        var from = scene
            .Materials.Select(m => ShadingModels.OfType(m.Graph.SurfaceNode?.Type ?? string.Empty)?.Id)
            .GroupBy(m => m)
            .MaxBy(g => g.Count())
            ?.Key;
        return (sayable.FirstOrDefault(c => c.IsWanted && c.Id != from) ?? sayable.FirstOrDefault(c => c.Id != from))?.Id
            ?? (from == "open-pbr" ? "gltf-metallic-roughness" : "open-pbr");
    }

    public static IEnumerable<ModelChoice> Choices(Scene scene, Destination destination)
    {
        var can = SceneFormats.Of(scene.Path).Capabilities;
        return ShadingModels
            .All.Where(m => Crossings.Carries(m.Id))
            .Select(m => new ModelChoice(m.Id, m.Name, CrossingEntries.WhyNot(can, m.Id), destination.Models.Contains(m.Id)))
            .OrderBy(c => c.WhyNot is not null)
            .ThenBy(c => c.Name, StringComparer.Ordinal);
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
                yield return Row(maker?.Models.Contains(model) == true ? maker : null, draft, look);
    }

    private static CrossedRow Row(ILookMaker? maker, SceneDraft draft, CrossedLook look)
    {
        if (maker?.Make(draft, look.Material, look.Material.Name, look.Crossed.Graph).Unsaid is not { IsEmpty: false } unsaid)
            return new(look, look.Print, [], null);
        var images = maker.Images(look.Crossed.Graph, [.. unsaid.Select(u => u.Input)]);
        var fed = images.SelectMany(i => i.Feeds).Select(f => f.Input).ToHashSet();
        return new(look, look.Print, [.. images.Select(i => i.Bake.Token)], unsaid.FirstOrDefault(u => !fed.Contains(u.Input))?.Why);
    }

    public CrossingView View(AuditState audit, ImmutableArray<CrossedRow> looks, string model, CrossingRoute route, string? config)
    {
        var (state, scene) = (audit.Current, audit.Current.Report.Scene);
        var rows = Rows(state, looks, model)
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
            can.Name,
            Choices(scene, audit.Scene.Destination),
            route,
            looks.Any(l => l.Look.Crossed.HasRoutes),
            Limit,
            rows.Count(r => r.IsMeasured),
            rows,
            scene.Materials.Count(m => !m.IsTemplate && ShadingModels.OfType(m.Graph.SurfaceNode?.Type ?? string.Empty)?.Id == model),
            scene
                .Materials.Where(m =>
                    !m.IsTemplate
                    && !crossing.Contains(m.Name)
                    && ShadingModels.OfType(m.Graph.SurfaceNode?.Type ?? string.Empty)?.Id != model
                )
                .Select(m => m.Name),
            audit.Report.Findings.Count(f =>
                f.Severity == Severity.Blocker
                && !audit.Waivers.ContainsKey(f.Cause.Key)
                && f.Target.Material is { } material
                && crossing.Contains(material)
            ),
            Colours(scene, audit.Scene.Destination, config),
            pairs.Length,
            new(pairs.Any(p => Wears(p.Arrived)), pairs.Any(p => Wears(p.Crossed))),
            pairs.Count(p => !Wears(p.Arrived)),
            can.WhyNot(SceneAct.RemoveMaterial)
        );
    }

    public IEnumerable<CrossRow> Rows(CurrentState state, IEnumerable<CrossedRow> looks, string model)
    {
        var entries = new Dictionary<string, (int Place, bool IsPending, string Crossed)>(StringComparer.Ordinal);
        foreach (var (entry, place) in state.Ledger.Entries.Select((e, i) => (e, i + 1)))
        foreach (var edit in entry.Edits.OfType<CrossMaterial>().Where(c => c.Model == model))
            entries[edit.Material] = (place, entry.State == EntryState.Pending, edit.Beside);
        foreach (var (look, print, unsaid, why) in looks)
        {
            var place = disk.Crossing(print);
            var moved = MovedLook.Read(place);
            var there = entries.TryGetValue(look.Material.Name, out var entry);
            int Count(MappingKind kind) => look.Crossed.Mappings.Count(m => m.Kind == kind);
            yield return new(
                look.Material.Name,
                look.Crossed.From,
                Count(MappingKind.Exact),
                Count(MappingKind.Approximate),
                Count(MappingKind.Lost),
                moved is null ? null : MovedItem.Of(moved),
                moved is not null || File.Exists(place),
                why,
                unsaid,
                there ? entry.Place : null,
                there && entry.IsPending,
                there ? entry.Crossed : null
            );
        }
    }

    private static ColourHeld Colours(Scene scene, Destination destination, string? config) =>
        new(
            scene
                .Materials.SelectMany(m => m.Graph.Nodes)
                .Select(n => n.Image)
                .OfType<ImageUse>()
                .Select(u => (u.Reference, u.DeclaredSpace, u.EffectiveSpace))
                .Distinct()
                .GroupBy(u => u.DeclaredSpace)
                .OrderByDescending(g => g.Count())
                .Select(g => new DeclaredSpace(
                    g.Key,
                    g.Count(),
                    destination.ColourSpaces.IsEmpty
                        || g.All(u =>
                            u.EffectiveSpace is ColourSpace.Data or ColourSpace.Unsaid
                            || destination.ColourSpaces.Contains(u.EffectiveSpace)
                        )
                )),
            destination.ColourManagement,
            config
        );
}
