namespace RootCall.Core.Audit.Rules;

public sealed class DanglingConnection : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.dangling-connection", "A connection to a node that is not there", Severity.Blocker)
        {
            Expects = "Both ends of a connection exist.",
            Why = "The input falls back to its default, without a word.",
            Source = "UsdShade, “Connections”; MaterialX 1.38, “Node graph elements”.",
            Evidence =
                "The file names a node or an output that it does not hold. Silent where the node lies in a file that did "
                + "not come: that is told once.",
            Fix = "Leaves the input of the surface shader to its default, so that the file says what is shown.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    float inputs:roughness.connect = </Looks/tin/gone.outputs:r>
                    token outputs:surface
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (var node in material.Material.Graph.Nodes)
        foreach (var input in node.Inputs.Where(i => i.Dangling is not null))
        {
            var surface = node.Name == material.Material.Graph.Surface;
            var target = surface
                ? new Target("input", material.Name, input.Name)
                : new Target("node", material.Name, $"{node.Name}.{input.Name}");
            var finding = Found(
                target,
                $"{input.Name} of {(surface ? material.Name : node.Name)} is connected to {input.Dangling}, which is not there.",
                "connection leads nowhere",
                "connections lead nowhere"
            );
            yield return surface && material.Input(input.Name)?.Numbers is { Length: > 0 } now
                ? finding.Fix(
                    $"Set {input.Name} to {string.Join(' ', now)}",
                    0.6,
                    new Edits.SetValue(material.Name, input.Name, null, new(now))
                )
                : finding.Decide("Find the node that was meant, where the material was made.");
        }
    }
}
