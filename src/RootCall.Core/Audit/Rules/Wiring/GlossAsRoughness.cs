using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class GlossAsRoughness : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.gloss-as-roughness", "A glossiness map read as roughness, or the reverse", Severity.Blocker)
        {
            Expects = "A glossiness map feeds glossiness, a roughness map roughness; in the other's place it is inverted.",
            Why = "Everything polished becomes dull and everything dull becomes a mirror.",
            Source = "KHR_materials_pbrSpecularGlossiness (archived): roughness = 1 - glossiness.",
            Evidence =
                "The name ends in a word for gloss, in a set whose other maps feed what their names say. A name alone is a "
                + "note. An inversion on the way makes it right.",
            Fix = "Inverts what is read (scale -1, bias 1) where the format can say that.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    float inputs:roughness.connect = </Looks/tin/map.outputs:r>
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_gloss.png@
                    token inputs:sourceColorSpace = "raw"
                    float outputs:r
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        var gloss = map.Role == Role.Glossiness && map.Input.Role is Role.Roughness or Role.CoatRoughness;
        var rough = map.Role == Role.Roughness && map.Input.Role is Role.Glossiness or Role.SpecularExponent;
        if (!gloss && !rough)
            yield break;
        if (
            map.Use.Scale is [< 0, ..]
            || map.Through.Any(t =>
                t.Contains("invert", StringComparison.OrdinalIgnoreCase) || t.Contains("subtract", StringComparison.OrdinalIgnoreCase)
            )
        )
            yield break;
        var finding = Found(
                map.Input,
                $"{map.FileText} feeds {map.Input.Name} of {map.Material.Name} and is not inverted.",
                gloss ? "glossiness map is read as roughness" : "roughness map is read as glossiness",
                gloss ? "glossiness maps are read as roughness" : "roughness maps are read as glossiness",
                gloss ? "gloss" : "rough"
            )
            .With(new PictureEvidence(map.Use.Reference, map.Channel));
        // A name alone is no more than a question.
        var sure = map.Reading(scene).NameCounts;
        finding = finding.At(sure ? Severity.Blocker : Severity.Note);
        yield return map.Material.IsPreview
            ? finding.Fix("Read it inverted", sure ? 0.93 : 0.6, map.Read(u => u with { Scale = [-1, -1, -1, 1], Bias = [1, 1, 1, 0] }))
            : finding.Decide($"{scene.Scene.Format.Name} has no place for an inversion here; write the image anew, inverted.");
    }
}
