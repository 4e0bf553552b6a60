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
            Evidence =
                "Both maps belong elsewhere by all evidence (docs/map-roles.md), and each belongs where the other is. "
                + "Values alone make a warning.",
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
            if (Partner(map, scene) is not { } other || string.CompareOrdinal(map.Input.Name, other.Input.Name) > 0)
                continue;
            var sure = map.Reading(scene).Rival!.IsAgreed && other.Reading(scene).Rival!.IsAgreed;
            yield return Found(
                    map.Input,
                    $"{map.FileText} feeds {map.Input.Name} and {other.FileText} feeds {other.Input.Name} of {material.Name}.",
                    "pair of maps is swapped",
                    "pairs of maps are swapped",
                    $"{map.Reading(scene).Meant?.Word()} and {other.Reading(scene).Meant?.Word()}"
                )
                .With(
                    new WireEvidence(map.Use.Reference, map.Channel, map.Input.Name, other.Input.Name),
                    new WireEvidence(other.Use.Reference, other.Channel, other.Input.Name, map.Input.Name)
                )
                .At(sure ? Severity.Blocker : Severity.Warning)
                .Fix(
                    "Swap them",
                    sure ? 0.95 : 0.7,
                    new SetImage(material.Name, map.Input.Name, map.Use, map.Use with { Reference = other.Use.Reference }),
                    new SetImage(material.Name, other.Input.Name, other.Use, other.Use with { Reference = map.Use.Reference })
                );
        }
    }

    /// <summary>The map that stands where this one belongs, when this one stands where that one does.</summary>
    internal static MapView? Partner(MapView map, AuditScene scene) =>
        HomeOf(map, scene) is { } home
        && map.Material.Role(home)?.Maps is [var there, ..]
        && there != map
        && HomeOf(there, scene) == map.Input.Role
            ? there
            : null;

    private static Role? HomeOf(MapView map, AuditScene scene) =>
        map.Reading(scene) is { IsMisplaced: true, Rival.Role: { } role } ? MapRoles.Home(role) : null;
}
