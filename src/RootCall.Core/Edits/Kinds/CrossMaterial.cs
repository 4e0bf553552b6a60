using System.Collections.Immutable;
using RootCall.Core.Crossing;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Edits;

/// <summary>
/// Carries a material to another shading model. The crossed one is put beside it; where the format assigns face by face, it takes the
/// place of the one that arrived, which is kept under the other name.
/// </summary>
/// <param name="Model">Id of a shading model that the format can say.</param>
/// <param name="Beside">A name that no material has.</param>
/// <param name="Set">What the artist or a fit says in place of the formulas.</param>
public sealed record CrossMaterial(string Material, string Model, string Beside, ImmutableArray<SetInput> Set) : Edit
{
    public CrossingRoute Route { get; init; }

    /// <summary>Inputs that read images which were made for them, where the format cannot say what feeds them.</summary>
    public ImmutableArray<BakedInput> Baked
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    public override string Target => $"material {Beside}";

    public override EditText Text => new("material", Beside, "none", $"{Material} as {ModelName}");

    public override string Word => "cross";

    private string ModelName => ShadingModels.Find(Model)?.Name ?? Model;

    public override string Describe() => $"Carry {Material} to {ModelName} as {Beside}";

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if ((draft.Before.Broken ?? can.ReadOnlyBecause) is { } broken)
            return broken.EndsWith('.') ? broken : $"{broken}.";
        if (can.Maker is not { } maker)
            return $"{can.Name} takes no new materials here.";
        if (!maker.Models.Contains(Model))
            return $"{can.Name} does not say {ModelName}.";
        if (can.WhyNotName(Beside) is { } unnamed)
            return unnamed;
        if (draft.Find(Material) is not (>= 0 and var at))
            return NoMaterial(Material);
        if (draft.Find(Beside) >= 0)
            return $"The scene has a material {Beside} already.";
        var source = draft.Materials[at];
        if (Crossings.Of(source.Graph, Model, Route) is not { } crossed)
            return $"{Material} has no surface whose shading model can be carried.";
        if (crossed.From == Model)
            return $"{Material} is {ModelName} already.";
        var made = maker.Make(draft, source, Beside, BakedLook.Of(crossed.With(Set).Graph, Baked));
        if (made.Unsaid.FirstOrDefault() is { } unsaid)
            return unsaid.Why;
        if (can.WhyNot(SceneAct.Assign) is null)
            draft.Add(made.Material);
        else
        {
            draft.Put(at, made.Material with { Name = source.Name, Id = source.Id });
            draft.Add(source with { Name = Beside, Id = Beside });
        }

        draft.Ripples = true;
        return null;
    }

    protected override Edit? Reverse() => null;
}
