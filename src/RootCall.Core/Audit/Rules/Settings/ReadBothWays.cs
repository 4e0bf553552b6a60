using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class ReadBothWays : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.read-both-ways", "One image read as colour and as data", Severity.Note)
        {
            Expects = "An image is a colour or it is data.",
            Why = "One of the two readings is decoded wrongly, unless it was meant.",
            Source = "Common practice.",
            Evidence =
                "One file is decoded from sRGB by one input and read as numbers by another. It may be meant, so it is a "
                + "note. Silent about an alpha.",
            Example = Example.Mtl(
                """
                newmtl tin
                Kd 0.8 0.8 0.8
                map_Kd textures/tin_grey.png
                map_Pr textures/tin_grey.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        foreach (var group in scene.Materials.SelectMany(m => m.Maps).Where(m => m.Channel != Channels.A).GroupBy(m => m.Use.Reference))
        {
            var (colour, data) = (
                group.FirstOrDefault(m => m.Use.EffectiveSpace == ColourSpace.Srgb),
                group.FirstOrDefault(m => m.Use.EffectiveSpace is ColourSpace.Data or ColourSpace.Linear)
            );
            if (colour is null || data is null)
                continue;
            yield return Found(
                    new Target("image", group.Key.Written),
                    $"{colour.FileText} is read as colour by {colour.Input.Name} of {colour.Material.Name} and as data by "
                        + $"{data.Input.Name} of {data.Material.Name}.",
                    "image is read as colour and as data",
                    "images are read as colour and as data"
                )
                .With(
                    new PictureEvidence(group.Key),
                    new ValueEvidence($"{colour.Material.Name}, {colour.Input.Name}", "colour", null),
                    new ValueEvidence($"{data.Material.Name}, {data.Input.Name}", "data", null)
                )
                .Decide("Say what the image is; one of the two wants another image.");
        }
    }
}
