namespace RootCall.Core.Audit.Rules;

public sealed class MaterialPattern() : PatternRule("material", "materials")
{
    protected override IEnumerable<(string Name, string Id)> Names(AuditScene scene) =>
        scene.Materials.Select(m => (m.Material.Name, m.Material.Id));
}
