namespace RootCall.Core.Audit.Rules;

public sealed class MeshPattern() : PatternRule("mesh", "meshes")
{
    protected override IEnumerable<(string Name, string Id)> Names(AuditScene scene) => scene.Scene.Meshes.Select(m => (m.Name, m.Id));
}
