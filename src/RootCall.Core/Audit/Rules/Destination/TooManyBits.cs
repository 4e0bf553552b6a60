namespace RootCall.Core.Audit.Rules;

public sealed class TooManyBits : ImageLimitRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.bit-depth", "More bits than the destination keeps", Severity.Note)
        {
            Expects = "No image has more bits per channel than the destination keeps.",
            Why = "The bytes are sent, and thrown away on arrival.",
            Source = "The destination.",
            Evidence = "The depth told from the file's header. Silent about images that did not come.",
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normal.hdr" } }""") with
            {
                For = "lantern-headset",
            },
        };

    protected override (string Message, string One, string Many, Evidence Evidence, string Decide)? Broken(
        Muster.MusteredReference image,
        Imaging.ImageFacts facts,
        Destinations.Destination destination
    ) =>
        destination.MostBits is { } most && (facts.BitDepth > most || (facts.IsFloat && most <= 8))
            ? (
                $"{NameOf(image)} has {facts.BitDepth} bits; {destination.Name} keeps {most}.",
                "image has more bits than the destination keeps",
                "images have more bits than the destination keeps",
                new NumberEvidence("bits per channel", facts.BitDepth, "bit", null, most),
                "Lower its depth when packing."
            )
            : null;
}
