using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class DataReadAsColour : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.data-read-as-colour", "A data map read as colour", Severity.Warning)
        {
            Expects = "Normals, roughness, metalness, heights and masks are read as the numbers that are stored.",
            Why = "A stored 0.5 becomes 0.21: surfaces turn glossy, normals lean.",
            Source =
                "UsdPreviewSurface Proposal 2.6, “sourceColorSpace” (auto reads 8-bit images of three channels as sRGB); glTF "
                + "2.0, 3.9.3; IEC 61966-2-1.",
            Evidence =
                "The input takes numbers, and the curve of sRGB is applied by what is declared, or by the automatic "
                + "choice that such a file gets. Silent about an alpha, which is never decoded, and in formats where the "
                + "input decides.",
            Fix = "Says raw.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    float inputs:roughness.connect = </Looks/tin/map.outputs:r>
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_roughness.png@
                    token inputs:sourceColorSpace = "sRGB"
                    float outputs:r
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (!(scene.IsUsd || scene.IsFormat("mtlx")))
            yield break;
        var automatic = map.Use.EffectiveSpace == ColourSpace.Auto && map.Facts is { IsFloat: false, BitDepth: <= 8, Channels: >= 3 };
        if (map.Use.EffectiveSpace != ColourSpace.Srgb && !automatic)
            yield break;
        if (
            (map.Input.Type != InputType.Float && map.Input.Type != InputType.Vector3)
            || (map.Channel == Channels.A && map.Input.Role == Role.Opacity)
        )
            yield break; // An alpha is never decoded.
        var midtone = map.Stats is { } stats
            ? Invariant($" Its mean of {stats.Mean:0.##} arrives as {SrgbCurve.ToLinear(stats.Mean):0.##}.")
            : string.Empty;
        var space = scene.IsFormat("mtlx") ? "none" : "raw";
        var finding = Found(
                map.Input,
                $"{map.FileText} feeds {map.Input.Name} of {map.Material.Name} and is read as "
                    + $"sRGB{(automatic ? " (auto)" : string.Empty)}.{midtone}",
                "data map is read as colour",
                "data maps are read as colour",
                map.Input.Role == Role.Normal ? "normal" : null
            )
            .With(
                new ValueEvidence("colour space", map.Use.DeclaredSpace.Length > 0 ? map.Use.DeclaredSpace : "auto", space),
                new PictureEvidence(map.Use.Reference, map.Channel.IsOne() ? map.Channel : null)
            );
        if (map.Stats is { } s)
            finding = finding.With(
                new NumberEvidence("shift of the mean", Math.Round(s.Mean - SrgbCurve.ToLinear(s.Mean), 3), string.Empty, 0, 0)
            );
        yield return finding.Fix($"Read it as {space}", 0.95, map.Read(u => u with { DeclaredSpace = space }));
    }
}
