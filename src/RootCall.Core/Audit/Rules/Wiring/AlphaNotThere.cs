using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class AlphaNotThere : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.alpha-not-there", "Opacity from an alpha that the image does not have", Severity.Warning)
        {
            Expects = "An input that reads an alpha reads an image that has one.",
            Why = "A missing alpha is 1 everywhere: the opacity map is ignored.",
            Source = "UsdPreviewSurface Proposal 2.6, “UsdUVTexture”, output a; Wavefront MTL, “-imfchan”.",
            Evidence =
                "The header says that the image has no alpha. The fix is sure where the image is grey or its name says "
                + "opacity. Silent in glTF's base colour, where no alpha means 1.",
            Fix = "Reads the red channel of a grey image instead.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    float inputs:opacity.connect = </Looks/tin/map.outputs:a>
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_opacity.png@
                    token inputs:sourceColorSpace = "raw"
                    float outputs:a
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (map.Channel != Channels.A || map.Facts is not { HasAlpha: false } || (map.Material.IsGltf && map.Input.Role == Role.Opacity))
            yield break;
        if (map.Input.Factor?.Numbers is [0])
            yield break; // It is switched off.
        var finding = Found(
                map.Input,
                $"{map.Input.Name} of {map.Material.Name} reads the alpha of {map.FileText}, which has none.",
                "image gives an alpha it does not have",
                "images give an alpha they do not have"
            )
            .With(new PictureEvidence(map.Use.Reference, Channels.R));
        var read = map.Read(u => u with { Channels = Channels.R });
        // A stencil in UsdPreviewSurface is blended until a threshold cuts it out.
        var cut =
            map.Material.IsPreview
            && map.Pixels?.Channel(Channels.R)?.IsTwoValued == true
            && map.Material.Input("opacityThreshold") is null or { Number: 0 };
        yield return map.Role == Role.Opacity || map.Pixels?.Grey > 0.98
            ? cut && map.Material.IsPreview
                ? finding.Fix(
                    "Read its red, and cut out at 0.5",
                    0.92,
                    read,
                    new Edits.SetValue(
                        map.Material.Name,
                        "opacityThreshold",
                        map.Material.Input("opacityThreshold")?.Input.Value,
                        Scenes.ShaderValue.Of(0.5)
                    )
                )
                : finding.Fix("Read its red", 0.93, read)
            : finding.Decide("Find the image that has the alpha, or disconnect it.");
    }
}
