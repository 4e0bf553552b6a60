using System.Collections.Immutable;
using RootCall.Core.Edits;

namespace RootCall.Core.Audit.Rules;

public sealed class UvSetAbsent : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.uv-set-absent", "A UV set that the mesh does not carry", Severity.Blocker)
        {
            Expects = "The UV set that a map reads is on the meshes that wear the material.",
            Why = "Every pixel of the mesh gets the same texel.",
            Source = "glTF 2.0, 3.9.2 “texCoord”; UsdPreviewSurface Proposal 2.6, “UsdPrimvarReader”, varname.",
            Evidence = "In COLLADA the only set serves what is bound to nothing.",
            Fix = "Reads the set that the meshes do carry, when they all carry the same one.",
            Example = Example.Gltf(
                """
                {
                  "name": "pot",
                  "pbrMetallicRoughness": {
                    "baseColorTexture": { "index": "textures/pot_basecolor.png", "texCoord": 1 },
                    "roughnessFactor": 0.7
                  }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        var measured = material
            .Users.Where(u => u.Mesh.Unmeasured is null && u.Mesh.UvSets.Length > 0)
            .Select(u => u.Mesh)
            .Distinct()
            .ToList();
        if (measured.Count == 0)
            yield break;
        foreach (var set in material.Maps.Select(m => m.Use.UvSet).Where(s => s.Length > 0).Distinct())
        {
            var without = measured.Where(m => !m.UvSets.Contains(set)).ToList();
            if (without.Count < measured.Count || without.Count == 0)
                continue; // assignment.uv-sets-differ tells of meshes that disagree.
            var there = without.Select(m => m.UvSets[0]).Distinct().ToList();
            var maps = material.Maps.Where(m => m.Use.UvSet == set).ToList();
            var finding = Found(
                    material,
                    $"{material.Name} reads UV set {set}; its meshes carry "
                        + $"{string.Join(", ", without.SelectMany(m => m.UvSets).Distinct())}.",
                    $"material reads UV set {set}, which its meshes do not carry",
                    $"materials read UV set {set}, which their meshes do not carry",
                    set
                )
                .With(
                    new ValueEvidence("UV set", set, there.Count == 1 ? there[0] : null),
                    new TextEvidence($"Meshes: {string.Join(", ", without.Take(6).Select(m => m.Name))}.")
                );
            ImmutableArray<Edit> edits = scene.IsUsd ? [] : [.. maps.Select(m => m.Read(u => u with { UvSet = there[0] }))];
            yield return there.Count == 1 && edits.Length > 0
                ? finding.Fix($"Read {there[0]}", 0.85, edits)
                : finding.Decide("Choose the set, or bring the mesh in with it.");
        }
    }
}
