using System.Globalization;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Viewing;

/// <summary>A crossing of a whole scene.</summary>
/// <param name="Model">Id of the shading model that looks are carried to.</param>
/// <param name="Fit">With the best fit wherever it was measured and wins.</param>
public sealed record WholeCrossing(string Model, CrossingRoute Route, bool Fit)
{
    /// <summary>
    /// The scene in the looks that arrived, or in those of the other model: what was taken over already as it was, all else as it would
    /// be. The scene itself stays as it is.
    /// </summary>
    /// <param name="measured">What was measured of a look; null before.</param>
    public MusterReport Dressed(MusterReport report, Ledger ledger, WornLook look, Func<CrossedLook, MovedLook?> measured)
    {
        var scene = report.Scene;
        var references = new ReferencesByKey(report);
        var pairs = CrossingEntries.Pairs(scene, ledger);
        var arrived = pairs.DistinctBy(p => p.Crossed).ToDictionary(p => p.Crossed, p => p.Arrived);
        var taken = pairs.ToDictionary(p => p.Arrived, p => p.Crossed);
        ShaderGraph GraphOf(Material material)
        {
            var origin = arrived.TryGetValue(material.Name, out var from) ? scene.Called(from) ?? material : material;
            if (look == WornLook.Arrived)
                return origin.Graph;
            if (
                taken.TryGetValue(origin.Name, out var beside)
                && scene.Called(beside) is { } there
                && ShadingModels.OfType(there.Graph.SurfaceNode?.Type ?? string.Empty)?.Id == Model
            )
                return there.Graph;
            return Carried(origin, references, measured)?.Graph ?? origin.Graph;
        }

        return report with
        {
            Scene = scene with
            {
                Materials =
                [
                    .. scene.Materials.Select(m => m.IsTemplate || m.Graph.SurfaceNode is null ? m : m with { Graph = GraphOf(m) }),
                ],
            },
        };
    }

    /// <summary>Every material with its look in the other model; originals that stand by unused are left out.</summary>
    /// <param name="measured">What was measured of a look; null before.</param>
    public IEnumerable<LookToCarry> Looks(MusterReport report, Ledger ledger, Func<CrossedLook, MovedLook?> measured)
    {
        var scene = report.Scene;
        var references = new ReferencesByKey(report);
        var worn = scene.Meshes.SelectMany(m => m.Parts.Select(p => p.Material)).ToHashSet(StringComparer.Ordinal);
        var idle = CrossingEntries
            .Pairs(scene, ledger)
            .Select(p => p.Arrived)
            .Where(a => !worn.Contains(a))
            .ToHashSet(StringComparer.Ordinal);
        return scene
            .Materials.Where(m => !m.IsTemplate && m.Graph.SurfaceNode is not null && !idle.Contains(m.Name))
            .Select(m => new LookToCarry(m, Carried(m, references, measured) ?? Crossings.Of(m.Graph, Model, Route)));
    }

    /// <summary>Null for a look that cannot be carried, or is of that model already.</summary>
    private CrossedMaterial? Carried(Material material, ReferencesByKey references, Func<CrossedLook, MovedLook?> measured) =>
        CrossedLook.Of(material, references, Model, Route, []) is not { } look ? null
        : Fit && measured(look)?.Better is { } best ? look.Crossed.With(best.Set)
        : look.Crossed;

    /// <summary>Tells pairs of frames of one scene apart.</summary>
    /// <param name="scene">What the scene as it stands is made of (<see cref="FramePrint"/>).</param>
    public string Print(string scene) => string.Create(CultureInfo.InvariantCulture, $"{scene} {Model} {Route} {Fit}");
}

/// <summary>A material with its look in another shading model; null where its model cannot be carried.</summary>
public sealed record LookToCarry(Material Material, CrossedMaterial? Crossed);
