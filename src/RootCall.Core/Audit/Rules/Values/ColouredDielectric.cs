using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class ColouredDielectric : InputRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.coloured-dielectric", "A coloured highlight on what is no metal", Severity.Note)
        {
            Expects = "The highlight of a dielectric has no colour.",
            Why = "Only metals colour their reflection; painted wood begins to look like candy.",
            Source = "glTF 2.0, appendix B: F0 of a dielectric is grey; Burley, “Physically-Based Shading” (SIGGRAPH 2012).",
            Evidence =
                "A specular colour on a material whose metalness is written as less than half. Silent in models without "
                + "a metalness, where metals are made so, in the specular workflow, and where a map decides.",
            Fix = "Sets the specular colour to white.",
            Thresholds = [new("most", 0.15, string.Empty, "Largest difference between the channels.")],
            Example = Example.Mtlx(
                """
                <standard_surface name="SR_door" type="surfaceshader">
                  <input name="specular_color" type="color3" value="1, 0.5, 0.3"/>
                </standard_surface>
                <surfacematerial name="door" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_door"/>
                </surfacematerial>
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(InputView input, AuditScene scene)
    {
        if (
            input.Role != Role.SpecularColour
            || input.IsConnected
            || input.Numbers is not { Length: 3 } c
            // Without a metalness, a metal says what it is by this very colour.
            || input.Material.Number(Role.Metalness) is not < 0.5
            || input.Material.Role(Role.Metalness)?.IsConnected == true
        )
            yield break;
        if (input.Material.IsPreview && input.Material.Input("useSpecularWorkflow")?.Number == 1)
            yield break; // There it is how metals are made.
        var spread = c.Max() - c.Min();
        if (spread <= Limit(scene, "most") || c.Max() < 0.1)
            yield break;
        var grey = ShaderValue.Of(c.Max(), c.Max(), c.Max());
        yield return Found(
                input,
                $"{input.Name} of {input.Material.Name} is {input.Input.Effective}; it is no metal.",
                "dielectric has a coloured highlight",
                "dielectrics have a coloured highlight"
            )
            .With(
                new NumberEvidence("difference between the channels", Math.Round(spread, 3), string.Empty, 0, Limit(scene, "most")),
                new ValueEvidence(input.Name, input.Input.Effective!.ToString(), grey.ToString())
            )
            .Fix($"Set {input.Name} to {grey}", 0.6, new SetValue(input.Material.Name, input.Name, input.Input.Value, grey));
    }
}
