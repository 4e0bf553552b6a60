using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class WrapLeftToFile : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.wrap-left-to-file", "Tiled, and the wrap mode is left to the image", Severity.Warning)
        {
            Expects = "A map that is tiled says that it repeats.",
            Why = "UsdUVTexture asks the image file, which says nothing; outside 0 to 1 it is black.",
            Source =
                "UsdPreviewSurface Proposal 2.6, “UsdUVTexture”: wrapS and wrapT are useMetadata by default, and black when there is none.",
            Evidence =
                "The map repeats by its transform, and its wrap mode is left to the image file. Silent where it is said, "
                + "and where nothing repeats.",
            Fix = "Says repeat.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    color3f inputs:diffuseColor.connect = </Looks/tin/map.outputs:rgb>
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_basecolor.png@
                    token inputs:sourceColorSpace = "sRGB"
                    float2 inputs:st.connect = </Looks/tin/place.outputs:result>
                    float3 outputs:rgb
                }
                def Shader "place" {
                    uniform token info:id = "UsdTransform2d"
                    float2 inputs:scale = (4, 4)
                    float2 outputs:result
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        var (t, use) = (map.Use.Transform, map.Use);
        if (!((t.ScaleU > 1 && use.WrapU == WrapMode.FromFile) || (t.ScaleV > 1 && use.WrapV == WrapMode.FromFile)))
            yield break;
        yield return Found(
                map.Input,
                Invariant($"{map.FileText} of {map.Material.Name} repeats {t.ScaleU:0.##} x {t.ScaleV:0.##}; ")
                    + "how it wraps is left to the image file.",
                "tiled map leaves its wrap mode to the image",
                "tiled maps leave their wrap mode to the image"
            )
            .With(new ValueEvidence("wrap", "useMetadata", "repeat"))
            .Fix("Let it repeat", 0.92, map.Read(u => u with { WrapU = WrapMode.Repeat, WrapV = WrapMode.Repeat }));
    }
}
