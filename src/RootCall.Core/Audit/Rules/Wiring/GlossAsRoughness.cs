using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
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
                "The name ends in a word for gloss, in a set whose other maps feed what their names say; or the image is the "
                + "inverse, value for value, of the roughness of its set that lies beside it. The first makes a blocker (a warning "
                + "where it ends in a letter of its set), the second alone a warning, a name alone a note. An inversion on "
                + "the way makes it right.",
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
        // A word at the end of the name, or a letter that its set makes one.
        var said = map.Role ?? map.Reading(scene).Named;
        var gloss = said == Role.Glossiness && map.Input.Role is Role.Roughness or Role.CoatRoughness;
        var rough = said == Role.Roughness && map.Input.Role is Role.Glossiness or Role.SpecularExponent;
        var counterpart = map.Input.Role != Role.Roughness || said == Role.Roughness ? null : InvertedRoughness(map, scene);
        gloss |= counterpart is not null;
        if ((!gloss && !rough) || Inversion.IsOnTheWay(map))
            yield break;
        var finding = Found(
                map.Input,
                $"{map.FileText} feeds {map.Input.Name} of {map.Material.Name} and is not inverted.",
                gloss ? "glossiness map is read as roughness" : "roughness map is read as glossiness",
                gloss ? "glossiness maps are read as roughness" : "roughness maps are read as glossiness",
                gloss ? "gloss" : "rough"
            )
            .With(new PictureEvidence(map.Use.Reference, map.Channel));
        if (counterpart is not null)
            finding = finding.With(new TextEvidence($"It is the inverse of {counterpart.Name.Text}, which lies beside it."));
        // A name alone is no more than a question, and one that says something else agrees with nothing.
        var counts = said is Role.Glossiness or Role.Roughness && map.Reading(scene).NameCounts;
        var sure = map.Role is Role.Glossiness or Role.Roughness ? counterpart is not null || counts : counterpart is not null && counts;
        var severity =
            sure ? Severity.Blocker
            : counterpart is not null || counts ? Severity.Warning
            : Severity.Note;
        yield return Inversion.Offered(finding.At(severity), map, sure, scene);
    }

    /// <summary>The roughness of the same set, of which this image is the inverse, value for value.</summary>
    private static SetFile? InvertedRoughness(MapView map, AuditScene scene) =>
        map.Pixels is not { Cells: { } here } pixels
            ? null
            : scene
                .Sets.Beside(map.Name)
                .FirstOrDefault(f =>
                    f.Name is { EndsWithRole: true, Role: Role.Roughness }
                    && scene.Pixels(new FileState(f.Beside.Path, f.Beside.Stamp)) is { IsFlat: false, Cells: { } there } rough
                    && PixelCells.Correlation(here.Light.Span, there.Light.Span) is < -0.98
                    && Math.Abs(pixels.Channels[0].Mean + rough.Channels[0].Mean - 1) < 0.03
                );
}
