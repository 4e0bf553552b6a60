namespace RootCall.Core.Audit.Rules;

public sealed class NotSquare : ImageLimitRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.square", "An image that is not square", Severity.Note)
        {
            Expects = "Where the destination asks for it, images are square.",
            Why = "It is stretched, and its texels are no longer the size they were painted at.",
            Source = "The destination.",
            Evidence = "The size told from the file's header. Silent about images that did not come.",
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normal.png#odd" } }""") with
            {
                For = "square",
            },
        };

    protected override (string Message, string One, string Many, Evidence Evidence, string Decide)? Broken(
        Muster.MusteredReference image,
        Imaging.ImageFacts facts,
        Destinations.Destination destination
    ) =>
        destination.Square && facts.Width != facts.Height
            ? (
                $"{NameOf(image)} is {facts.Width} x {facts.Height} px; {destination.Name} asks for squares.",
                "image is not square",
                "images are not square",
                new ValueEvidence("size", $"{facts.Width} x {facts.Height}", null),
                "Scale it when packing."
            )
            : null;
}
