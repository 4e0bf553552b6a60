using RootCall.Core.Edits;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class Invisible : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.invisible", "Opacity at zero", Severity.Blocker)
        {
            Expects = "A material that something wears lets something be seen.",
            Why = "The mesh is not there in the picture.",
            Source = "glTF 2.0, 3.9.4 “alphaMode”; UsdPreviewSurface Proposal 2.6, opacity; Wavefront MTL, “d” and “Tr”.",
            Evidence =
                "In FBX what passes is the factor times the colour; the old property beside them is not asked. In glTF "
                + "nothing is asked of an opaque material.",
            Fix = "Makes it opaque.",
            Example = Example.Mtl(
                """
                newmtl leaf
                Kd 0.2 0.6 0.2
                d 0
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (var input in material.Inputs.Where(i => i.Role == Role.Opacity))
        {
            if (material.IsGltf && material.Text("alphaMode") is "OPAQUE")
                continue;
            // FBX: what passes is the factor times the colour; exporters write the old property beside them as they please.
            if (
                input.Name == "Opacity"
                && material.Input("TransparencyFactor") is { } factor
                && (factor.Number ?? 1) * (material.Input("TransparentColor")?.Largest ?? 1) < 1
            )
                continue;
            // Transparency counts the other way round; COLLADA's transparency multiplies a colour that is not read here.
            var inverted = input.Name is "Tr" or "TransparencyFactor";
            if (input.Name == "transparency" || input.Numbers.IsEmpty || (input.IsConnected && input.Factor is null))
                continue;
            var opacity = inverted ? 1 - input.Numbers.Min() : input.Numbers.Max();
            if (opacity > 0)
                continue;
            var opaque = inverted ? 0 : 1.0;
            yield return Found(
                    input,
                    Invariant($"{input.Name} of {material.Name} is {input.Numbers[0]:0.###}: it cannot be seen."),
                    "material cannot be seen",
                    "materials cannot be seen"
                )
                .With(new ValueEvidence(input.Name, Invariant($"{input.Numbers[0]:0.###}"), $"{opaque}"))
                .Fix(
                    $"Set {input.Name} to {opaque}",
                    0.85,
                    new SetValue(
                        material.Name,
                        input.Name,
                        input.IsConnected ? input.Factor : input.Input.Value,
                        new([.. Enumerable.Repeat(opaque, input.Numbers.Length)])
                    )
                );
        }
    }
}
