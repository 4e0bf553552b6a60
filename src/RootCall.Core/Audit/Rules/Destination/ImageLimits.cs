namespace RootCall.Core.Audit.Rules;

/// <summary>A limit that the destination has for single images.</summary>
public abstract class ImageLimitRule : Rule
{
    /// <summary>Null when the image is within the limit.</summary>
    protected abstract (string Message, string One, string Many, Evidence Evidence, string Decide)? Broken(
        Muster.MusteredReference image,
        Imaging.ImageFacts facts,
        Destinations.Destination destination
    );

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        foreach (var image in scene.Images)
            if (image.Facts is { } facts && Broken(image, facts, scene.Destination) is { } broken)
                yield return Found(new Target("image", image.Reference.Written), broken.Message, broken.One, broken.Many)
                    .With(broken.Evidence, new PictureEvidence(image.Reference.Key))
                    .Decide(broken.Decide);
    }

    protected static string NameOf(Muster.MusteredReference image) => Path.GetFileName(image.Resolved ?? image.Reference.Written);
}
