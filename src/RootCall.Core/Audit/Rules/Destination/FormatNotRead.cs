using RootCall.Core.Imaging.Codecs;

namespace RootCall.Core.Audit.Rules;

public sealed class FormatNotRead : ImageLimitRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.image-format", "An image format that the destination does not read", Severity.Blocker)
        {
            Expects = "The destination reads the format of every image.",
            Why = "The image is missing on arrival.",
            Source = "The destination; glTF 2.0, 3.8.3: PNG and JPEG.",
            Evidence =
                "The format told from the file's first bytes. Silent about images that did not come and destinations "
                + "that list no formats.",
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normal.tga" } }""") with
            {
                For = "gltf-viewer",
            },
        };

    protected override (string Message, string One, string Many, Evidence Evidence, string Decide)? Broken(
        Muster.MusteredReference image,
        Imaging.ImageFacts facts,
        Destinations.Destination destination
    )
    {
        if (destination.ImageFormats.IsEmpty || destination.ImageFormats.Any(e => ImageCodecs.Promised("." + e) == facts.Format))
            return null;
        var format = ImageCodecs.Of(facts.Format).Name;
        return (
            $"{NameOf(image)} is {format}; {destination.Name} reads {string.Join(", ", destination.ImageFormats)}.",
            "image is in a format that the destination does not read",
            "images are in formats that the destination does not read",
            new ValueEvidence("format", format, destination.ImageFormats[0]),
            $"Convert it to {destination.ImageFormats[0]}."
        );
    }
}
