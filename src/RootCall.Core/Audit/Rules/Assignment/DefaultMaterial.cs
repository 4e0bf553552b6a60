using System.Text.RegularExpressions;

namespace RootCall.Core.Audit.Rules;

public sealed partial class DefaultMaterial : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.default-material", "A default material left in place", Severity.Note)
        {
            Expects = "Meshes wear materials that somebody made for them.",
            Why = "A material that is called a material and a number is usually one that was forgotten.",
            Source = "Common practice.",
            Evidence =
                "The name is a general word of the trade, or one of the house's own default names, with or without a number; "
                + "something wears it, and it reads no image. Silent about one that reads images: somebody worked on it.",
            Example = Example.Gltf("""{ "name": "material 3" }"""),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene) =>
        from material in scene.Materials
        where
            material.Users.Length > 0
            && (Names().IsMatch(material.Material.Name) || scene.House.IsDefault(material.Material.Name))
            && material.Maps.IsEmpty
        select Found(
                material,
                $"{material.Users.Length} of the meshes wear {material.Name}, which has a default name and no image.",
                "default material was left in place",
                "default materials were left in place"
            )
            .Decide("Assign the material that was meant.");

    [GeneratedRegex(
        @"^(default[ _-]?)?(material|surface|shader|default|untitled|lambert|phong|blinn)[ _.-]?#?\d*$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Names();
}
