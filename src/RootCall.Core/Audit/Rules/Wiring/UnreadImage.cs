using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit.Rules;

public sealed class UnreadImage : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.unread-image", "An image that no material reads", Severity.Note)
        {
            Expects = "The scene reads every image that it declares.",
            Why = "It is searched and packed for nothing, or a wire to it was lost.",
            Source = "Common practice.",
            Evidence =
                "No wire of any material leads to it. What it was for is told by its name when one material alone reads the other maps of "
                + "its set. Silent in scenes without materials.",
            Fix = "Connects it to the material that reads the other maps of its set, when the input it is for is free.",
            Example = Example.Gltf(
                """{ "name": "tin", "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/tin_basecolor.png" } } }"""
            ) with
            {
                Beside = ["declared:textures/tin_normal.png"],
            },
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
            select Told(image.Reference, scene);
    }

    private Finding Told(Reference image, AuditScene scene)
    {
        var finding = Found(
                new Target("image", image.Written),
                $"{image.Written} is declared, and no material reads it.",
                "declared image is read by nothing",
                "declared images are read by nothing"
            )
            .With(new PictureEvidence(image.Key));
        var name = scene.FileName(WrittenPath.Parse(image.Written).FileName);
        if (name is not { EndsWithRole: true, SaysOnlyItsRole: false, Role: { } role })
            return finding.Decide(Advice);
        // One material alone reads the other maps of its set.
        if (scene.Sets.InUse(name).DistinctBy(m => m.Material).Take(2).ToList() is not [var like])
            return finding.Decide(Advice);
        var edits = ConnectMap.Edits(like.Material, image.Key, role, like, scene);
        return edits.IsEmpty
            ? finding.Decide(Advice)
            : finding.Fix($"Connect it to {edits.OfType<Edits.SetImage>().First().Input} of {like.Material.Name}", 0.8, edits);
    }

    private const string Advice = "Connect it, or leave it out when the scene is packed.";
}
