using System.Text.RegularExpressions;

namespace RootCall.Core.Audit.Rules;

public sealed partial class DefaultMaterial : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.default-material", "A default material left in place", Severity.Note)
        {
            Expects = "Meshes wear materials that somebody made for them.",
            Why = "A material with a program's default name is usually one that was forgotten.",
            Source = "Common practice.",
            Evidence =
                "The name is one that programs give by themselves, something wears it, and it reads no image. Silent "
                + "about one that reads images: somebody worked on it.",
            Example = Example.Gltf("""{ "name": "Material.001" }"""),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene) =>
        from material in scene.Materials
        where material.Users.Length > 0 && Names().IsMatch(material.Material.Name) && material.Maps.IsEmpty
        select Found(
                material,
                $"{material.Users.Length} of the meshes wear {material.Name}, which has a default name and no image.",
                "default material was left in place",
                "default materials were left in place"
            )
            .Decide("Assign the material that was meant.");

    [GeneratedRegex(
        @"^(default|standard|basic|initial|surface|lambert|phong|blinn)?"
            + @"[ _.-]?(material|mat|shader|surface|lambert|phong|blinn|default)?[ _.-]?(\d+|#\d+)?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Names();
}
