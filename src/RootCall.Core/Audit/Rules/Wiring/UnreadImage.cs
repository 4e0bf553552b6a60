namespace RootCall.Core.Audit.Rules;

public sealed class UnreadImage : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.unread-image", "An image that no material reads", Severity.Note)
        {
            Expects = "The scene reads every image that it declares.",
            Why = "It is searched and packed for nothing, or a wire to it was lost.",
            Source = "Common practice.",
            Example = Example.Gltf("""{ "name": "tin" }""") with { Beside = ["declared:textures/tin_basecolor.png"] },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        if (scene.Everything.IsEmpty)
            return []; // A scene without materials reads none of its images, and nothing is lost by it.
        var inGraphs = scene
            .Everything.SelectMany(m => m.Material.Graph.Nodes)
            .Where(n => n.Image is not null)
            .Select(n => n.Image!.Reference)
            .ToHashSet();
        return from image in scene.Images
            where image.Reference.UsedBy.IsEmpty && !inGraphs.Contains(image.Reference.Key)
            select Found(
                    new Target("image", image.Reference.Written),
                    $"{image.Reference.Written} is declared, and no material reads it.",
                    "declared image is read by nothing",
                    "declared images are read by nothing"
                )
                .With(new PictureEvidence(image.Reference.Key))
                .Decide("Connect it, or leave it out when the scene is packed.");
    }
}
