using System.Collections.Immutable;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>A look as statements of a material library: a value, and a map that it is multiplied by.</summary>
internal sealed class MtlMaker : ILookMaker
{
    public ImmutableArray<string> Models { get; } = [MtlMaterials.Classic, MtlMaterials.Physical];

    public MadeLook Make(SceneDraft draft, Material source, string name, ShaderGraph look)
    {
        var surface = look.SurfaceNode!;
        var unsaid = ImmutableArray.CreateBuilder<UnsaidInput>();
        var inputs = new List<FixedInput>();
        foreach (var input in surface.Inputs)
        {
            var standard = MtlMaterials.Default(input.Name);
            var (value, image, why) = input.From is null ? (input.Value, null, null) : Mapped(draft, source, look, input);
            if (why is null)
                inputs.Add(new(input.Name, input.Type, value, image, standard));
            else
                unsaid.Add(new(input.Name, why));
        }

        // What no statement says would make it a classic one.
        if (surface.Type == MtlMaterials.Physical && MtlMaterials.ModelOf(inputs.Select(i => i.Name)) != MtlMaterials.Physical)
            inputs.Add(new("Pm", InputType.Float, ShaderValue.Of(0), null, MtlMaterials.Default("Pm")));
        return new(source with { Name = name, Graph = FixedGraph.Build(surface.Type, inputs), Others = [] }, unsaid.ToImmutable());
    }

    /// <summary>What has no map at all is not helped by an image.</summary>
    public ImmutableArray<WantedImage> Images(ShaderGraph look, IReadOnlyCollection<string> unsaid) =>
        WantedImage.Each(look, unsaid.Where(i => MtlMaterials.StatementsOf(i).Count > 0));

    private static (ShaderValue? Value, ImageUse? Image, string? Why) Mapped(
        SceneDraft draft,
        Material source,
        ShaderGraph look,
        ShaderInput input
    )
    {
        var statements = MtlMaterials.StatementsOf(input.Name);
        if (statements.Count == 0)
            return (null, null, $"MTL has no map for {input.Name}.");
        if (ImageFold.Of(look, input) is not { } fold)
            return (null, null, $"MTL has no nodes; {input.Name} is made by some.");
        if (fold.Strength is not (null or 1))
            return (null, null, $"MTL does not say how strongly {input.Name} bends.");
        var multiplied = MtlMaterials.Values.ContainsKey(input.Name) && fold.Base.All(b => b == 0);
        if (!multiplied && (fold.Gain.Distinct().Skip(1).Any() || fold.Base.Distinct().Skip(1).Any()))
            return (null, null, "MTL scales all channels of an image alike.");
        var use = fold.Use with
        {
            Scale = multiplied || fold.IsPlain ? [] : [fold.Gain[0]],
            Bias = multiplied || fold.IsPlain || (fold.Base[0] == 0 && input.Name == "bump") ? [] : [fold.Base[0]],
            Channels = input.Type == InputType.Float ? fold.Picks[0] : Channels.Rgb,
            Slot = statements[0],
            UvSet = string.Empty,
        };
        if (input.Type != InputType.Float && !fold.Picks.SequenceEqual([Channels.R, Channels.G, Channels.B]))
            return (null, null, $"{input.Name} reads red, green and blue in MTL.");
        if (MtlShape.WhyNot(use) is { } why)
            return (null, null, why);
        use = use with { Reference = MtlShape.KeyOf(draft, source.File, use.Reference) };
        return (multiplied && fold.Gain.Any(g => g != 1) ? new(fold.Gain) : null, use, null);
    }
}
