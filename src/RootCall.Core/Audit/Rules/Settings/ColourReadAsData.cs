using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class ColourReadAsData : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.colour-read-as-data", "A colour map read as data", Severity.Warning)
        {
            Expects = "A map that was painted as a person sees it is decoded from sRGB.",
            Why = "Midtones are too bright by a factor of two and washed out.",
            Source =
                "UsdPreviewSurface Proposal 2.6, “sourceColorSpace”; MaterialX 1.38, “Color spaces and color management "
                + "systems”; IEC 61966-2-1.",
            Evidence =
                "The input takes a colour, the map is an integer one of 8 bits, and it is read without the curve of "
                + "sRGB. Silent about floats, about maps whose names say that they hold numbers, and about maps that stand "
                + "in the wrong input.",
            Fix = "Says sRGB.",
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
                    token inputs:sourceColorSpace = "raw"
                    float3 outputs:rgb
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (
            map.Input.Type != InputType.Color3
            || map.Use.EffectiveSpace is not (ColourSpace.Data or ColourSpace.Linear)
            || !(scene.IsUsd || scene.IsFormat("mtlx"))
            || map.Facts is not { IsFloat: false, BitDepth: <= 8 }
        )
            yield break;
        if (
            map.Input.Role is not (Role.BaseColour or Role.Emission or Role.SpecularColour or Role.SheenColour)
            || (map.Role is { } role && !MapRoles.IsColour(role))
            || map.Reading(scene).IsMisplaced
        )
            yield break;
        var space = scene.IsFormat("mtlx") ? "srgb_texture" : "sRGB";
        yield return Found(
                map.Input,
                $"{map.FileText} is the {map.Input.What} of {map.Material.Name} and is read as "
                    + $"{(map.Use.EffectiveSpace == ColourSpace.Data ? "data" : "linear light")}.",
                "colour map is read as data",
                "colour maps are read as data"
            )
            .With(
                new ValueEvidence(
                    "colour space",
                    map.Use.DeclaredSpace.Length > 0 ? map.Use.DeclaredSpace : map.Use.EffectiveSpace.Word(),
                    space
                ),
                new PictureEvidence(map.Use.Reference)
            )
            .Fix($"Read it as {space}", 0.94, map.Read(u => u with { DeclaredSpace = space }));
    }
}
