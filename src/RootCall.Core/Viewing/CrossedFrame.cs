using System.Globalization;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Viewing;

/// <summary>Which crossing of a whole scene is drawn.</summary>
/// <param name="Model">Id of the shading model that looks are carried to.</param>
/// <param name="Fit">With the best fit wherever it was measured and wins.</param>
public sealed record CrossedFrame(string Model, CrossingRoute Route, bool Fit)
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
            return CrossedLook.Of(origin, references, Model, Route, []) is not { } crossed ? origin.Graph
                : Fit && measured(crossed)?.Better is { } best ? crossed.Crossed.With(best.Set).Graph
                : crossed.Crossed.Graph;
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

    /// <summary>Tells pairs of frames of one scene apart.</summary>
    /// <param name="scene">What the scene as it stands is made of (<see cref="FramePrint"/>).</param>
    public string Print(string scene) => string.Create(CultureInfo.InvariantCulture, $"{scene} {Model} {Route} {Fit}");
}
