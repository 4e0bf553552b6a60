using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class RoughnessLeftAtDefault : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.roughness-left-at-default", "A roughness that nobody set", Severity.Note)
        {
            Expects = "A painted material has a roughness of its own.",
            Why = "The default is midway for every surface: tin, moss and glaze shine alike.",
            Source = "UsdPreviewSurface Proposal 2.6: roughness 0.5 by default; Standard Surface 1.0.1: 0.2; glTF 2.0: 1.",
            Evidence = "A base colour map and no word of roughness. Writers leave out what is the default, so it is a note.",
            Example = Example.Gltf(
                """{ "name": "pot", "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/pot_basecolor.png" } } }"""
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            material.Role(Role.BaseColour)?.Maps is not [_, ..]
            || material.NameOf(Role.Roughness) is not { } name
            || material.Type.StartsWith("mtl-", StringComparison.Ordinal)
        )
            yield break;
        if (material.Maps.Any(m => m.Role is Role.Roughness or Role.Glossiness or Role.Packed or Role.MetallicRoughness))
            yield break; // It has one, on another wire.
        var input = material.Role(Role.Roughness);
        if (input is { IsConnected: true } or { Input.Value: not null } || material.Number(Role.Roughness) is not { } standard)
            yield break;
        yield return Found(
                new Target("input", material.Name, name),
                Invariant($"{name} of {material.Name} is the model's default, {standard:0.##}, beside a painted base colour."),
                "roughness was left at its default",
                "roughness values were left at their default"
            )
            .With(new NumberEvidence(name, standard, string.Empty))
            .Decide("Connect its roughness map, or set a value for it.");
    }
}
