using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
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
            Evidence =
                "The range of the model’s specification. What picks an illumination model is no quantity. Whether a value far beyond 1 is "
                + "a share of 100 or of 255 is told by the values that the scene’s other materials give the same input.",
            Fix = "Sets the nearest value that is allowed; far beyond 1 it offers the value as a share of 100 or of 255.",
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
        var scales = Scales(spec, numbers, scene.Largest(input));
        var likely = scales.IsEmpty ? Nearest(spec, numbers) : Scaled(numbers, scales[0].By);
        var finding = Found(
                input,
                $"{input.Name} of {input.Material.Name} is {written}; the model knows {Show(spec.Min)} to {Show(spec.Max)}.",
                $"{input.What} is beyond the model's range",
                $"values of {input.What} are beyond the model's range",
                input.Name
            )
            .With(
                new NumberEvidence(input.Name, worst, string.Empty, spec.Min, spec.Max),
                new ValueEvidence(input.Name, written.ToString(), likely.ToString())
            );
        SetValue To(ShaderValue value) => new(input.Material.Name, input.Name, written, value);
        if (scales.IsEmpty)
            yield return finding.Fix($"Set {input.Name} to {likely}", 0.9, To(likely));
        else
            yield return scales.Aggregate(finding, (f, scale) =>
            {
                var value = Scaled(numbers, scale.By);
                return f.Fix($"Set {input.Name} to {value}, {scale.Of}", scale == scales[0] ? 0.8 : 0.5, To(value));
            });
    }

    /// <summary>
    /// Far beyond 1 a value was written on another scale; the nearest allowed one would be as wrong. Where nothing in the scene is above
    /// 100 it is more likely a share in percent, else one of 8 bits.
    /// </summary>
    /// <param name="largest">What the scene's materials give the same input at most.</param>
    private static ImmutableArray<(double By, string Of)> Scales(ModelInput spec, ImmutableArray<double> numbers, double largest) =>
        (spec, numbers.Max(), largest) switch
        {
            ({ Min: 0 or null, Max: 1 }, > 2 and <= 100, > 100 and <= 255) => [(255, "a share of 255"), (100, "a share of 100")],
            ({ Min: 0 or null, Max: 1 }, > 2 and <= 100, _) => [(100, "a share of 100"), (255, "a share of 255")],
            ({ Min: 0 or null, Max: 1 }, > 100 and <= 255, _) => [(255, "a share of 255")],
            _ => [],
        };

    private static ShaderValue Scaled(ImmutableArray<double> numbers, double by) => new([.. numbers.Select(n => Math.Round(n / by, 3))]);

    private static ShaderValue Nearest(ModelInput spec, ImmutableArray<double> numbers) =>
        new([.. numbers.Select(n => Math.Clamp(n, spec.Min ?? double.MinValue, spec.Max ?? double.MaxValue))]);

    private static string Show(double? limit) => limit?.ToString("0.###", CultureInfo.InvariantCulture) ?? "any";
}
