using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class MidwayMetalness : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.midway-metalness", "Half a metal", Severity.Note)
        {
            Expects = "Metalness is 0 or 1; between lies only the edge of two materials in a map.",
            Why = "No material is half a metal: the highlight is grey and the base too dark.",
            Source = "glTF 2.0, 3.9.2 and appendix B: a surface is a metal or a dielectric; values between are for blending.",
            Evidence = "The value as it is written. Silent where a map decides: its edges lie between.",
            Fix = "Sets the nearer of the two.",
            Thresholds =
            [
                new("low", 0.1, string.Empty, "Up to here it is no metal."),
                new("high", 0.9, string.Empty, "From here on it is one."),
            ],
            Example = Example.Gltf("""{ "name": "lid", "pbrMetallicRoughness": { "metallicFactor": 0.5, "roughnessFactor": 0.3 } }"""),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (material.Role(Role.Metalness) is not { Number: { } n } input || n <= Limit(scene, "low") || n >= Limit(scene, "high"))
            yield break;
        var nearer = n < 0.5 ? 0.0 : 1;
        yield return Found(
                input,
                Invariant($"{input.Name} of {material.Name} is {n:0.###}."),
                "material is half a metal",
                "materials are half metals"
            )
            .With(
                new NumberEvidence(input.Name, n, string.Empty, 0, Limit(scene, "low")),
                new ValueEvidence(input.Name, Invariant($"{n:0.###}"), $"{nearer}")
            )
            .Fix(
                $"Set {input.Name} to {nearer}",
                Math.Abs(n - 0.5) > 0.25 ? 0.7 : 0.5,
                new SetValue(material.Name, input.Name, input.Input.Value, ShaderValue.Of(nearer))
            );
    }
}
