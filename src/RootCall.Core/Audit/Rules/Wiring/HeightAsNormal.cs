using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class HeightAsNormal : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.height-as-normal", "A height map read as a normal map", Severity.Blocker)
        {
            Expects = "What feeds a normal input holds unit vectors.",
            Why = "A grey pixel read as a vector points sideways; the shading breaks along every slope.",
            Source = "glTF 2.0, 3.9.3 “normalTexture”: a tangent space normal texture.",
            Evidence =
                "The image is grey, or has one channel. Where it was not looked at, a name alone is a note. One value "
                + "everywhere says nothing.",
            Fix = "Moves the map to the bump or displacement input when the model has a free one.",
            Example = Example.Mtl(
                """
                newmtl tin
                Kd 0.8 0.8 0.8
                norm textures/tin_height.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (
            !map.Input.Role.IsNormal()
            || map.Through.Any(t =>
                t.Contains("bump", StringComparison.OrdinalIgnoreCase) || t.Contains("heighttonormal", StringComparison.OrdinalIgnoreCase)
            )
        )
            yield break;
        var named = map.Role is Role.Displacement or Role.Bump;
        if (map.Pixels is { } p ? p.IsFlat || !p.IsGrey : !named)
            yield break;
        if (map.Reading(scene) is { IsMisplaced: true, Rival.Role: not (Role.Displacement or Role.Bump) })
            yield break; // wiring.role-mismatch knows what it is.
        var home = new[] { Role.Bump, Role.Displacement }
            .Select(map.Material.NameOf)
            .FirstOrDefault(n => n is not null && map.Material.Input(n)?.IsConnected != true);
        var finding = Found(
                map.Input,
                $"{map.FileText} holds heights; {map.Input.Name} of {map.Material.Name} reads them as directions.",
                "height map is read as a normal map",
                "height maps are read as normal maps"
            )
            .With(new WireEvidence(map.Use.Reference, map.Channel, map.Input.Name, home), new PictureEvidence(map.Use.Reference))
            // A name alone is no more than a question.
            .At(map.Pixels is null && !map.Reading(scene).NameCounts ? Severity.Note : Severity.Blocker);
        if (map.Pixels is { } pixels)
            finding = finding.With(
                new NumberEvidence("pixels that are unit vectors", Math.Round(pixels.UnitLength * 100, 1), "%", 80, 100)
            );
        if (home is null)
        {
            yield return finding
                .Fix("Disconnect it", 0.7, map.Disconnect())
                .Decide("The model has neither bump nor displacement; bake the heights into a normal map.");
            yield break;
        }

        ImmutableArray<Edit> edits =
        [
            map.Disconnect(),
            new SetImage(map.Material.Name, home, null, map.Use with { Channels = Channels.R, Scale = [], Bias = [] }),
        ];
        yield return finding.Fix($"Connect it to {home}", named && map.Pixels is not null ? 0.93 : 0.8, edits);
    }
}
