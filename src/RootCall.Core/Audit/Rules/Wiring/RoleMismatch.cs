using System.Collections.Immutable;
using RootCall.Core.Audit.Roles;
using RootCall.Core.Edits;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class RoleMismatch : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.role-mismatch", "A map in an input it does not belong to", Severity.Blocker)
        {
            Expects = "A map feeds the input that its values, its set and its name say it is for.",
            Why = "A roughness map in a metalness input turns every rough place into metal.",
            Source = "Common practice; names of inputs by the model's published specification.",
            Evidence =
                "Where it is wired, its values, its set and its name are added up (docs/map-roles.md). Two kinds that "
                + "agree make a blocker, values alone a warning, a name alone a note that asks. A colour picture in a colour "
                + "input is right whatever it is called; an input of an unknown shader whose own name says nothing is left "
                + "alone.",
            Fix = "Connects the map to the input it is for when that one is free, reads it as data or colour, and disconnects it here.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    color3f inputs:diffuseColor.connect = </Looks/tin/paint.outputs:rgb>
                    float inputs:metallic.connect = </Looks/tin/map.outputs:r>
                    token outputs:surface
                }
                def Shader "paint" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_basecolor.png@
                    token inputs:sourceColorSpace = "sRGB"
                    float3 outputs:rgb
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
        var reading = map.Reading(scene);
        if ((!reading.IsMisplaced && !reading.IsQuestion) || MapsSwapped.Partner(map, scene) is not null)
            yield break;
        if (map.Input.Factor?.Numbers is { Length: > 0 } factor && factor.All(n => n == 0))
            yield break; // It is switched off.
        if (reading.Wired.Has(EvidenceKind.Name))
            yield break; // Its values speak against its name: wiring.name-and-values-differ tells of that.
        var (rival, input) = (reading.Rival!, map.Input);
        var role = rival.Role!.Value;
        var home = MapRoles.Home(role) is { } h ? input.Material.NameOf(h) : null;
        var free = home is not null && input.Material.Input(home)?.IsConnected != true;
        var finding = Found(
                input,
                reading.IsMisplaced
                    ? $"{map.FileText} is {MapRoles.A(role)} map and feeds {input.Name} of {input.Material.Name}."
                    : $"{map.FileText} feeds {input.Name} of {input.Material.Name}: is it {MapRoles.A(role)} map?",
                $"{role.Word()} map feeds {input.What}",
                $"{role.Word()} maps feed {input.What}",
                $"{role.Word()} in {input.What}"
            )
            .With(
                new WireEvidence(map.Use.Reference, map.Channel, input.Name, free ? home : null),
                new PictureEvidence(map.Use.Reference, map.Channel),
                reading.Evidence
            )
            .At(
                !reading.IsMisplaced ? Severity.Note
                : rival.IsAgreed ? Severity.Blocker
                : rival.Has(EvidenceKind.Pixels) ? Severity.Warning
                : Severity.Note
            );
        var certainty =
            !reading.IsMisplaced ? 0.5
            : rival.IsAgreed ? 0.95
            : 0.7;
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
            var (left, right) = Instead(map, scene);
            yield return finding.Fix(
                right is null ? $"Disconnect it from {input.Name}" : $"Disconnect it; {input.Name} {right}",
                Math.Min(certainty, 0.7),
                left
            );
            yield break;
        }

        var use = map.Use with { Channels = MapRoles.IsColour(role) || role == Role.Normal ? Channels.Rgb : Channels.R };
        if (scene.IsUsd)
            use = use with { DeclaredSpace = MapRoles.IsData(role) ? "raw" : "sRGB" };
        var (here, instead) = Instead(map, scene);
        ImmutableArray<Edit> edits = [.. here, new SetImage(input.Material.Name, home!, null, use)];
        yield return finding.Fix($"Move it to {home}; {input.Name} {instead ?? "goes back to its value"}", certainty, edits);
    }

    /// <summary>What the input is left with: the map of the same set that was made for it, when it lies beside, else nothing.</summary>
    private static (ImmutableArray<Edit> Edits, string? Told) Instead(MapView map, AuditScene scene)
    {
        var own = scene
            .Sets.Beside(map.Name)
            .Where(f =>
                f.Name is { EndsWithRole: true, Role: { } role } && MapRoles.Home(role) == map.Input.Role && f.Beside.Facts is not null
            )
            .OrderByDescending(f => f.Name.Resolution == map.Name.Resolution)
            .FirstOrDefault();
        if (own is null || map.Material.IsGltf && map.Input.Role is Role.Metalness or Role.Roughness)
            return ([map.Disconnect()], null);
        var beside = BesideMap.Of(scene, map.Use.Reference.File, own);
        return (beside.With([map.Read(u => u with { Reference = beside.Key })]), $"reads {own.Name.Text}");
    }
}
