namespace RootCall.Core.Audit.Rules;

public sealed class EmptyMaterial : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.empty-material", "A material without a surface shader", Severity.Warning)
        {
            Expects = "Every material has a surface shader.",
            Why = "It looks as if it were assigned, and shows the renderer's fallback.",
            Source = "UsdShade, “Material outputs”; MaterialX 1.38, “Material nodes”.",
            Evidence = "Its graph has no surface shader. Silent in OBJ, where a material without its library is an absent one.",
            Example = Example.Mtlx("""<surfacematerial name="lid_tin" type="material"/>"""),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene) =>
        from material in scene.Materials
        where material.Type.Length == 0 && !scene.IsFormat("obj")
        select Found(
                material,
                $"{material.Name} has no surface shader; {Used(material)}.",
                "material has no surface shader",
                "materials have no surface shader"
            )
            .Decide("Assign another material, or give it a shader where it was made.");

    private static string Used(MaterialView material) =>
        material.Users.Length switch
        {
            0 => "nothing wears it",
            1 => $"{material.Users[0].Mesh.Name} wears it",
            var n => $"{n} meshes wear it",
        };
}
