namespace RootCall.Core.Audit.Rules;

public sealed class AbsentMaterial : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.absent-material", "An assigned material that does not exist", Severity.Blocker)
        {
            Expects = "Every material that is assigned is defined.",
            Why = "The mesh renders with whatever the renderer falls back to.",
            Source = "Wavefront OBJ, “usemtl”; MaterialX 1.38, “Look elements”; glTF 2.0, 3.7.2.1.",
            Fix = "Assigns the material whose name is the same but for case and separators, when there is exactly one.",
            Example = Example.Mtlx(
                """
                <standard_surface name="SR_tin" type="surfaceshader"/>
                <surfacematerial name="tin_leaf" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_tin"/>
                </surfacematerial>
                """
            ) with
            {
                Meshes = [new("leaf", "Tin-Leaf")],
            },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        var defined = scene
            .Everything.Where(m => !scene.IsFormat("obj") || m.Type.Length > 0)
            .SelectMany(m => new[] { m.Material.Name, m.Material.Id })
            .ToHashSet(StringComparer.Ordinal);
        var bySqueezed = scene.Materials.Where(m => defined.Contains(m.Material.Name)).ToLookup(m => Squeeze(m.Material.Name));
        var libraryMissing = scene.Report.References.Any(r =>
            r.Reference.Kind == Scenes.ReferenceKind.MaterialLibrary && !Muster.ReferenceWords.Answers(r.State)
        );
        foreach (var mesh in scene.Scene.Meshes)
        foreach (var part in mesh.Parts.Where(p => p.Material.Length > 0 && !defined.Contains(p.Material)))
        {
            var finding = Found(
                new Target("mesh", mesh.Name, part.Name.Length > 0 ? part.Name : null),
                $"{mesh.Name} calls for material {part.Material}, which is not defined.",
                "assigned material is not defined",
                "assigned materials are not defined"
            );
            if (bySqueezed[Squeeze(part.Material)].ToList() is [var near])
                finding = finding.Fix($"Assign {near.Name}", 0.92, new Edits.AssignMaterial(mesh.Id, part.Name, part.Material, near.Name));
            yield return finding.Fixes.IsEmpty
                ? finding.Decide(
                    libraryMissing ? "A material library does not answer; relink it in Muster first." : "Choose a material for it."
                )
                : finding;
        }
    }

    private static string Squeeze(string name) => string.Concat(name.Where(char.IsLetterOrDigit)).ToLowerInvariant();
}
