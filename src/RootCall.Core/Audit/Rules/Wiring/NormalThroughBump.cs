using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class NormalThroughBump : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.normal-through-bump", "A normal map read as a bump", Severity.Blocker)
        {
            Expects = "A normal map feeds a normal input; a bump takes heights.",
            Why = "Its blue is read as height and its red as nothing: the relief is noise.",
            Source = "MaterialX 1.38, standard nodes, “bump” and “normalmap”; Wavefront MTL, “bump”: a scalar texture.",
            Evidence =
                "Most pixels are unit vectors that point out of the surface. Where it was not looked at, a name alone is a " + "note.",
            Fix = "Moves the map to the normal input when it is free.",
            Example = Example.Mtl(
                """
                newmtl tin
                Kd 0.8 0.8 0.8
                map_Bump textures/tin_normal.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        var throughNode =
            map.Input.Role.IsNormal()
            && map.Through.Any(t => t.Contains("bump", StringComparison.OrdinalIgnoreCase))
            && !map.PassesNormalMap;
        if (
            (map.Input.Role != Role.Bump && !throughNode)
            || (map.Pixels is { } values ? !values.LooksLikeNormals || values.IsFlat : map.Role != Role.Normal)
        )
            yield break;
        var finding = Found(
                map.Input,
                $"{map.FileText} is a normal map; {map.Material.Name} reads it as a bump.",
                "normal map is read as a bump",
                "normal maps are read as bumps"
            )
            .With(new PictureEvidence(map.Use.Reference))
            // A name alone is no more than a question.
            .At(map.Pixels is null && !map.Reading(scene).NameCounts ? Severity.Note : Severity.Blocker);
        if (map.Pixels is { } pixels)
            finding = finding.With(new NumberEvidence("pixels that are unit vectors", Math.Round(pixels.UnitLength * 100, 1), "%", 0, 30));
        var normal = throughNode ? map.Input.Name : map.Material.NameOf(Role.Normal);
        if (normal is null || (!throughNode && map.Material.Input(normal)?.IsConnected == true))
            yield return finding.Decide("The model has no free normal input; take the map out, or bake it into a height.");
        else
        {
            var use = map.Use with { Channels = Channels.Rgb, Scale = [] };
            ImmutableArray<Edit> edits = throughNode
                ? [new SetImage(map.Material.Name, normal, null, use)]
                : [map.Disconnect(), new SetImage(map.Material.Name, normal, null, use)];
            yield return finding
                .With(new WireEvidence(map.Use.Reference, map.Channel, map.Input.Name, normal))
                .Fix($"Connect it to {normal} as a normal map", map.Pixels is not null && map.Role == Role.Normal ? 0.94 : 0.8, edits);
        }
    }
}
