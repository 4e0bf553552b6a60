using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class SpaceNotKnown : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.colour-space", "A colour space that the destination does not convert from", Severity.Warning)
        {
            Expects = "The destination's colour management knows the space that every image declares.",
            Why = "It falls back to another one without a word: colours shift, and shift alike everywhere, so that nobody notices.",
            Source = "The destination; UsdPreviewSurface Proposal 2.6: sourceColorSpace is raw, sRGB or auto.",
            Evidence = "The space that the file declares. Silent where nothing is declared, where it is left to the image, and about data.",
            Example = Example.Mtlx(
                """
                <image name="paint" type="color3">
                  <input name="file" type="filename" value="textures/tin_basecolor.png" colorspace="acescg"/>
                </image>
                <standard_surface name="SR_tin" type="surfaceshader">
                  <input name="base_color" type="color3" nodename="paint"/>
                </standard_surface>
                <surfacematerial name="tin" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_tin"/>
                </surfacematerial>
                """
            ) with
            {
                For = "gltf-viewer",
            },
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        var (space, known) = (map.Use.EffectiveSpace, scene.Destination.ColourSpaces);
        if (known.IsEmpty || space is ColourSpace.Unsaid or ColourSpace.Auto or ColourSpace.Data || known.Contains(space))
            yield break;
        var works = scene.Destination.ColourManagement is { } management ? $" works in {management}" : " does not convert from it";
        yield return Found(
                map.Input,
                $"{map.FileText} of {map.Material.Name} is declared as {map.Use.DeclaredSpace}; {scene.Destination.Name}{works}.",
                "image declares a colour space that the destination does not know",
                "images declare colour spaces that the destination does not know",
                map.Use.DeclaredSpace
            )
            .With(new ValueEvidence("colour space", map.Use.DeclaredSpace, string.Join(" or ", known.Select(s => s.Word()))))
            .Decide("Convert the image to a space that the destination knows, or name the space in the destination.");
    }
}
