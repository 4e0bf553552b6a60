using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class SpaceNotApplied : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.space-not-applied", "A declared colour space that has no effect", Severity.Note)
        {
            Expects = "The colour space that is declared is the one that is used.",
            Why = "The file says one thing and shows another; the next program takes it at its word.",
            Source = "MaterialX 1.38, “Color spaces”: only color3 and color4 values are converted.",
            Evidence =
                "The node that reads the file gives no colour, so what is declared is left out by the specification. "
                + "Silent about spaces that are declared for the whole document.",
            Fix = "Says none.",
            Example = Example.Mtlx(
                """
                <image name="rough" type="float">
                  <input name="file" type="filename" value="textures/tin_roughness.png" colorspace="srgb_texture"/>
                </image>
                <standard_surface name="SR_tin" type="surfaceshader">
                  <input name="specular_roughness" type="float" nodename="rough"/>
                </standard_surface>
                <surfacematerial name="tin" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_tin"/>
                </surfacematerial>
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        // What stands around the file (the document's own space) declares nothing for one image.
        if (
            !scene.IsFormat("mtlx")
            || map.Use.EffectiveSpace != ColourSpace.Data
            || map.Use.DeclaredSpace is not ("srgb_texture" or "g22_rec709" or "g18_rec709" or "rec709_display")
        )
            yield break;
        yield return Found(
                map.Input,
                $"{map.FileText} is declared {map.Use.DeclaredSpace} and read as data, since {map.Node.Name} gives no colour.",
                "declared colour space has no effect",
                "declared colour spaces have no effect"
            )
            .With(new ValueEvidence("colour space", $"{map.Use.DeclaredSpace}, read as data", "none"))
            .Fix("Declare none", 0.85, map.Read(u => u with { DeclaredSpace = "none" }));
    }
}
