using RootCall.Core.Edits;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class BeyondClamp : InputRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.beyond-clamp", "A value beyond the model's range", Severity.Warning)
        {
            Expects = "Every value lies in the range that the model's specification gives it.",
            Why = "Some renderers clamp it, others make energy of it: two looks from one file.",
            Source = "The model's published specification, named with each model.",
            Evidence = "The range of the model’s specification. What picks an illumination model is no quantity.",
            Fix = "Sets the nearest value that is allowed.",
            Example = Example.Gltf("""{ "name": "tin", "pbrMetallicRoughness": { "roughnessFactor": 1.8 } }"""),
        };

    public override IEnumerable<Finding> Inspect(InputView input, AuditScene scene)
    {
        if (
            input.Spec is not { } spec
            || (input.IsConnected ? input.Factor : input.Input.Value) is not { Numbers: { Length: > 0 } numbers } written
        )
            yield break;
        if (input.Role is Role.IndexOfRefraction or Role.SpecularExponent or Role.OpacityThreshold || input.Name == "illum")
            yield break; // They have rules of their own; the number of an illumination model is no quantity.
        bool Out(double n) => n < spec.Min || n > spec.Max;
        if (!numbers.Any(Out))
            yield break;
        var worst = numbers.First(Out);
        var allowed = new Scenes.ShaderValue([
            .. numbers.Select(n => Math.Clamp(n, spec.Min ?? double.MinValue, spec.Max ?? double.MaxValue)),
        ]);
        yield return Found(
                input,
                $"{input.Name} of {input.Material.Name} is {written}; the model knows "
                    + $"{spec.Min?.ToString("0.###", System.Globalization.CultureInfo.InvariantCulture) ?? "any"} to "
                    + $"{spec.Max?.ToString("0.###", System.Globalization.CultureInfo.InvariantCulture) ?? "any"}.",
                $"{input.What} is beyond the model's range",
                $"values of {input.What} are beyond the model's range",
                input.Name
            )
            .With(
                new NumberEvidence(input.Name, worst, string.Empty, spec.Min, spec.Max),
                new ValueEvidence(input.Name, written.ToString(), allowed.ToString())
            )
            .Fix($"Set {input.Name} to {allowed}", 0.9, new SetValue(input.Material.Name, input.Name, written, allowed));
    }
}
