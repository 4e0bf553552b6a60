using RootCall.Core.Edits;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class MapsSwapped : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.maps-swapped", "Two maps that feed each other's inputs", Severity.Blocker)
        {
            Expects = "Of two maps each feeds its own input.",
            Why = "Both are wrong, and each hides the other.",
            Source = "Common practice.",
            Fix = "Swaps the two.",
            Example = Example.Mtl(
                """
                newmtl tin
                Kd 0.8 0.8 0.8
                map_Pr textures/tin_metalness.png
                map_Pm textures/tin_roughness.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (var map in material.Maps)
        {
            if (Partner(map) is not { } other || string.CompareOrdinal(map.Input.Name, other.Input.Name) > 0)
                continue;
            yield return Found(
                    map.Input,
                    $"{map.FileText} feeds {map.Input.Name} and {other.FileText} feeds {other.Input.Name} of {material.Name}.",
                    "pair of maps is swapped",
                    "pairs of maps are swapped",
                    $"{map.Role?.Word()} and {other.Role?.Word()}"
                )
                .With(
                    new WireEvidence(map.Use.Reference, map.Channel, map.Input.Name, other.Input.Name),
                    new WireEvidence(other.Use.Reference, other.Channel, other.Input.Name, map.Input.Name)
                )
                .Fix(
                    "Swap them",
                    Math.Min(MapRoles.Certainty(map), MapRoles.Certainty(other)),
                    new SetImage(material.Name, map.Input.Name, map.Use, map.Use with { Reference = other.Use.Reference }),
                    new SetImage(material.Name, other.Input.Name, other.Use, other.Use with { Reference = map.Use.Reference })
                );
        }
    }

    /// <summary>The map that stands where this one belongs, when this one stands where that one does.</summary>
    internal static MapView? Partner(MapView map) =>
        MapRoles.Fits(map) || MapRoles.Home(map.Role!.Value) is not { } home ? null
        : map.Material.Role(home)?.Maps is [var there, ..]
        && there != map
        && there.Role is { } role
        && MapRoles.Home(role) == map.Input.Role
            ? there
        : null;
}
