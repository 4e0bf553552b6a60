namespace RootCall.Core.Audit.Rules;

public sealed class ImageTooLarge : ImageLimitRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.image-size", "An image larger than the destination takes", Severity.Warning)
        {
            Expects = "No image is wider or higher than the destination's limit.",
            Why = "It is scaled on arrival by a filter nobody chose, or refused.",
            Source = "The destination.",
            Evidence = "The size told from the file's header. Silent about images that did not come.",
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normal.png#4096" } }""") with
            {
                For = "lantern-headset",
            },
        };

    protected override (string Message, string One, string Many, Evidence Evidence, string Decide)? Broken(
        Muster.MusteredReference image,
        Imaging.ImageFacts facts,
        Destinations.Destination destination
    ) =>
        destination.LargestSide is { } most && Math.Max(facts.Width, facts.Height) > most
            ? (
                $"{NameOf(image)} is {facts.Width} x {facts.Height} px; {destination.Name} takes {most}.",
                "image is larger than the destination takes",
                "images are larger than the destination takes",
                new NumberEvidence("longer side", Math.Max(facts.Width, facts.Height), "px", null, most),
                "Switch to a smaller size in Muster, or scale it down when packing."
            )
            : null;
}
