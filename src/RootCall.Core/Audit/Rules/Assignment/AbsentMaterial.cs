using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class AbsentMaterial : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.absent-material", "An assigned material that does not exist", Severity.Blocker)
        {
            Expects = "Every material that is assigned is defined.",
            Why = "The mesh renders with whatever the renderer falls back to.",
            Source = "Wavefront OBJ, “usemtl”; MaterialX 1.38, “Look elements”; glTF 2.0, 3.7.2.1.",
            Evidence =
                "Where the library did not come, or the file names none, it is told once for the scene; the second is a "
                + "warning. None and (null) in an OBJ stand for no material.",
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
        var absent = scene
            .Scene.Meshes.SelectMany(m => m.Parts.Select(p => (Mesh: m, Part: p)))
            .Where(u =>
                u.Part.Material.Length > 0 && !defined.Contains(u.Part.Material) && !(scene.IsFormat("obj") && IsNone(u.Part.Material))
            )
            .ToList();
        // One reason, told once.
        if (defined.Count == 0 && absent.Count > 0)
        {
            yield return WithoutAny(absent.Select(u => u.Part.Material).Distinct().Count(), libraryMissing, scene);
            yield break;
        }

        foreach (var (mesh, part) in absent)
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

    private Finding WithoutAny(int materials, bool libraryMissing, AuditScene scene) =>
        Found(
                new Target("scene", Path.GetFileName(scene.Scene.Path)),
                Invariant($"{materials:N0} {(materials == 1 ? "material is" : "materials are")} assigned, and none is defined")
                    + (libraryMissing ? ": a material library does not answer." : ": the file names no material library."),
                "scene has none of its materials",
                "scenes have none of their materials",
                "all"
            )
            // Geometry that somebody exported without its materials is often meant so.
            .At(libraryMissing ? Severity.Blocker : Severity.Warning)
            .Decide(
                libraryMissing ? "Relink the library in Muster." : "Ask for the material library, or assign materials where it was made."
            );

    /// <summary>What several exporters write where a mesh has no material (common practice).</summary>
    private static bool IsNone(string name) => name is "None" or "(null)" or "null" or "off";

    private static string Squeeze(string name) => string.Concat(name.Where(char.IsLetterOrDigit)).ToLowerInvariant();
}
