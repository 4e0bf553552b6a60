namespace RootCall.Core.Audit.Rules;

public sealed class UnusedMaterial : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.unused-material", "A material that nothing wears", Severity.Note)
        {
            Expects = "Every material is assigned to something.",
            Why = "Its images are searched, loaded and packed for nothing.",
            Source = "Common practice.",
            Evidence =
                "No part of any mesh, in any variant that is chosen, wears it. Silent in files without meshes and about "
                + "templates that others inherit from.",
            Fix = "Takes the material out where the format can say that.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    token outputs:surface
                }
                """
            ) with
            {
                Meshes = [new("lid", string.Empty)],
            },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        if (scene.Scene.Meshes.IsEmpty)
            yield break; // A library of looks: nothing wears any of them here.
        var templates = scene.Everything.Select(m => m.Material.Template).ToHashSet(StringComparer.Ordinal);
        foreach (var material in scene.Materials.Where(m => m.Users.IsEmpty && m.Type.Length > 0 && !templates.Contains(m.Material.Id)))
            yield return Found(
                    material,
                    $"Nothing wears {material.Name}{(material.Maps.Length > 0 ? $", which calls for {Images(material)}" : string.Empty)}.",
                    "material is unused",
                    "materials are unused"
                )
                .Fix($"Take out {material.Name}", 0.8, new Edits.RemoveMaterial(material.Name));
    }

    private static string Images(MaterialView material) =>
        material.Maps.Select(m => m.Use.Reference).Distinct().Count() is 1
            ? "1 image"
            : $"{material.Maps.Select(m => m.Use.Reference).Distinct().Count()} images";
}
