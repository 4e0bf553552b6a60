using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class WrongPackedChannel : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.wrong-packed-channel", "The wrong channel of a packed map", Severity.Blocker)
        {
            Expects = "A packed map gives each input the channel that the letters of its name say: orm is occlusion, roughness, metalness.",
            Why = "Occlusion read as roughness looks plausible and is wrong everywhere.",
            Source = "glTF 2.0, 3.9.2: roughness in green, metalness in blue; other orders by their letters, common practice.",
            Evidence =
                "The channels are maps of their own, or the set is named in the same manner and feeds what it says. A name "
                + "alone (robot_arm) is a note; a grey image is left alone.",
            Fix = "Takes the right channel.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    float inputs:roughness.connect = </Looks/tin/map.outputs:r>
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_orm.png@
                    token inputs:sourceColorSpace = "raw"
                    float outputs:r
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (
            map.Input.Role is not { } role
            || MapRoles.Packed(map, role) is not { } right
            || map.Channel.Place() is null
            || map.Channel == right
            || map.Pixels?.IsGrey == true
        )
            yield break;
        // Its channels are maps of their own, or its set is named in the same manner; the name alone is no more than a question.
        var sure = map.Pixels?.Alike is < 0.5 || map.Reading(scene).NameCounts;
        var finding = Found(
                map.Input,
                $"{map.Input.Name} of {map.Material.Name} reads {map.Channel.Word()} of {map.FileText}; "
                    + $"its {role.Word()} is in {right.Word()}.",
                $"packed map gives {role.Word()} the wrong channel",
                $"packed maps give {role.Word()} the wrong channel",
                $"{role.Word()} from {map.Channel.Word()}"
            )
            .With(
                new WireEvidence(map.Use.Reference, map.Channel, map.Input.Name, map.Input.Name),
                new PictureEvidence(map.Use.Reference, right)
            )
            .At(sure ? Severity.Blocker : Severity.Note);
        yield return map.Material.IsGltf
            ? finding.Decide(
                $"glTF reads {role.Word()} from {map.Channel.Word()}; the image has to be packed anew in the order occlusion, "
                    + "roughness, metalness."
            )
            : finding.Fix($"Take its {right.Word()}", sure ? 0.95 : 0.6, map.Read(u => u with { Channels = right }));
    }
}
