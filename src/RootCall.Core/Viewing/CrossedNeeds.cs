using System.Collections.Immutable;
using RootCall.Core.Crossing;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>What a scene needs to hold a crossed material.</summary>
/// <param name="Images">Those that have to be made for it.</param>
/// <param name="WhyNot">Why it cannot be held, whatever is made; null when it can.</param>
public sealed record CrossedNeeds(ImmutableArray<WantedImage> Images, string? WhyNot)
{
    private static readonly CrossedNeeds None = new([], null);

    /// <param name="maker">Of the scene's format; null for one that takes no new materials.</param>
    public static CrossedNeeds Of(ILookMaker? maker, SceneDraft draft, Material material, CrossedMaterial crossed)
    {
        if (
            maker?.Models.Contains(crossed.To) != true
            || maker.Make(draft, material, material.Name, crossed.Graph).Unsaid is not { IsEmpty: false } unsaid
        )
            return None;
        var images = maker.Images(crossed.Graph, [.. unsaid.Select(u => u.Input)]);
        var fed = images.SelectMany(i => i.Feeds).Select(f => f.Input).ToHashSet(StringComparer.Ordinal);
        return new(
            images,
            unsaid.FirstOrDefault(u => !fed.Contains(u.Input))?.Why
                ?? images.Select(i => Bakeable.WhyNot(crossed.Graph, i.Bake)).FirstOrDefault(w => w is not null)
        );
    }
}
