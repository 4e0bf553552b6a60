using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class BlackTint : InputRule
{
    /// <summary>Nothing above it is taken for black.</summary>
    internal const double Black = 0.01;

    public override RuleDescriptor Descriptor { get; } =
        new("values.black-tint", "A map multiplied by black", Severity.Blocker)
        {
            Expects = "What multiplies a map is above zero.",
            Why = "The map is there, and the surface renders black or without it.",
            Source = "glTF 2.0, 3.9.2: factors multiply textures; Wavefront MTL, “map_Kd”, “map_Ks”.",
            Evidence =
                "The factor, or the scale of the reading node, is 0 for all three colours of a base colour map. Silent about all "
                + "other inputs, where 0 switches off what the map is for: highlights, emission, roughness, metalness.",
            Fix = "Sets the factor to 1.",
            Example = Example.Mtl(
                """
                newmtl pot
                Kd 0 0 0
                map_Kd textures/pot_basecolor.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(InputView input, AuditScene scene)
    {
        if (input.Role != Role.BaseColour)
            yield break; // Elsewhere 0 means that what the map is for is off.
        foreach (var black in input.Maps.Where(m => IsBlack(m.Use)))
            yield return Found(
                    input,
                    $"{black.FileText} is read with a scale of 0 at {input.Name} of {input.Material.Name}.",
                    "map is multiplied by black",
                    "maps are multiplied by black"
                )
                .With(new ValueEvidence("scale", string.Join(' ', black.Use.Scale), "1 1 1 1"), new PictureEvidence(black.Use.Reference))
                .Fix("Set its scale to 1", 0.93, black.Read(u => u with { Scale = scene.IsUsd ? [1, 1, 1, 1] : [], Bias = [] }));
        if (input.Maps is not [var map, ..] || input.Factor?.Numbers is not { Length: > 0 } factor || factor.Max() > Black)
            yield break;
        var white = new ShaderValue([.. factor.Select(_ => 1.0)]);
        yield return Found(
                input,
                $"{map.FileText} is multiplied by {input.Factor} at {input.Name} of {input.Material.Name}.",
                "map is multiplied by black",
                "maps are multiplied by black"
            )
            .With(new ValueEvidence(input.Name, input.Factor.ToString(), white.ToString()), new PictureEvidence(map.Use.Reference))
            .Fix($"Set {input.Name} to {white}", 0.93, new SetValue(input.Material.Name, input.Name, input.Factor, white));
    }

    /// <summary>UsdUVTexture: the value times the scale plus the bias.</summary>
    private static bool IsBlack(ImageUse use) =>
        use.Scale is { Length: >= 3 } scale
        && scale.Take(3).All(s => s == 0)
        && (use.Bias.IsDefaultOrEmpty || use.Bias.Take(3).All(b => b <= 0));
}
