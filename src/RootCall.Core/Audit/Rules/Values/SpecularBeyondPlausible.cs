using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class SpecularBeyondPlausible : InputRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.specular-beyond-plausible", "A highlight that no material has", Severity.Note)
        {
            Expects = "What is no metal reflects 2 to 8 % at normal incidence; metals reflect more than half.",
            Why = "In between lies the plastic look: everything is varnished.",
            Source = "Burley, “Physically-Based Shading” (SIGGRAPH 2012), specular 0 to 1 is F0 0 to 0.08; glTF 2.0, appendix B.",
            Evidence =
                "The input holds a reflectance as such, between what dielectrics and metals have. Silent about weights, "
                + "and where a map decides.",
            Fix = "Sets the specular to the 4 % of an index of refraction of 1.5.",
            Thresholds =
            [
                new("most", 0.08, string.Empty, "Highest reflectance of what is no metal."),
                new("metal", 0.4, string.Empty, "Lowest reflectance that is taken for a metal's."),
            ],
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    int inputs:useSpecularWorkflow = 1
                    color3f inputs:specularColor = (0.22, 0.22, 0.22)
                    token outputs:surface
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(InputView input, AuditScene scene)
    {
        if (input.IsConnected || input.Numbers is not { Length: 3 } colour || !IsReflectance(input))
            yield break;
        var f0 = colour.Max();
        if (f0 <= Limit(scene, "most") || f0 >= Limit(scene, "metal"))
            yield break;
        yield return Found(
                input,
                Invariant($"{input.Name} of {input.Material.Name} reflects {f0:P0} at normal incidence: too much for a dielectric, too ")
                    + $"little for a metal.",
                "highlight is one that no material has",
                "highlights are ones that no material has"
            )
            .With(
                new NumberEvidence("reflectance at normal incidence", Math.Round(f0, 3), string.Empty, 0.02, Limit(scene, "most")),
                new ValueEvidence(input.Name, input.Input.Effective!.ToString(), "0.04 0.04 0.04")
            )
            .Fix(
                $"Set {input.Name} to 0.04",
                0.6,
                new SetValue(input.Material.Name, input.Name, input.Input.Value, ShaderValue.Of(0.04, 0.04, 0.04))
            );
    }

    /// <summary>Inputs that hold a reflectance as such, not a weight or a Phong colour.</summary>
    private static bool IsReflectance(InputView input) =>
        input.Role == Role.SpecularColour
        && (
            input.Material.IsPreview
                ? input.Material.Input("useSpecularWorkflow")?.Number == 1
                : input.Material.Model?.Has(Role.Glossiness) == true
        );
}
