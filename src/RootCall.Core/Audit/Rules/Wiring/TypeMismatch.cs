using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class TypeMismatch : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.type-mismatch", "One channel into a colour", Severity.Warning)
        {
            Expects = "An output feeds an input of its own type.",
            Why = "A single channel in a colour input shows as red, as grey, or is refused, by the renderer's mood.",
            Source = "UsdShade, “Connection validity”; MaterialX 1.38, “Inputs”: types must match.",
            Evidence = "The type of the input and the channel that arrives. A node between the two that makes a colour of it is right.",
            Fix = "Takes all three channels.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    color3f inputs:diffuseColor.connect = </Looks/tin/map.outputs:r>
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_basecolor.png@
                    token inputs:sourceColorSpace = "sRGB"
                    float outputs:r
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (!(scene.IsUsd || scene.IsFormat("mtlx")) || map.Input.Type.Numbers != 3 || map.Channel.Place() is null || !map.Through.IsEmpty)
            yield break;
        var finding = Found(
                map.Input,
                $"{map.Input.Name} of {map.Material.Name} takes three values; {map.FileText} gives its {map.Channel.Word()} alone.",
                "colour takes a single channel",
                "colours take a single channel"
            )
            .With(new WireEvidence(map.Use.Reference, map.Channel, map.Input.Name, map.Input.Name));
        yield return map.Pixels is { Channels.Length: < 3 }
            ? finding.Decide("The image has one channel; find the colour image that was meant.")
            : finding.Fix("Take its red, green and blue", 0.9, map.Read(u => u with { Channels = Channels.Rgb }));
    }
}
