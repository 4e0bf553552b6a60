using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class RoleMismatch : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.role-mismatch", "A map in an input it does not belong to", Severity.Blocker)
        {
            Expects = "A map feeds the input that its name, its channels and its values say it is for.",
            Why = "A roughness map in a metalness input turns every rough place into metal.",
            Source = "Common practice; names of inputs by the model's published specification.",
            Fix = "Connects the map to the input it is for when that one is free, reads it as data or colour, and disconnects it here.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    float inputs:metallic.connect = </Looks/tin/map.outputs:r>
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

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (MapRoles.Fits(map) || MapsSwapped.Partner(map) is not null)
            yield break;
        var certainty = MapRoles.Certainty(map);
        if (certainty < 0.5)
            yield break; // Its values speak against its name: wiring.name-and-values-differ tells of that.
        var (role, input) = (map.Role!.Value, map.Input);
        var home = MapRoles.Home(role) is { } h ? input.Material.NameOf(h) : null;
        var free = home is not null && input.Material.Input(home)?.IsConnected != true;
        var finding = Found(
                input,
                $"{map.FileText} is {A(role)} map and feeds {input.Name} of {input.Material.Name}.",
                $"{role.Word()} map feeds {input.What}",
                $"{role.Word()} maps feed {input.What}",
                $"{role.Word()} in {input.What}"
            )
            .With(
                new WireEvidence(map.Use.Reference, map.Channel, input.Name, free ? home : null),
                new PictureEvidence(map.Use.Reference, map.Channel)
            );
        if (map.Stats is { } stats)
            finding = finding.With(
                new NumberEvidence(
                    $"mean of what arrives at {input.Name}",
                    Math.Round(stats.Mean, 3),
                    string.Empty,
                    input.Spec?.Default is [var low] ? low : null,
                    input.Spec?.Default is [var high] ? high : null
                )
            );
        if (!free)
        {
            yield return finding.Fix($"Disconnect it from {input.Name}", Math.Min(certainty, 0.7), map.Disconnect());
            yield break;
        }

        var use = map.Use with { Channels = MapRoles.IsColour(role) || role == Role.Normal ? Channels.Rgb : Channels.R };
        if (scene.IsUsd)
            use = use with { DeclaredSpace = MapRoles.IsData(role) ? "raw" : "sRGB" };
        ImmutableArray<Edit> edits = [map.Disconnect(), new SetImage(input.Material.Name, home!, null, use)];
        yield return finding.Fix($"Move it to {home}; {input.Name} goes back to its value", certainty, edits);
    }

    private static string A(Role role) => role.Word() is ['o' or 'e', ..] word ? $"an {word}" : $"a {role.Word()}";
}
