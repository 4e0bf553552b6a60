using System.Text.RegularExpressions;

namespace RootCall.Core.Audit.Rules;

public sealed partial class DefaultName : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("naming.default", "Names that nobody gave", Severity.Note)
        {
            Expects = "Meshes are called what they are.",
            Why = "A cube among forty cubes is found by nobody.",
            Source = "Common practice.",
            Evidence =
                "The name is a primitive's or a general word, or one of the house's own default names, with or without a number. It "
                + "says nothing of the look, so it is a note.",
            Example = Example.Gltf("""{ "name": "tin" }""") with { Meshes = [new("cube 14", "tin")] },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene) =>
        from mesh in scene.Scene.Meshes
        where Names().IsMatch(mesh.Name) || scene.House.IsDefault(mesh.Name)
        select Found(
                new Target("mesh", mesh.Name),
                $"{mesh.Name} still has the name that it was made with.",
                "mesh has a default name",
                "meshes have default names"
            )
            .Decide("Give it a name where it was made.");

    [GeneratedRegex(
        @"^(cube|sphere|plane|cylinder|torus|cone|circle|box|mesh|object|group|shape|untitled|geometry)[ _.-]?\d*$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Names();
}
