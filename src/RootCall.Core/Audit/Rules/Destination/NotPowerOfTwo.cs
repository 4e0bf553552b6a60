using System.Numerics;

namespace RootCall.Core.Audit.Rules;

public sealed class NotPowerOfTwo : ImageLimitRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.power-of-two", "An image whose sides are no powers of two", Severity.Warning)
        {
            Expects = "Where the destination asks for it, sides are powers of two.",
            Why = "It gets no mip levels, or is stretched.",
            Source = "The destination.",
            Evidence = "The size told from the file's header. Silent about images that did not come.",
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normal.png#odd" } }""") with
            {
                For = "lantern-headset",
            },
        };

    protected override (string Message, string One, string Many, Evidence Evidence, string Decide)? Broken(
        Muster.MusteredReference image,
        Imaging.ImageFacts facts,
        Destinations.Destination destination
    ) =>
        destination.PowerOfTwo && !(BitOperations.IsPow2(facts.Width) && BitOperations.IsPow2(facts.Height))
            ? (
                $"{NameOf(image)} is {facts.Width} x {facts.Height} px; {destination.Name} asks for powers of two.",
                "image has sides that are no powers of two",
                "images have sides that are no powers of two",
                new ValueEvidence(
                    "size",
                    $"{facts.Width} x {facts.Height}",
                    $"{BitOperations.RoundUpToPowerOf2((uint)facts.Width)} x {BitOperations.RoundUpToPowerOf2((uint)facts.Height)}"
                ),
                "Scale it when packing."
            )
            : null;
}
