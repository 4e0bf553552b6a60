using RootCall.Core.Edits;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class EmissionWithoutColour : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.emission-without-colour", "An emission strength without a colour", Severity.Warning)
        {
            Expects = "What has an emission strength has a colour to emit.",
            Why = "A strength times black is black: the colour or its map was lost.",
            Source = "KHR_materials_emissive_strength; OpenPBR 1.1, “Emission”.",
            Evidence =
                "A strength above zero is written, and the colour is black by what is written or by the model's default. "
                + "Silent where a map gives the colour.",
            Fix = "Takes the strength back to what it is without a word.",
            Example = Example.Gltf(
                """
                {
                  "name": "lamp",
                  "emissiveFactor": [0, 0, 0],
                  "extensions": { "KHR_materials_emissive_strength": { "emissiveStrength": 8 } }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            material.Role(Role.EmissionStrength) is not { Input.Value: { Numbers: [var strength, ..] } written } weight
            || strength <= 0
            || (material.IsGltf && strength == 1)
        )
            yield break;
        if (material.Role(Role.Emission) is { } colour && (colour.IsConnected || colour.Largest is not 0))
            yield break;
        if (material.Role(Role.Emission) is null && material.Model!.Input(Role.Emission)?.Default is not [0, 0, 0])
            yield break; // Some models emit white unless told otherwise.
        yield return Found(
                weight,
                Invariant($"{material.Name} emits {strength:0.###} times black."),
                "material has an emission strength and no colour",
                "materials have an emission strength and no colour"
            )
            .With(new ValueEvidence(weight.Name, Invariant($"{strength:0.###}"), "default"))
            .Fix($"Leave {weight.Name} to its default", 0.6, new SetValue(material.Name, weight.Name, written, null))
            .Decide("If it should glow, give it its colour or its map instead.");
    }
}
