using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class ColourIntoScalar : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.colour-into-scalar", "A colour into a scalar without picking a channel", Severity.Warning)
        {
            Expects = "A scalar input is fed one channel, and it is said which.",
            Why = "Renderers take the red, the average or the luminance; three renderers give three looks.",
            Source = "UsdShade, “Connection validity”; MaterialX 1.38, “Inputs”.",
            Evidence =
                "The type of the input and the channels that arrive. The fix is sure where the image was seen to be "
                + "grey, or the packing named by its end gives the input a channel. A node between the two that makes one "
                + "number of it is right.",
            Fix = "Takes the channel that the packing's convention gives the input, or red for a grey image.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    float inputs:roughness.connect = </Looks/tin/map.outputs:rgb>
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_roughness.png@
                    token inputs:sourceColorSpace = "raw"
                    float3 outputs:rgb
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (!map.Input.IsScalar || map.Channel is not (Channels.Rgb or Channels.Rgba) || !map.Through.IsEmpty || map.Material.IsGltf)
            yield break;
        var packed = map.Input.Role is { } role ? MapRoles.Packed(map, role) : null;
        var grey = map.Pixels is { IsGrey: true };
        var channel = packed ?? Channels.R;
        yield return Found(
                map.Input,
                $"{map.Input.Name} of {map.Material.Name} takes one value; {map.FileText} gives three.",
                "colour feeds a scalar",
                "colours feed scalars"
            )
            .With(
                new WireEvidence(map.Use.Reference, map.Channel, map.Input.Name, map.Input.Name),
                new PictureEvidence(map.Use.Reference, channel)
            )
            .Fix($"Take its {channel.Word()}", packed is not null || grey ? 0.92 : 0.6, map.Read(u => u with { Channels = channel }));
    }
}
