using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class UnreadImageNode : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.unread-image-node", "An image node that reaches no input", Severity.Warning)
        {
            Expects = "Every image node of a material reaches an input of its surface shader.",
            Why = "Somebody loaded a map and lost its wire: the look is not the one that was made.",
            Source = "Common practice.",
            Evidence =
                "No wire leads from the node to an input of the surface. What it was for is told by the end of its name "
                + "alone, so its fix is never put in unasked.",
            Fix = "Connects it to the input its name is for, when that one is free.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_roughness.png@
                    token inputs:sourceColorSpace = "raw"
                    float outputs:r
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        var read = material.Maps.Select(m => m.Node.Name).ToHashSet(StringComparer.Ordinal);
        foreach (var node in material.Material.Graph.Nodes.Where(n => n.Image is not null && !read.Contains(n.Name)))
        {
            if (material.Material.Graph.Nodes.Any(n => n.Inputs.Any(i => i.From?.Node == node.Name)))
                continue; // It feeds a node on its way; that one is what is lost.
            var name = scene.FileName(WrittenPath.Parse(node.Image!.Reference.Written).FileName);
            var home = name is { EndsWithRole: true, Role: { } role } && MapRoles.Home(role) is { } r ? material.NameOf(r) : null;
            var finding = Found(
                    new Target("node", material.Name, node.Name),
                    $"{node.Name} of {material.Name} reads {name.Text} and reaches no input.",
                    "image node reaches no input",
                    "image nodes reach no input"
                )
                .With(new WireEvidence(node.Image.Reference, Channels.Rgb, string.Empty, home));
            yield return home is not null
            && material.Input(home)?.IsConnected != true
            && !material.Maps.Any(m => m.Use.Reference == node.Image.Reference)
                ? finding.Fix(
                    $"Connect it to {home}",
                    0.85,
                    new SetImage(
                        material.Name,
                        home,
                        null,
                        node.Image with
                        {
                            Channels = MapRoles.IsColour(name.Role!.Value) || name.Role == Role.Normal ? Channels.Rgb : Channels.R,
                        }
                    )
                )
            : OfItsSet(material, node.Image.Reference, name, scene) is { IsEmpty: false } edits
                ? finding.Fix($"Connect it to {edits.OfType<SetImage>().First().Input}", 0.85, edits)
            : finding.Decide("Say which input it was for, or leave it.");
        }
    }

    /// <summary>The material reads another map of the set that the image belongs to, and has a free input for what its name says.</summary>
    private static ImmutableArray<Edit> OfItsSet(MaterialView material, ReferenceKey image, FileName name, AuditScene scene) =>
        name is { Role: { } role, SaysOnlyItsRole: false }
        && !material.Maps.Any(m => m.Use.Reference == image)
        && scene.Sets.InUse(name).FirstOrDefault(m => m.Material == material) is { } like
            ? ConnectMap.Edits(material, image, role, like, scene)
            : [];
}
