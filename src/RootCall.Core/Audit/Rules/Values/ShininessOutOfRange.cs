using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class ShininessOutOfRange : InputRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.shininess-out-of-range", "A shininess that is no exponent", Severity.Warning)
        {
            Expects = "A Phong exponent lies between 1 and 1000.",
            Why = "A value between 0 and 1 is a glossiness that somebody wrote as an exponent: the surface is flat chalk.",
            Source = "Wavefront MTL, “Ns”: 0 to 1000; COLLADA 1.4.1, “shininess”: the exponent of the specular term.",
            Evidence = "0 stands for “not set”. Without a specular colour no exponent matters. 1000 is the end of Wavefront alone.",
            Fix = "Turns a glossiness g into the exponent 2/(1-g)⁴ - 2, at most 1000, and cuts what is above 1000.",
            Example = Example.Mtl(
                """
                newmtl tin
                Kd 0.8 0.8 0.8
                Ks 0.5 0.5 0.5
                Ns 0.6
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(InputView input, AuditScene scene)
    {
        if (input.Role != Role.SpecularExponent || input.Number is not { } n)
            yield break;
        var specular = input.Material.Role(Role.SpecularColour);
        // 0 is “not set” (common practice); the upper end is Wavefront's alone.
        if (n is >= 1 and <= 1000 or 0 || specular is null || specular.Largest is 0)
            yield break;
        if (n > 1000 && !input.Material.Type.StartsWith("mtl-", StringComparison.Ordinal))
            yield break;
        var exponent =
            n is > 0 and < 1 ? Math.Clamp(Math.Round((2 / Math.Pow(1 - n, 4)) - 2, 1), 1, 1000)
            : n > 1000 ? 1000
            : 1;
        yield return Found(
                input,
                Invariant($"{input.Name} of {input.Material.Name} is {n:0.###}."),
                "shininess is no exponent",
                "shininess values are no exponents"
            )
            .With(
                new NumberEvidence(input.Name, n, string.Empty, 1, 1000),
                new ValueEvidence(input.Name, Invariant($"{n:0.###}"), Invariant($"{exponent:0.#}"))
            )
            .Fix(
                Invariant($"Set {input.Name} to {exponent:0.#}"),
                n is > 0 and < 1 ? 0.8 : 0.9,
                new SetValue(input.Material.Name, input.Name, input.Input.Value, ShaderValue.Of(exponent))
            );
    }
}
