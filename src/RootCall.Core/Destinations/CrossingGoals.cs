using System.Collections.Immutable;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Destinations;

/// <summary>A shading model that a scene can be carried to.</summary>
/// <param name="WhyNot">Why a scene of this format cannot hold it; null when it can.</param>
/// <param name="IsWanted">The destination evaluates it.</param>
public sealed record CrossingGoal(ShadingModel Model, string? WhyNot, bool IsWanted);

/// <summary>A colour space that images declare.</summary>
/// <param name="Space">As files write it; empty for none.</param>
/// <param name="IsKnown">The destination works with it.</param>
public sealed record DeclaredSpace(string Space, int Images, bool IsKnown);

/// <summary>What a destination asks of a crossing: which shading models, and which colours.</summary>
public static class CrossingGoals
{
    /// <summary>How far a look may move where a destination does not say (common practice: a difference seen only side by side).</summary>
    public const double UsualLimit = 2;

    /// <summary>How far a look may move: mean ΔE.</summary>
    public static double Limit(Destination destination) => destination.LooksMove ?? UsualLimit;

    /// <summary>All models, those that the scene's format can hold first.</summary>
    public static ImmutableArray<CrossingGoal> Of(Scene scene, Destination destination)
    {
        var can = SceneFormats.Of(scene.Path).Capabilities;
        return
        [
            .. ShadingModels
                .All.Where(m => Crossings.Carries(m.Id))
                .Select(m => new CrossingGoal(m, CrossingEntries.WhyNot(can, m.Id), destination.Models.Contains(m.Id)))
                .OrderBy(g => g.WhyNot is not null)
                .ThenBy(g => g.Model.Name, StringComparer.Ordinal),
        ];
    }

    /// <summary>
    /// The model that is crossed to when nobody chose one: the destination's, else the first that the format can hold, else one to look at.
    /// </summary>
    public static string Usual(Scene scene, Destination destination)
    {
        var sayable = Of(scene, destination).Where(g => g.WhyNot is null).ToList();
        var from = scene.Materials.Select(ModelOf).GroupBy(m => m).MaxBy(g => g.Count())?.Key;
        return (sayable.Find(g => g.IsWanted && g.Model.Id != from) ?? sayable.Find(g => g.Model.Id != from))?.Model.Id
            ?? (from == "open-pbr" ? "gltf-metallic-roughness" : "open-pbr");
    }

    /// <summary>Id of a material's shading model; null for none, or one that is not known.</summary>
    public static string? ModelOf(Material material) => ShadingModels.OfType(material.Graph.SurfaceNode?.Type ?? string.Empty)?.Id;

    /// <summary>How many materials have a surface of another model than that.</summary>
    public static int ToCarry(Scene scene, string model) =>
        scene.Materials.Count(m => !m.IsTemplate && m.Graph.SurfaceNode is not null && ModelOf(m) != model);

    /// <summary>Colour spaces that images of materials declare, the most used first.</summary>
    public static IEnumerable<DeclaredSpace> Spaces(Scene scene, Destination destination) =>
        scene
            .Materials.SelectMany(m => m.Graph.Nodes)
            .Select(n => n.Image)
            .OfType<ImageUse>()
            .Select(u => (u.Reference, u.DeclaredSpace, u.EffectiveSpace))
            .Distinct()
            .GroupBy(u => u.DeclaredSpace)
            .OrderByDescending(g => g.Count())
            .Select(g => new DeclaredSpace(g.Key, g.Count(), g.All(u => IsKnown(u.EffectiveSpace, destination))));

    private static bool IsKnown(ColourSpace space, Destination destination) =>
        destination.ColourSpaces.IsEmpty || space is ColourSpace.Data or ColourSpace.Unsaid || destination.ColourSpaces.Contains(space);
}
