using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class NormalCompressed : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.normal-compressed", "A normal map as JPEG", Severity.Note)
        {
            Expects = "Normal maps are stored without loss.",
            Why = "Blocks of 8 pixels appear in every highlight.",
            Source = "Common practice; ITU-T T.81 (JPEG): chroma is quantised more coarsely than luma.",
            Evidence = "The format told from the first bytes. Silent about images that did not come.",
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normal.jpg" } }"""),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (!map.Input.Role.IsNormal() || map.Facts?.Format != Imaging.ImageFormat.Jpeg)
            yield break;
        var lossless = scene
            .Sets.Beside(map.Name)
            .FirstOrDefault(f =>
                f.Name.Role == map.Role
                && f.Name.Resolution == map.Name.Resolution
                && f.Beside.Facts is { Format: not Imaging.ImageFormat.Jpeg }
            );
        var finding = Found(map.Input, $"{map.FileText} of {map.Material.Name} is a JPEG.", "normal map is a JPEG", "normal maps are JPEGs")
            .With(new PictureEvidence(map.Use.Reference));
        yield return lossless is null
            ? finding.Decide("Export it again as PNG or OpenEXR.")
            : finding.Fix(
                $"Read {lossless.Name.Text} instead",
                0.85,
                new Edits.RelinkReference(map.Use.Reference, map.Answer?.Resolved, lossless.Beside.Path)
            );
    }
}
