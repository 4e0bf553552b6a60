using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class IorOutOfRange : InputRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.ior-out-of-range", "An index of refraction outside 1 to 3", Severity.Warning)
        {
            Expects = "An index of refraction lies between 1 (air) and 3; diamond has 2.42.",
            Why = "Below 1 the reflection is total or not a number; above 3 everything is a mirror.",
            Source = "KHR_materials_ior: values below 1 are not valid, 0 is a special case; OpenPBR 1.1, specular_ior 1 to 3 (soft range).",
            Evidence =
                "0 stands for “not set” where exporters write it so. In Wavefront, COLLADA and FBX it matters only where "
                + "light passes.",
            Fix = "Sets 1.5.",
            Thresholds = [new("low", 1, string.Empty, "Least."), new("high", 3, string.Empty, "Most.")],
            Example = Example.Mtl(
                """
                newmtl glass
                Kd 0.9 0.9 0.9
                d 0.3
                Ni 0.67
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(InputView input, AuditScene scene)
    {
        if (
            input.Role is not (Role.IndexOfRefraction or Role.CoatIndexOfRefraction or Role.IridescenceIndexOfRefraction)
            || input.Number is not { } n
        )
            yield break;
        if (n >= Limit(scene, "low") && n <= Limit(scene, "high"))
            yield break;
        // KHR_materials_ior: 0 stands for the specular-glossiness look. Elsewhere exporters write 0 for “not set” (common practice).
        if (n == 0 && input.Input.Value is not null && (input.Material.IsGltf || FixedFunction.Is(input.Material)))
            yield break;
        if (FixedFunction.Is(input.Material) && !FixedFunction.LetsLightThrough(input.Material))
            yield break; // There it bends light that passes, and none does.
        yield return Found(
                input,
                Invariant($"{input.Name} of {input.Material.Name} is {n:0.###}."),
                "index of refraction is outside 1 to 3",
                "indices of refraction are outside 1 to 3"
            )
            .With(
                new NumberEvidence(input.Name, n, string.Empty, Limit(scene, "low"), Limit(scene, "high")),
                new ValueEvidence(input.Name, Invariant($"{n:0.###}"), n is > 0.3 and < 1 ? Invariant($"{1 / n:0.###}") : "1.5")
            )
            // Between 0.33 and 1 it is most likely air seen from inside.
            .Fix(
                n is > 0.3 and < 1 ? Invariant($"Set it to its inverse, {1 / n:0.###}") : "Set it to 1.5",
                n is > 0.3 and < 1 ? 0.75 : 0.85,
                new SetValue(
                    input.Material.Name,
                    input.Name,
                    input.Input.Value,
                    ShaderValue.Of(n is > 0.3 and < 1 ? Math.Round(1 / n, 3) : 1.5)
                )
            );
    }
}
