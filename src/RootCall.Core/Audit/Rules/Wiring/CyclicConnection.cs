namespace RootCall.Core.Audit.Rules;

public sealed class CyclicConnection : InputRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.cyclic-connection", "A circle of connections", Severity.Blocker)
        {
            Expects = "A graph has no circles.",
            Why = "Renderers stop, hang, or cut the circle where they please.",
            Source = "MaterialX 1.38, “Node graphs”: graphs are directed and acyclic.",
            Evidence = "The graph followed from the input comes to a node that it has passed.",
            Fix = "Disconnects the image at the surface shader when there is one; otherwise the artist decides where to cut.",
            Example = Example.Mtlx(
                """
                <multiply name="a" type="float">
                  <input name="in1" type="float" nodename="b"/>
                  <input name="in2" type="float" value="0.5"/>
                </multiply>
                <multiply name="b" type="float">
                  <input name="in1" type="float" nodename="a"/>
                  <input name="in2" type="float" value="0.5"/>
                </multiply>
                <standard_surface name="SR_tin" type="surfaceshader">
                  <input name="specular_roughness" type="float" nodename="a"/>
                </standard_surface>
                <surfacematerial name="tin" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_tin"/>
                </surfacematerial>
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(InputView input, AuditScene scene)
    {
        if (!input.IsCyclic)
            yield break;
        var value = input.Spec?.Default is { Length: > 0 } standard ? standard : [];
        var finding = Found(
            input,
            $"What feeds {input.Name} of {input.Material.Name} goes round in a circle.",
            "input is fed by a circle",
            "inputs are fed by circles"
        );
        yield return value.IsDefaultOrEmpty
            ? finding.Decide("Cut the circle where the material was made.")
            : finding
                .Fix(
                    $"Set {input.Name} to its default, {string.Join(' ', value)}",
                    0.5,
                    new Edits.SetValue(input.Material.Name, input.Name, null, new(value))
                )
                .Decide("The circle has to be cut where it was made; the default only makes it render.");
    }
}
