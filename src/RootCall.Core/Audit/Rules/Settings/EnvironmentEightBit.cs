using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class EnvironmentEightBit : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.environment-8-bit", "An environment map with 8 bits", Severity.Warning)
        {
            Expects = "An environment map holds light above 1: OpenEXR, Radiance HDR or 16-bit float.",
            Why = "The sun is no brighter than the sky: there are no shadows and no highlights.",
            Source = "Debevec, “Rendering Synthetic Objects into Real Scenes” (SIGGRAPH 1998); common practice.",
            Evidence = "The depth told from the header of what lights the scene. Silent about images that did not come.",
            Fix = "Reads a float image of the same name, when one lies beside it.",
            Example = Example.Mtl(
                """
                newmtl mirror
                Kd 0.1 0.1 0.1
                refl -type sphere textures/dusk_sky.png
                """
            ) with
            {
                Beside = ["textures/dusk_sky.hdr"],
            },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        foreach (
            var image in scene.Images.Where(r =>
                Muster.MapRole.Of(r.Reference, scene.Names) == Role.Environment && r.Facts is { IsFloat: false, BitDepth: <= 8 }
            )
        )
        {
            var name = scene.FileName(Path.GetFileName(image.Resolved ?? image.Reference.Written));
            var better = scene.Sets.Beside(name).FirstOrDefault(f => f.Beside.Facts is { IsFloat: true });
            var finding = Found(
                    new Target("image", image.Reference.Written),
                    $"{name.Text} is an environment map with {image.Facts!.BitDepth} bits.",
                    "environment map has 8 bits",
                    "environment maps have 8 bits"
                )
                .With(
                    new NumberEvidence("bits per channel", image.Facts.BitDepth, "bit", 16, 32),
                    new PictureEvidence(image.Reference.Key)
                );
            yield return better is null
                ? finding.Decide("Find the float image it was made from.")
                : finding.Fix(
                    $"Read {better.Name.Text} instead",
                    0.85,
                    new Edits.RelinkReference(image.Reference.Key, image.Resolved, better.Beside.Path)
                );
        }
    }
}
