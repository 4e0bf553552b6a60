using System.Collections.Immutable;
using RootCall.Cli.Output;
using RootCall.Core.Audit;
using RootCall.Core.Crossing;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;

namespace RootCall.Cli.Verbs;

/// <summary>How materials of one scene are carried to a model: by formulas, with what a recipe and a fit say in their place.</summary>
/// <param name="moment">A folder for images that have to be taken out of the scene before they are decoded.</param>
internal sealed class Carrying(OpenedScene opened, TextureCache textures, string moment, string to)
{
    private readonly ReferencesByKey references = new(opened.Report);

    public string To => to;

    public CrossingRoute Route { get; init; }

    public bool Fit { get; init; }

    public Recipe? Recipe { get; init; }

    /// <summary>What the house calls things.</summary>
    public HouseRules House { get; init; } = HouseRules.Standard;

    /// <summary>Makes the images that looks need.</summary>
    /// <param name="maker">How the format says looks; null for that of the scene.</param>
    public LookBaking Baking(string folder, ILookMaker? maker = null) =>
        new(opened.Report, new(opened.Decoder, FrameWorks.TextureBytes, LookBaking.LargestSide), opened.Decoder, moment, folder, maker)
        {
            Called = House.Baked(opened.Context.Names),
        };

    public CarriedMaterial Of(Material material)
    {
        if (Crossings.Of(material.Graph, to, Route) is not { } plain)
            return new(material, to, null, [], null);
        if (plain.From == to)
            return new(material, to, plain, [], new LookDifference(0, 0, 0));
        var hand = Recipe?.Crossed(to, material.Name) ?? [];
        CrossedLook Look(ImmutableArray<SetInput> said) => CrossedLook.Of(material, references, to, Route, said)!;
        MovedLook? Moved(CrossedLook look) => MovedLook.Of(look, textures, moment, CancellationToken.None);
        var formulas = Look([]);
        var moved = Moved(formulas);
        var best = Fit ? moved?.WithFit(formulas, textures, moment, CancellationToken.None).Better : null;
        var set = (best?.Set ?? []).Under(hand);
        var apart = hand.IsEmpty ? best?.All ?? moved?.All : Moved(Look(set))?.All;
        return new(material, to, plain.With(set), set, apart) { Formula = set.IsEmpty ? null : moved?.All };
    }
}

/// <summary>A material as it is carried.</summary>
/// <param name="Crossed">Null where its model cannot be carried.</param>
/// <param name="Set">What is said in place of the formulas.</param>
/// <param name="Moved">How far its look moves; null where it is not drawn.</param>
internal sealed record CarriedMaterial(
    Material Material,
    string To,
    CrossedMaterial? Crossed,
    ImmutableArray<SetInput> Set,
    LookDifference? Moved
)
{
    /// <summary>How far the formulas alone would move it; null where they are all there is.</summary>
    public LookDifference? Formula { get; init; }

    /// <param name="why">Why it was not written; null when it was.</param>
    public ConvertedJson Row(string? why) =>
        new(
            Material.Name,
            Crossed?.From ?? Material.Graph.SurfaceNode?.Type ?? string.Empty,
            To,
            Json(Moved),
            Json(Formula),
            [
                .. from m in Crossed?.Mappings ?? []
                select new MappingJson(string.Join(", ", m.From), m.To, m.Kind, m.Detail, m.Before, m.After),
            ],
            Crossed is null ? why ?? "Its shading model cannot be carried." : why
        );

    private static DeltaEJson? Json(LookDifference? moved) => moved is null ? null : new(moved.Mean, moved.High, moved.Most);
}
