using System.Collections.Immutable;
using RootCall.Core.Edits;

namespace RootCall.Core.Audit.Rules;

public sealed class IdenticalMaterials : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.identical-materials", "Materials that differ only in name", Severity.Note)
        {
            Expects = "One look is one material.",
            Why = "Each copy is compiled, sampled and mended again, and one of them is always forgotten.",
            Source = "Common practice.",
            Evidence =
                "Types, values, wires and images are the same. Silent where an image did not come or a wire leads nowhere: what is "
                + "not known may differ. Where sets.shared-image asks which material wants which file, nothing is merged.",
            Fix = "Assigns the first of them wherever one of the others is worn.",
            Example = Example.Gltf(
                """
                { "name": "brass", "pbrMetallicRoughness": { "baseColorFactor": [0.8, 0.6, 0.2, 1], "roughnessFactor": 0.3 } },
                { "name": "brass copy", "pbrMetallicRoughness": { "baseColorFactor": [0.8, 0.6, 0.2, 1], "roughnessFactor": 0.3 } }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        var contested = SharedImage.Of(scene).Select(s => s.Path).ToHashSet(StringComparer.Ordinal);
        var alike = scene.Materials.Where(m => m.Type.Length > 0 && m.IsWhole).GroupBy(m => m.Print.Look).Where(g => g.Skip(1).Any());
        foreach (var group in alike.SelectMany(g => g.GroupBy(MaterialPrint.LookOf)).Where(g => g.Skip(1).Any()))
        {
            var keep = group.OrderByDescending(m => m.Users.Length).ThenBy(m => m.Name, StringComparer.Ordinal).First();
            foreach (var other in group.Where(m => m != keep && m.Users.Length > 0))
            {
                var edits = other
                    .Users.Select(u => (Edit)new AssignMaterial(u.Mesh.Id, u.Part.Name, u.Part.Material, keep.Name))
                    .Distinct()
                    .ToImmutableArray();
                var finding = Found(
                        other,
                        $"{other.Name} is the same as {keep.Name}; one of them would do for "
                            + $"{keep.Users.Length + other.Users.Length} parts.",
                        "material is the same as another",
                        "materials are the same as others"
                    )
                    .With(new PairEvidence("material", keep.Name, other.Name, "nothing but the name"));
                yield return other.Maps.FirstOrDefault(m => m.Answer?.Resolved is { } path && contested.Contains(path)) is { } shared
                    ? finding.Decide($"Both read {shared.FileText}, and other files of that name exist: say first which is whose.")
                    : finding.Fix($"Assign {keep.Name} in its place", 0.9, edits);
            }
        }
    }
}
