using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class OpacityInverted : MapRule
{
    /// <summary>Cells of 64 that must be hidden and shown, for anything to be told of either.</summary>
    private const int Enough = 6;

    /// <summary>Deviation within a cell, of 255: below the first nothing is painted there, from the second on something is.</summary>
    private const int Bare = 2,
        Painted = 4;

    private const byte Hidden = 25,
        Shown = 252;

    public override RuleDescriptor Descriptor { get; } =
        new("wiring.opacity-inverted", "An opacity map that hides what was painted", Severity.Warning)
        {
            Expects = "Where the base colour is painted the surface is there; what is left over around it is not.",
            Why = "Leaves are holes in rectangles of plain colour.",
            Source = "UsdPreviewSurface Proposal 2.6, opacity; Wavefront MTL, “d”: 1 is fully opaque.",
            Evidence =
                "The two maps held beside each other in 8 x 8 cells: all cells that are shown have one plain colour, and what is hidden is "
                + "painted. When the base colour has an alpha of its own that says the opposite, or the file is called a transparency, two "
                + "kinds agree and it is a blocker. Silent without a base colour map, and where either has not been looked at.",
            Fix = "Inverts what is read (scale -1, bias 1) where the format can say that.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    color3f inputs:diffuseColor.connect = </Looks/tin/paint.outputs:rgb>
                    float inputs:opacity.connect = </Looks/tin/map.outputs:r>
                    token outputs:surface
                }
                def Shader "paint" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/leaf_basecolor.png#leaf@
                    token inputs:sourceColorSpace = "sRGB"
                    float3 outputs:rgb
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/leaf_opacity.png#leaf around@
                    token inputs:sourceColorSpace = "raw"
                    float outputs:r
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (
            map.Input.Role != Role.Opacity
            || map.Pixels is not { IsGrey: true, Cells: { } mask }
            || map.Material.Role(Role.BaseColour)?.Maps is not [{ Pixels.Cells: { } paint } colour]
            || colour.Use.Reference == map.Use.Reference
            || !colour.Use.Transform.Equals(map.Use.Transform)
            || Inversion.IsOnTheWay(map)
            || !HidesThePaint(mask.Light.Span, paint)
        )
            yield break;
        var opposed = PixelCells.Correlation(mask.Light.Span, paint.Alpha.Span) is < -0.9;
        var called = map.Name is { EndsWithRole: true, RoleToken: { } token } && IsTransparency(token);
        var sure = opposed || called;
        var finding = Found(
                map.Input,
                $"{map.FileText} hides what is painted in {colour.FileText} of {map.Material.Name}, and shows what is left over.",
                "opacity map is inverted",
                "opacity maps are inverted"
            )
            .With(new PictureEvidence(map.Use.Reference, map.Channel), new PictureEvidence(colour.Use.Reference))
            .At(sure ? Severity.Blocker : Severity.Warning);
        if (opposed)
            finding = finding.With(new TextEvidence($"The alpha of {colour.FileText} says the opposite."));
        yield return Inversion.Offered(finding, map, sure, scene);
    }

    /// <summary>White stands for what is seen through (from memory).</summary>
    private static bool IsTransparency(string token) =>
        token.StartsWith("transparen", StringComparison.Ordinal) || token is "touming" or "toumingdu" or "toumei";

    private static bool HidesThePaint(ReadOnlySpan<byte> mask, PixelCells paint)
    {
        var (shown, hidden, painted) = (0, 0, 0);
        byte least = 255,
            most = 0;
        ReadOnlySpan<byte> light = paint.Light.Span,
            detail = paint.Detail.Span;
        for (var i = 0; i < mask.Length; i++)
            if (mask[i] >= Shown)
            {
                shown++;
                if (detail[i] > Bare)
                    return false;
                (least, most) = (Math.Min(least, light[i]), Math.Max(most, light[i]));
            }
            else if (mask[i] <= Hidden)
            {
                hidden++;
                painted += detail[i] >= Painted ? 1 : 0;
            }

        return shown >= Enough && hidden >= Enough && most - least <= Bare && painted > hidden / 2;
    }
}
